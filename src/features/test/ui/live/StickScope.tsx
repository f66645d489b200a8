"use client";

import { HALVES, type Half } from "@/core/signal/dead-halves";
import { AN_OCTANT, type Progress } from "@/core/guide/progress";
import { DIRECTIONS, SECTORS } from "@/core/signal/outer";
import { edgePath } from "@/features/test/ui/result/StickTravel";
import { say } from "@/features/test/words/words";
import { coordinate } from "@/ui/plan/coordinate";
import { Drawing } from "@/ui/plan/Drawing";
import { INK } from "@/ui/plan/inks";

/** Where a stick is, the edge as its circles draw it, and what its step still lacks, about the edge where it lies. */

const EDGE = 1.3;
const OPEN_AT = 1.14;
const TURN = 2 * Math.PI;
const HALF_AT: Record<Half, number> = { right: 0, up: TURN / 4, left: TURN / 2, down: (3 * TURN) / 4 };

type Props = {
  x: number;
  y: number;
  trail: readonly (readonly [number, number])[];
  progress: Progress | null;
};

const at = (angle: number, r: number) =>
  `${coordinate(r * Math.cos(angle))} ${coordinate(-r * Math.sin(angle))}`;
const arc = (from: number, to: number, r: number) => `M${at(from, r)}A${r} ${r} 0 0 0 ${at(to, r)}`;

export function StickScope({ x, y, trail, progress }: Props) {
  const edge = progress?.edge ?? null;
  const letGo = progress?.letGo ?? null;
  const halves = progress?.waiting.code === "sweep-missing" ? progress.waiting.halves : [];
  const label = [
    say("whereTheStickIs"),
    edge ? say("edgeDrawn", { drawn: edge.filter((r) => r !== null).length, all: SECTORS }) : "",
    letGo
      ? say("letGoFromOf", { done: letGo.filter((n) => n >= AN_OCTANT).length, all: DIRECTIONS.length })
      : "",
  ]
    .filter(Boolean)
    .join("; ");
  return (
    <Drawing extent={{ x: -EDGE, y: -EDGE, width: 2 * EDGE, height: 2 * EDGE }} label={label} role="img">
      {(scale) => (
        <>
          <circle r={1} fill="none" stroke={INK.ground} strokeWidth={2 / scale} />
          <circle r={0.08} fill="none" stroke={INK.ground} strokeWidth={1.5 / scale} />
          <path d="M-1.1 0H1.1M0-1.1V1.1" stroke={INK.ground} strokeWidth={1 / scale} />
          {edge && <Edge edge={edge} scale={scale} />}
          {letGo && <LetGo letGo={letGo} scale={scale} />}
          {HALVES.filter((h) => halves.includes(h)).map((h) => (
            <path
              key={h}
              d={arc(HALF_AT[h] - TURN / 12, HALF_AT[h] + TURN / 12, OPEN_AT)}
              fill="none"
              stroke={INK.caution}
              strokeWidth={8 / scale}
            />
          ))}
          <polyline
            points={trail.map(([a, b]) => `${a},${b}`).join(" ")}
            fill="none"
            stroke={INK.signal}
            strokeWidth={2 / scale}
            opacity={0.45}
          />
          <circle cx={x} cy={y} r={9 / scale} fill={INK.signal} />
        </>
      )}
    </Drawing>
  );
}

/** The edge as far as it was drawn, and the parts that are still open. */
const Edge = ({ edge, scale }: { edge: readonly (number | null)[]; scale: number }) => (
  <>
    <path
      d={edgePath(edge)}
      fill="none"
      stroke={INK.text}
      strokeWidth={3 / scale}
      strokeLinejoin="round"
      strokeLinecap="round"
    />
    {edge.map(
      (r, k) =>
        r === null && (
          <path
            key={k}
            d={arc((k * TURN) / SECTORS, ((k + 1) * TURN) / SECTORS, OPEN_AT)}
            fill="none"
            stroke={INK.caution}
            strokeWidth={8 / scale}
          />
        ),
    )}
  </>
);

/** Each of the eight directions with the releases that it asks for: full ones were made, empty ones are open. */
const LetGo = ({ letGo, scale }: { letGo: readonly number[]; scale: number }) =>
  letGo.flatMap((n, d) =>
    Array.from({ length: AN_OCTANT }, (_, i) => {
      const angle = (d * TURN) / DIRECTIONS.length + (i - 0.5) * 0.13;
      const isMade = n > i;
      return (
        <circle
          key={`${d} ${i}`}
          cx={OPEN_AT * Math.cos(angle)}
          cy={-OPEN_AT * Math.sin(angle)}
          r={6 / scale}
          fill={isMade ? INK.text : INK.paper}
          stroke={isMade ? INK.text : INK.caution}
          strokeWidth={3 / scale}
        />
      );
    }),
  );
