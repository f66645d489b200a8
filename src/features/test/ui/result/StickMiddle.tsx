"use client";

import type { StickResult } from "@/core/analyse/analyse";
import type { Limits } from "@/core/grade/limits";
import type { Plots } from "@/core/plots/plots";
import { say } from "@/features/test/words/words";
import { DIRECTION_WORDS, percent } from "@/text/measures";
import { directionOf } from "@/core/signal/outer";
import { Drawing } from "@/ui/plan/Drawing";
import { INK } from "@/ui/plan/inks";
import type { Healthy } from "@/features/test/readings";

/**
 * The middle of a stick, brought near: the cloud at rest with its spread along each axis, and each place at which it came
 * to rest, with a tail towards where it was let go; a healthy one in grey behind.
 */

type Props = {
  id: string;
  result: StickResult;
  plot: Plots["sticks"][string];
  limits: Limits["stick"];
  healthy: Healthy;
};
type Points = readonly (readonly [number, number])[];

const farthest = (points: Points): number => Math.max(0, ...points.map(([x, y]) => Math.hypot(x, y)));

/** How far the drawing goes from the middle: to all that lies there, in steps of 5 %, and past the limits. */
export function middleReach(plot: Props["plot"], limits: Limits["stick"]): number {
  const far = Math.max(limits.safeDeadZone.C, farthest(plot.rest), farthest(plot.settled));
  return Math.min(1, Math.ceil(far * 1.15 * 20) / 20);
}

export function StickMiddle({ id, result, plot, limits, healthy }: Props) {
  const span = middleReach(plot, limits);
  const worst = plot.settled.reduce(
    (far, [x, y], i) => (Math.hypot(x, y) > Math.hypot(...plot.settled[far]!) ? i : far),
    0,
  );
  const from = plot.letGoAt[worst];
  const label = [
    say("middleOfTheStick"),
    say("restsWithin", { far: percent(farthest(plot.rest)) }),
    result.restNoiseBy
      ? say("noiseByAxis", { x: percent(result.restNoiseBy[0]), y: percent(result.restNoiseBy[1]) })
      : "",
    plot.settled.length > 0
      ? say("letGoSettles", { times: plot.settled.length, far: percent(farthest(plot.settled)) })
      : "",
    from ? say("worstFrom", { direction: DIRECTION_WORDS[directionOf(from[0], from[1])] }) : "",
  ]
    .filter(Boolean)
    .join("; ");
  const sound = healthy?.plots.sticks[id];
  return (
    <Drawing extent={{ x: -span, y: -span, width: 2 * span, height: 2 * span }} label={label} role="img" zoom>
      {(scale) => (
        <>
          <path d={`M${-span} 0H${span}M0 ${-span}V${span}`} stroke={INK.ground} strokeWidth={1 / scale} />
          <Ring r={limits.safeDeadZone.A} scale={scale} colour={INK.good} />
          <Ring r={limits.safeDeadZone.C} scale={scale} colour={INK.fail} dashed />
          {sound && (
            <g fill={INK.ground}>
              {[...sound.rest, ...sound.settled].map(([x, y], i) => (
                <circle key={i} cx={x} cy={y} r={2.5 / scale} />
              ))}
            </g>
          )}
          <g fill={INK.signal} fillOpacity={0.5}>
            {plot.rest.map(([x, y], i) => (
              <circle key={i} cx={x} cy={y} r={1.6 / scale} />
            ))}
          </g>
          <Spread rest={plot.rest} edge={span} scale={scale} />
          {plot.settled.map(([x, y], i) => (
            <Settled key={i} at={[x, y]} from={plot.letGoAt[i]} limit={limits.safeDeadZone.C} scale={scale} />
          ))}
        </>
      )}
    </Drawing>
  );
}

function Ring({ r, scale, colour, dashed }: { r: number; scale: number; colour: string; dashed?: boolean }) {
  const size = 12 / scale;
  return (
    <>
      <circle
        r={r}
        fill="none"
        stroke={colour}
        strokeWidth={1.5 / scale}
        strokeDasharray={dashed ? `${4 / scale} ${4 / scale}` : undefined}
      />
      <text x={r * 0.71} y={r * 0.71 + size} fontSize={size} fill={INK.line}>
        {percent(r)}
      </text>
    </>
  );
}

/** From where to where the cloud lies along each axis, as bars at the lower and the left edge. */
function Spread({ rest, edge, scale }: { rest: Points; edge: number; scale: number }) {
  if (rest.length === 0) return null;
  const [low, high] = [0, 1]
    .map((axis) => rest.map((p) => p[axis]!))
    .map((v) => [Math.min(...v), Math.max(...v)]) as [number[], number[]];
  const at = edge - 6 / scale;
  const least = 2 / scale;
  const bar = (a: number, b: number) => [
    a - Math.max(0, least - (b - a)) / 2,
    b + Math.max(0, least - (b - a)) / 2,
  ];
  const [x0, x1] = bar(low[0]!, low[1]!);
  const [y0, y1] = bar(high[0]!, high[1]!);
  return <path d={`M${x0} ${at}H${x1}M${-at} ${y0}V${y1}`} stroke={INK.signal} strokeWidth={5 / scale} />;
}

/** Where it came to rest, with a tail towards where it was let go; strong where it lies too far out. */
function Settled({
  at: [x, y],
  from,
  limit,
  scale,
}: {
  at: readonly [number, number];
  from: readonly [number, number] | undefined;
  limit: number;
  scale: number;
}) {
  const colour = Math.hypot(x, y) > limit ? INK.fail : INK.text;
  const far = from ? Math.hypot(...from) : 0;
  const tail = 16 / scale;
  return (
    <g>
      {from && far > 0 && (
        <path
          d={`M${x} ${y}l${(from[0] / far) * tail} ${(from[1] / far) * tail}`}
          stroke={colour}
          strokeWidth={1.5 / scale}
        />
      )}
      <circle cx={x} cy={y} r={3.5 / scale} fill={colour} />
    </g>
  );
}
