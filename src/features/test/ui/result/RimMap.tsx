import Box from "@mui/material/Box";

import { RIM_SIDES } from "@/core/guide/plan";
import { codeWords } from "@/words/codes";
import { say } from "@/features/test/words/words";
import { coordinate } from "@/ui/plan/coordinate";
import { Drawing } from "@/ui/plan/Drawing";
import { INK } from "@/ui/plan/inks";

const AT: readonly (readonly [x: number, y: number, anchor: "middle" | "start" | "end"])[] = [
  [0, -31, "middle"],
  [33, 4, "middle"],
  [0, 40, "middle"],
  [-33, 4, "middle"],
];
const WEDGE = (i: number) => {
  const a = (-135 + i * 90) * (Math.PI / 180);
  const b = a + Math.PI / 2;
  const p = (r: number, t: number) => `${coordinate(r * Math.cos(t))} ${coordinate(r * Math.sin(t))}`;
  return `M${p(24, a)}L${p(46, a)}A46 46 0 0 1 ${p(46, b)}L${p(24, b)}A24 24 0 0 0 ${p(24, a)}Z`;
};

/** Misses by place, drawn on the button: the middle, and the four sides of its rim. */
export function RimMap({
  asked,
  missed,
  middle,
  size = 170,
}: {
  asked: readonly number[];
  missed: readonly number[];
  middle?: { asked: number; missed: number };
  size?: number;
}) {
  const words = RIM_SIDES.map((s, i) =>
    say("sIOfI2Missed", { s: codeWords(s), i: String(missed[i]), i2: String(asked[i]) }),
  ).join(", ");
  return (
    <Box sx={{ width: size, height: size }}>
      <Drawing
        extent={{ x: -50, y: -50, width: 100, height: 100 }}
        role="img"
        label={`${middle ? say("middleMissedOfAskedMissed", { missed: middle.missed, asked: middle.asked }) : ""}${words}`}
      >
        {() => (
          <>
            {AT.map(([x, y], i) => (
              <g key={i}>
                <path
                  d={WEDGE(i)}
                  fill={missed[i] ? INK.fail : INK.paper}
                  stroke={INK.line}
                  strokeWidth={1}
                  strokeDasharray={asked[i] ? undefined : "3 2"}
                />
                <text
                  x={x}
                  y={y}
                  fontSize={10}
                  fontWeight={700}
                  textAnchor="middle"
                  fill={missed[i] ? INK.onFail : INK.text}
                >
                  {asked[i] ? `${missed[i]}/${asked[i]}` : "–"}
                </text>
              </g>
            ))}
            <circle r={22} fill={middle?.missed ? INK.fail : INK.paper} stroke={INK.line} />
            {middle && (
              <text
                y={4}
                fontSize={11}
                fontWeight={700}
                textAnchor="middle"
                fill={middle.missed ? INK.onFail : INK.text}
              >
                {middle.missed}/{middle.asked}
              </text>
            )}
          </>
        )}
      </Drawing>
    </Box>
  );
}
