"use client";

import Box from "@mui/material/Box";

import { type Curve, curveFrame, type CurveKind, type CurvePoint } from "@/core/plots/curve";
import { percent } from "@/text/measures";
import { curveNote, curveText } from "@/features/release/words/text";
import { say } from "@/features/release/words/words";
import { Drawing } from "@/ui/plan/Drawing";
import { INK } from "@/ui/plan/inks";
import { Block, Words } from "@/ui/kit/layout";

const [W, H] = [300, 84];

/**
 * A stick's edge unrolled over the angle, or a trigger's travel over time: before dashed, now solid. Drawn
 * on the server too.
 */
export function CurvePlot({ curve, kind }: { curve: Curve; kind: CurveKind }) {
  const { place, lines } = curveFrame(kind, curve);
  const at = (p: CurvePoint): [number, number] => {
    const [x, y] = place(p);
    return [x * W, (1 - y) * H];
  };
  const path = (ps: readonly CurvePoint[]) =>
    ps.map((p, i) => `${i ? "L" : "M"}${at(p).map((v) => Math.round(v * 10) / 10).join(" ")}`).join(""); // prettier-ignore
  return (
    <Block around={0.5}>
      <Box sx={{ aspectRatio: `${W} / ${H}`, border: 1, borderColor: "divider", borderRadius: 1 }}>
        <Drawing extent={{ x: 0, y: 0, width: W, height: H }} label={curveText(kind, curve)} role="img">
          {() => (
            <>
              {lines.map(({ value, what }) => {
                const [, y] = at([0, value]);
                return (
                  <g key={what}>
                    <line
                      x1="0"
                      x2={W}
                      y1={y}
                      y2={y}
                      stroke={what === "limit" ? INK.good : INK.ground}
                      strokeWidth="1"
                    />
                    <text
                      x={what === "limit" ? 4 : W - 4}
                      y={what === "limit" ? y + 9 : y - 8}
                      textAnchor={what === "limit" ? "start" : "end"}
                      fontSize="8"
                      fill={what === "limit" ? INK.good : INK.line}
                    >
                      {what === "limit"
                        ? say("gradeAAtLeastValue", { value: percent(value) })
                        : percent(value)}
                    </text>
                  </g>
                );
              })}
              {curve.before.length > 0 && (
                <path
                  d={path(curve.before)}
                  fill="none"
                  stroke={INK.line}
                  strokeWidth="1.4"
                  strokeDasharray="4 3"
                />
              )}
              <path d={path(curve.now)} fill="none" stroke={INK.signal} strokeWidth="2.2" />
            </>
          )}
        </Drawing>
      </Box>
      <Words size="fine" quiet>
        {curveNote(kind, curve)}
      </Words>
    </Block>
  );
}
