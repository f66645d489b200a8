"use client";

import type { TriggerResult } from "@/core/analyse/analyse";
import type { Limits } from "@/core/grade/limits";
import type { Plots } from "@/core/plots/plots";
import { say } from "@/features/test/words/words";
import { figure } from "@/text/format";
import { percent } from "@/text/measures";
import { coordinate } from "@/ui/plan/coordinate";
import { Drawing } from "@/ui/plan/Drawing";
import { INK } from "@/ui/plan/inks";
import type { Healthy } from "@/features/test/readings";

/**
 * A trigger's travel over time, pull by pull, with the place where it leapt, fell back or sagged; a healthy one in grey
 * behind. Drawn in pixels of its own: time to the right, travel upwards.
 */

const SIZE = { width: 310, height: 230 };
const FIELD = { left: 40, top: 12, right: 270, bottom: 196 };

type Marks = Plots["marks"][string];
type Mark = NonNullable<Marks["step"]>;
type Kind = keyof Marks;
const MEASURE_OF: Record<Kind, "largestStep" | "backtrack" | "holdSag"> = {
  step: "largestStep",
  back: "backtrack",
  sag: "holdSag",
};
const WORDS: Record<Kind, (by: string, at: string) => string> = {
  step: (by, at) => say("leapsByAt", { by, at }),
  back: (by, at) => say("fallsBackByAt", { by, at }),
  sag: (by, at) => say("sagsByAt", { by, at }),
};

type Props = {
  id: string;
  result: TriggerResult;
  pulls: Plots["triggers"][string];
  marks: Marks | undefined;
  limits: Limits["trigger"];
  healthy: Healthy;
};

export function TriggerTravel({ id, result, pulls, marks, limits, healthy }: Props) {
  const sound = healthy?.plots.triggers[id] ?? [];
  const longest = Math.max(100, ...[...pulls, ...sound].flat().map(([t]) => t));
  const x = (t: number) => FIELD.left + (t / longest) * (FIELD.right - FIELD.left);
  const y = (v: number) => FIELD.bottom - v * (FIELD.bottom - FIELD.top);
  const lineOf = (pull: readonly (readonly [number, number])[]) =>
    pull.map(([t, v]) => `${coordinate(x(t))},${coordinate(y(v))}`).join(" ");
  const isFault = (kind: Kind) =>
    result.reasons.some((r) => r.measure === MEASURE_OF[kind] && r.grade !== "A" && r.grade !== "untested");
  const shown = (Object.keys(MEASURE_OF) as Kind[]).flatMap((kind) => {
    const mark = marks?.[kind];
    return mark && isFault(kind) ? [{ kind, mark }] : [];
  });
  const figureOf = (kind: Kind) => percent(result[MEASURE_OF[kind]] ?? 0);
  const wordsOf = ({ kind, mark }: { kind: Kind; mark: Mark }) =>
    WORDS[kind](figureOf(kind), percent(mark.from[1]));
  const label = [
    say("pullsOver", {
      pulls: pulls.length,
      top: percent(Math.max(0, ...pulls.flat().map(([, v]) => v))),
      full: percent(limits.fullPull.A),
    }),
    ...shown.map(wordsOf),
  ].join("; ");
  return (
    <Drawing extent={{ x: 0, y: 0, ...SIZE }} label={label} role="img" zoom>
      {() => (
        <>
          <Axes x={x} y={y} longest={longest} />
          <Level y={y(limits.fullPull.A)} colour={INK.good} />
          <Level y={y(limits.fullPull.C)} colour={INK.fail} dashed />
          {sound.map((pull, i) => (
            <polyline key={i} points={lineOf(pull)} fill="none" stroke={INK.ground} strokeWidth={4} />
          ))}
          {pulls.map((pull, i) => (
            <polyline
              key={i}
              points={lineOf(pull)}
              fill="none"
              stroke={INK.signal}
              strokeWidth={2}
              opacity={i === 0 ? 1 : 0.55}
            />
          ))}
          {shown.map((s) => (
            <Place
              key={s.kind}
              from={[x(s.mark.from[0]), y(s.mark.from[1])]}
              to={[x(s.mark.to[0]), y(s.mark.to[1])]}
            >
              {figureOf(s.kind)}
            </Place>
          ))}
        </>
      )}
    </Drawing>
  );
}

function Axes({ x, y, longest }: { x: (t: number) => number; y: (v: number) => number; longest: number }) {
  return (
    <g fontSize={11} fill={INK.line}>
      <path d={`M${FIELD.left} ${FIELD.top}V${FIELD.bottom}H${FIELD.right}`} fill="none" stroke={INK.line} />
      {[0, 0.5, 1].map((v) => (
        <text key={v} x={FIELD.left - 5} y={y(v) + 4} textAnchor="end">
          {figure(v * 100)} %
        </text>
      ))}
      <text x={x(0)} y={FIELD.bottom + 15}>
        0
      </text>
      <text x={FIELD.right} y={FIELD.bottom + 15} textAnchor="end">
        {figure(longest)} ms
      </text>
      <text x={(FIELD.left + FIELD.right) / 2} y={FIELD.bottom + 29} textAnchor="middle">
        {say("fromTheStartOfThePull")}
      </text>
    </g>
  );
}

const Level = ({ y, colour, dashed }: { y: number; colour: string; dashed?: boolean }) => (
  <path
    d={`M${FIELD.left} ${y}H${FIELD.right}`}
    stroke={colour}
    strokeWidth={1}
    strokeDasharray={dashed ? "4 4" : undefined}
  />
);

/** The place of the worst: a bar over its whole height, its figure beside it. */
function Place({
  from: [x0, y0],
  to: [x1, y1],
  children,
}: {
  from: readonly [number, number];
  to: readonly [number, number];
  children: string;
}) {
  const middle = (x0 + x1) / 2;
  const isLeft = middle > (FIELD.left + FIELD.right) / 2;
  return (
    <g>
      <path d={`M${x0} ${y0}L${x1} ${y1}`} stroke={INK.fail} strokeWidth={5} strokeLinecap="round" />
      <text
        x={isLeft ? Math.min(x0, x1) - 8 : Math.max(x0, x1) + 8}
        y={(y0 + y1) / 2 + 5}
        fontSize={15}
        fontWeight={800}
        fill={INK.fail}
        textAnchor={isLeft ? "end" : "start"}
        stroke={INK.paper}
        strokeWidth={4}
        paintOrder="stroke"
      >
        {children}
      </text>
    </g>
  );
}
