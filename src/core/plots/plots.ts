import { z } from "../base/schema";

import type { InputMap } from "../input/input";
import type { Recording } from "../recording/recording";
import { columnsOf, type Evidence } from "../analyse/analyse";
import { answerTo } from "../signal/button";
import { prepare } from "../signal/rows";
import { restCloud } from "../signal/stick";
import type { Pull, Span, TriggerMarks } from "../signal/trigger";

/** What the plots of a result draw, cut down to a size that is kept with the recording. */

const point = z.tuple([z.number(), z.number()]);
/** A place in one of the drawn pulls: from a point of time and value to another. */
const mark = z.strictObject({ pull: z.int(), from: point, to: point });
export const plotsSchema = z.strictObject({
  v: z.literal(1),
  sticks: z.record(
    z.string(),
    z.strictObject({
      rest: z.array(point),
      settled: z.array(point),
      /** where it was let go before each of these; what was kept before it was told has none */
      letGoAt: z.array(point).default([]),
      path: z.array(point),
    }),
  ),
  /** each pull from its start until it was let go, as time in ms and value */
  triggers: z.record(z.string(), z.array(z.array(point))),
  /** where a trigger's travel was worst: its leap, its fall on the way up, its sag while it was held */
  marks: z
    .record(
      z.string(),
      z.strictObject({ step: mark.nullable(), back: mark.nullable(), sag: mark.nullable() }),
    )
    .default({}),
  /** for each cue: ms from cue to press and how long it was held; null for a miss */
  buttons: z.record(z.string(), z.array(z.nullable(point))),
  /** presses asked for and missed on each side of the rim: top, right, bottom, left */
  rims: z
    .record(
      z.string(),
      z.strictObject({ asked: z.array(z.int()).length(4), missed: z.array(z.int()).length(4) }),
    )
    .default({}),
});
export type Plots = z.infer<typeof plotsSchema>;

const MOST_REST = 200;
const MOST_PATH = 400;
const MOST_PULL = 120;
const MOST_PULLS = 5;
const UNMARKED: TriggerMarks = { step: null, back: null, sag: null };

const r4 = (v: number) => Math.round(v * 1e4) / 1e4;

/** At most so many of the items, evenly picked. */
export function thin<T>(items: readonly T[], most: number): T[] {
  if (items.length <= most) return [...items];
  return Array.from({ length: most }, (_, i) => items[Math.floor((i * items.length) / most)]!);
}

/** The first pulls of a trigger and those in which it was worst, with every row that a mark begins or ends at. */
function pullPlots(t: Float64Array, v: Float64Array, all: readonly Pull[], spans: TriggerMarks) {
  const marked = Object.values(spans).filter((s) => s !== null);
  const holds = (pull: Pull, s: Span) => s.from >= pull.from && s.to <= pull.to;
  const drawn = all.filter((pull, i) => i < MOST_PULLS || marked.some((s) => holds(pull, s)));
  const at = (pull: Pull, row: number): [number, number] => [
    Math.round(t[row]! - t[pull.from]!),
    r4(v[row]!),
  ];
  const markOf = (s: Span | null) => {
    const pull = s === null ? -1 : drawn.findIndex((p) => holds(p, s));
    return pull < 0 ? null : { pull, from: at(drawn[pull]!, s!.from), to: at(drawn[pull]!, s!.to) };
  };
  const lines = drawn.map((pull) => {
    const rows = Array.from({ length: pull.to - pull.from + 1 }, (_, i) => pull.from + i);
    const kept = new Set(thin(rows, MOST_PULL));
    for (const s of marked) if (holds(pull, s)) kept.add(s.from).add(s.to);
    return [...kept].sort((a, b) => a - b).map((row) => at(pull, row));
  });
  return { lines, marks: { step: markOf(spans.step), back: markOf(spans.back), sag: markOf(spans.sag) } };
}

/** Picks what the plots need out of a recording and the evidence of its analysis. */
export function plotsOf(r: Recording, map: InputMap, evidence: Evidence): Plots {
  const plots: Plots = { v: 1, sticks: {}, triggers: {}, marks: {}, buttons: {}, rims: {} };
  const p = prepare(r, 0);
  for (const c of map.controls) {
    const columns = columnsOf(r, c);
    if (!columns) continue;
    if ("x" in columns) {
      const moving: [number, number][] = [];
      for (const run of p.runs.filter((x) => r.controlNames[x.control - 1] === c.id))
        for (let i = run.from; i < run.to; i++) moving.push([r4(columns.x[i]!), r4(columns.y[i]!)]);
      plots.sticks[c.id] = {
        rest: thin(restCloud(p, c.id, columns.x, columns.y), MOST_REST).map(([x, y]) => [r4(x), r4(y)]),
        settled: (evidence.sticks[c.id]?.settled ?? []).map(([x, y]) => [r4(x), r4(y)]),
        letGoAt: (evidence.sticks[c.id]?.letGoAt ?? []).map(([x, y]) => [r4(x), r4(y)]),
        path: thin(moving, MOST_PATH),
      };
    } else if (c.kind === "trigger") {
      const pulls = pullPlots(r.t, columns.v, evidence.pulls[c.id] ?? [], evidence.marks[c.id] ?? UNMARKED);
      plots.triggers[c.id] = pulls.lines;
      plots.marks[c.id] = pulls.marks;
    } else {
      const cued = evidence.cued[c.id] ?? [];
      if (cued.length) plots.buttons[c.id] = cued.map(({ cue, press }) => answerTo(cue, press));
      const rim = evidence.rims[c.id] ?? [];
      const of = (some: typeof rim) => [0, 1, 2, 3].map((side) => some.filter((r) => r.side === side).length);
      if (rim.length) plots.rims[c.id] = { asked: of(rim), missed: of(rim.filter((r) => !r.answered)) };
    }
  }
  return plots;
}
