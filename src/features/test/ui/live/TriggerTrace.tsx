"use client";

import { say } from "@/features/test/words/words";
import { figure } from "@/text/format";
import { percent } from "@/text/measures";
import { coordinate } from "@/ui/plan/coordinate";
import { Drawing } from "@/ui/plan/Drawing";
import { INK } from "@/ui/plan/inks";

/** A trigger's travel as it is pulled: the last seconds as a line, now as a bar, and how high each pull came. */

const FIELD = { width: 460, height: 220, top: 16, bottom: 196, line: 330, bar: 350, heights: 400 };
const SHOWN_MS = 4000;

type Props = { now: number; trail: readonly (readonly [number, number])[]; heights: readonly number[] };

export function TriggerTrace({ now, trail, heights }: Props) {
  const last = trail.at(-1)?.[0] ?? 0;
  const x = (t: number) => FIELD.line * (1 - (last - t) / SHOWN_MS);
  const y = (v: number) => FIELD.bottom - v * (FIELD.bottom - FIELD.top);
  const label = [
    say("whereTheTriggerIs"),
    heights.length > 0 ? say("pullsCame", { heights: heights.map(percent).join(", ") }) : "",
  ]
    .filter(Boolean)
    .join("; ");
  return (
    <Drawing extent={{ x: 0, y: 0, width: FIELD.width, height: FIELD.height }} label={label} role="img">
      {() => (
        <>
          <path
            d={`M0 ${y(0)}H${FIELD.width}M0 ${y(1)}H${FIELD.width}`}
            stroke={INK.ground}
            strokeWidth={1.5}
          />
          <polyline
            points={trail
              .filter(([t]) => last - t <= SHOWN_MS)
              .map(([t, v]) => `${coordinate(x(t))},${coordinate(y(v))}`)
              .join(" ")}
            fill="none"
            stroke={INK.signal}
            strokeWidth={2.5}
          />
          <rect x={FIELD.bar} width={26} y={y(1)} height={y(0) - y(1)} fill="none" stroke={INK.line} />
          <rect x={FIELD.bar} width={26} y={y(now)} height={y(0) - y(now)} fill={INK.signal} />
          {heights.map((h, i) => (
            <path
              key={i}
              d={`M${FIELD.heights - 18} ${y(h)}H${FIELD.heights}`}
              stroke={INK.text}
              strokeWidth={2.5}
            />
          ))}
          {heights.length > 0 && (
            <g fontSize={15} fontWeight={700} fill={INK.text}>
              <text x={FIELD.heights + 6} y={y(Math.max(...heights)) + 5}>
                {figure(Math.max(...heights) * 100)}
              </text>
              {Math.max(...heights) - Math.min(...heights) > 0.05 && (
                <text x={FIELD.heights + 6} y={y(Math.min(...heights)) + 5}>
                  {figure(Math.min(...heights) * 100)}
                </text>
              )}
            </g>
          )}
        </>
      )}
    </Drawing>
  );
}
