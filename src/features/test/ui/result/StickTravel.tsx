"use client";

import type { StickResult } from "@/core/analyse/analyse";
import type { Limits } from "@/core/grade/limits";
import type { Plots } from "@/core/plots/plots";
import { say } from "@/features/test/words/words";
import { percent } from "@/text/measures";
import { coordinate } from "@/ui/plan/coordinate";
import { Drawing } from "@/ui/plan/Drawing";
import { INK } from "@/ui/plan/inks";
import type { Healthy } from "@/features/test/readings";

/**
 * What a stick did over its whole travel, as it did it: its way, the leaps where they happened and along which axis, and
 * how far it reached in eight directions; a healthy one in grey behind.
 */

const EDGE = 1.42;
/** The edge is kept in steps of 5 degrees from the right, turning towards up. */
const STEP = 5;
const DIRECTIONS = 8;

/** The least reach about each of the eight directions, from the right over up; null where it was not there. */
export function reachAtEight(profile: readonly (number | null)[]): (number | null)[] {
  const half = 360 / DIRECTIONS / 2;
  return Array.from({ length: DIRECTIONS }, (_, d) => {
    const about = profile.filter((_, k) => {
      const away = Math.abs(((k * STEP + STEP / 2 - (d * 360) / DIRECTIONS + 540) % 360) - 180);
      return away <= half;
    });
    const there = about.filter((r) => r !== null);
    return there.length > 0 ? Math.min(...there) : null;
  });
}

/** The edge as a line about the middle, broken where it was not reached. */
export function edgePath(profile: readonly (number | null)[]): string {
  const n = profile.length;
  let d = "";
  for (let k = 0; k <= n; k++) {
    const r = profile[k % n];
    if (r === null || r === undefined) continue;
    const angle = ((((k % n) + 0.5) * STEP) / 180) * Math.PI;
    const joins = k > 0 && profile[k - 1] !== null;
    d += `${joins ? "L" : "M"}${coordinate(r * Math.cos(angle))} ${coordinate(-r * Math.sin(angle))}`;
  }
  return d;
}

type Props = {
  id: string;
  result: StickResult;
  plot: Plots["sticks"][string];
  limits: Limits["stick"];
  healthy: Healthy;
};

export function StickTravel({ id, result, plot, limits, healthy }: Props) {
  const reach = result.profile ? reachAtEight(result.profile) : null;
  const leaps = result.jumps?.at ?? [];
  const axes = result.jumps?.axis ?? [];
  const along = (axis: "x" | "y") => axes.filter((a) => a === axis).length;
  const sound = healthy?.analysis.controls[id];
  const label = [
    say("wayOfTheStick"),
    leaps.length > 0 ? say("leapsAlong", { x: along("x"), y: along("y") }) : say("noLeaps"),
    reach
      ? say("reachesAtEight", { reach: reach.map((r) => (r === null ? "-" : percent(r))).join(", ") })
      : "",
  ]
    .filter(Boolean)
    .join("; ");
  return (
    <Drawing extent={{ x: -EDGE, y: -EDGE, width: 2 * EDGE, height: 2 * EDGE }} label={label} role="img" zoom>
      {(scale) => (
        <>
          <path d="M-1 0H1M0 -1V1" stroke={INK.ground} strokeWidth={1 / scale} />
          {sound?.kind === "stick" && sound.profile ? (
            <path d={edgePath(sound.profile)} fill="none" stroke={INK.ground} strokeWidth={6 / scale} />
          ) : (
            <circle r={1} fill="none" stroke={INK.ground} strokeWidth={6 / scale} />
          )}
          <circle
            r={limits.reachMin.C}
            fill="none"
            stroke={INK.line}
            strokeWidth={1 / scale}
            strokeDasharray={`${4 / scale} ${4 / scale}`}
          />
          <g fill={INK.signal} fillOpacity={0.55}>
            {plot.path.map(([x, y], i) => (
              <circle key={i} cx={x} cy={y} r={1.3 / scale} />
            ))}
          </g>
          {result.profile && (
            <path d={edgePath(result.profile)} fill="none" stroke={INK.signal} strokeWidth={1.5 / scale} />
          )}
          {leaps.map(([x, y], i) => (
            <Leap key={i} x={x} y={y} axis={axes[i] ?? "x"} scale={scale} />
          ))}
          {reach && <Reach reach={reach} limits={limits} scale={scale} />}
        </>
      )}
    </Drawing>
  );
}

/** A leap where it began: a bar along its axis, broken in the middle where the stick said nothing. */
function Leap({ x, y, axis, scale }: { x: number; y: number; axis: "x" | "y"; scale: number }) {
  const [long, gap] = [13 / scale, 3 / scale];
  const d =
    axis === "x"
      ? `M${x - long} ${y}H${x - gap}M${x + gap} ${y}H${x + long}`
      : `M${x} ${y - long}V${y - gap}M${x} ${y + gap}V${y + long}`;
  return <path d={d} stroke={INK.fail} strokeWidth={3.5 / scale} strokeLinecap="round" />;
}

/** How far it reached, in figures about the edge; strong where it is too short. */
function Reach({
  reach,
  limits,
  scale,
}: {
  reach: readonly (number | null)[];
  limits: Limits["stick"];
  scale: number;
}) {
  const size = 14 / scale;
  return reach.map((r, d) => {
    const angle = (d * 2 * Math.PI) / DIRECTIONS;
    const far = 1.24;
    const [x, y] = [far * Math.cos(angle), -far * Math.sin(angle)];
    const colourOf = () => {
      if (r === null) return INK.line;
      if (r < limits.reachMin.C) return INK.fail;
      return r < limits.reachMin.A ? INK.caution : INK.text;
    };
    const isShort = r !== null && r < limits.reachMin.C;
    return (
      <text
        key={d}
        x={x}
        y={y + size * 0.36}
        fontSize={isShort ? size * 1.25 : size}
        fontWeight={isShort ? 800 : 600}
        textAnchor="middle"
        fill={colourOf()}
      >
        {r === null ? "–" : Math.round(r * 100)}
      </text>
    );
  });
}
