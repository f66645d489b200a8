"use client";

import type { StickResult } from "@/core/analyse/analyse";
import type { Limits } from "@/core/grade/limits";
import type { Plots } from "@/core/plots/plots";
import { say } from "@/features/test/words/words";
import { percent } from "@/text/measures";
import { Drawing } from "@/ui/plan/Drawing";

/**
 * What a stick did, as it did it: its way, the leaps where they happened, the cloud at rest, where it came to rest when it
 * was let go, and how far it reached in eight directions; a healthy one in grey behind.
 */

const EDGE = 1.42;
const HEALTHY = "var(--mui-palette-divider)";
const LINE = "var(--mui-palette-text-secondary)";
const INK = "var(--mui-palette-text-primary)";
const SIGNAL = "var(--mui-palette-primary-main)";
const FAIL = "var(--mui-palette-fail-main)";
const CAUTION = "var(--mui-palette-caution-main)";

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

type Props = {
  result: StickResult;
  plot: Plots["sticks"][string];
  limits: Limits["stick"];
};

export function StickEvidence({ result, plot, limits }: Props) {
  const reach = result.profile ? reachAtEight(result.profile) : null;
  const leaps = result.jumps?.at ?? [];
  const axes = result.jumps?.axis ?? [];
  const along = (axis: "x" | "y") => axes.filter((a) => a === axis).length;
  const label = [
    say("wayOfTheStick"),
    leaps.length > 0 ? say("leapsAlong", { x: along("x"), y: along("y") }) : say("noLeaps"),
    say("restsWithin", { far: percent(farthest(plot.rest)) }),
    plot.settled.length > 0
      ? say("letGoSettles", { times: plot.settled.length, far: percent(farthest(plot.settled)) })
      : "",
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
          <Healthy limits={limits} scale={scale} />
          <Dots points={plot.path} r={1.3 / scale} fill={SIGNAL} opacity={0.55} />
          <Dots points={plot.rest} r={1.2 / scale} fill={INK} opacity={0.5} />
          <Settled points={plot.settled} limit={limits.safeDeadZone.C} scale={scale} />
          {leaps.map(([x, y], i) => (
            <Leap key={i} x={x} y={y} axis={axes[i] ?? "x"} scale={scale} />
          ))}
          {reach && <Reach reach={reach} limits={limits} scale={scale} />}
        </>
      )}
    </Drawing>
  );
}

const farthest = (points: readonly (readonly [number, number])[]): number =>
  Math.max(0, ...points.map(([x, y]) => Math.hypot(x, y)));

/** The edge and the rest of a healthy one, and how far one must reach at least. */
const Healthy = ({ limits, scale }: { limits: Limits["stick"]; scale: number }) => (
  <>
    <circle r={1} fill="none" stroke={HEALTHY} strokeWidth={5 / scale} />
    <circle
      r={limits.reachMin.C}
      fill="none"
      stroke={LINE}
      strokeWidth={1 / scale}
      strokeDasharray={`${4 / scale} ${4 / scale}`}
    />
    <circle r={limits.safeDeadZone.A} fill={HEALTHY} fillOpacity={0.6} />
    <path d="M-1 0H1M0 -1V1" stroke={HEALTHY} strokeWidth={1 / scale} />
  </>
);

function Dots({
  points,
  r,
  fill,
  opacity,
}: {
  points: readonly (readonly [number, number])[];
  r: number;
  fill: string;
  opacity: number;
}) {
  return (
    <g fill={fill} fillOpacity={opacity}>
      {points.map(([x, y], i) => (
        <circle key={i} cx={x} cy={y} r={r} />
      ))}
    </g>
  );
}

/** Where it came to rest when it was let go: a line out from the middle, strong where it is too far. */
function Settled({
  points,
  limit,
  scale,
}: {
  points: readonly (readonly [number, number])[];
  limit: number;
  scale: number;
}) {
  return points.map(([x, y], i) => {
    const colour = Math.hypot(x, y) > limit ? FAIL : LINE;
    return (
      <g key={i}>
        <path d={`M0 0L${x} ${y}`} stroke={colour} strokeWidth={1 / scale} />
        <circle cx={x} cy={y} r={3 / scale} fill={colour} />
      </g>
    );
  });
}

/** A leap where it began: a bar along its axis, broken in the middle where the stick said nothing. */
function Leap({ x, y, axis, scale }: { x: number; y: number; axis: "x" | "y"; scale: number }) {
  const [long, gap] = [13 / scale, 3 / scale];
  const d =
    axis === "x"
      ? `M${x - long} ${y}H${x - gap}M${x + gap} ${y}H${x + long}`
      : `M${x} ${y - long}V${y - gap}M${x} ${y + gap}V${y + long}`;
  return <path d={d} stroke={FAIL} strokeWidth={3.5 / scale} strokeLinecap="round" />;
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
      if (r === null) return LINE;
      if (r < limits.reachMin.C) return FAIL;
      return r < limits.reachMin.A ? CAUTION : INK;
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
