import { z } from "../base/schema";

import type { InputMap } from "../input/input";
import type { Recording } from "../recording/recording";
import { columnsOf, type Evidence } from "../analyse/analyse";
import { prepare } from "../signal/rows";
import { restCloud } from "../signal/stick";

/** What the plots of a result draw, cut down to a size that is kept with the recording. */

const point = z.tuple([z.number(), z.number()]);
export const plotsSchema = z.strictObject({
  v: z.literal(1),
  sticks: z.record(
    z.string(),
    z.strictObject({ rest: z.array(point), settled: z.array(point), path: z.array(point) }),
  ),
  /** each slow pull from its start, as time in ms and value */
  triggers: z.record(z.string(), z.array(z.array(point))),
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
const MOST_PULL = 80;
const MOST_PULLS = 5;

const r4 = (v: number) => Math.round(v * 1e4) / 1e4;

/** At most so many of the items, evenly picked. */
export function thin<T>(items: readonly T[], most: number): T[] {
  if (items.length <= most) return [...items];
  return Array.from({ length: most }, (_, i) => items[Math.floor((i * items.length) / most)]!);
}

/** Picks what the plots need out of a recording and the evidence of its analysis. */
export function plotsOf(r: Recording, map: InputMap, evidence: Evidence): Plots {
  const plots: Plots = { v: 1, sticks: {}, triggers: {}, buttons: {}, rims: {} };
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
        path: thin(moving, MOST_PATH),
      };
    } else if (c.kind === "trigger") {
      plots.triggers[c.id] = (evidence.pulls[c.id] ?? []).slice(0, MOST_PULLS).map((pull) => {
        const rows = Array.from({ length: pull.peak - pull.from + 1 }, (_, i) => pull.from + i);
        return thin(rows, MOST_PULL).map((i): [number, number] => [
          Math.round(r.t[i]! - r.t[pull.from]!),
          r4(columns.v[i]!),
        ]);
      });
    } else {
      const cued = evidence.cued[c.id] ?? [];
      if (cued.length)
        plots.buttons[c.id] = cued.map(({ cue, press }) =>
          press ? [Math.round(press.start - cue), Math.round(Math.min(2000, press.end - press.start))] : null,
        );
      const rim = evidence.rims[c.id] ?? [];
      const of = (some: typeof rim) => [0, 1, 2, 3].map((side) => some.filter((r) => r.side === side).length);
      if (rim.length) plots.rims[c.id] = { asked: of(rim), missed: of(rim.filter((r) => !r.answered)) };
    }
  }
  return plots;
}
