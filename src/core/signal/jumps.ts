import { median } from "../math/quantile";
import { aroundMedian, axisLeaps } from "./leaps";
import type { Point } from "./rest";
import { type Prepared, type Run } from "./rows";

const FLOOR = 0.1;
const NOISE_TIMES = 4;
const PER_SECOND = 25; // faster than any slow hand
const LATE_MOST = 5; // of ten thousand rows hardly four in a row are repeated by a link
const OLD = 0.75; // how old a value may be when it is read, in usual times between changes
const LATE_SLACK = 1.25; // a hand that hurries a little
/** As the smallest leap that would have been found: none would. */
export const WHOLE_TRAVEL = 2;
const JOIN_MS = 30;
const PAUSE_MS = 250; // a longer hold is a pause, not a slow rate of change
const RELEASE_FROM = 0.8;
const RELEASE_TO = 0.2;
const RELEASE_MS = 200;
const RELEASE_STAYS_MS = 250;

export type Jumps = {
  /** null where none was seen and the recording is too coarse to tell (grade/seen.ts) */
  count: number | null;
  worst: number;
  /** where each began */
  at: Point[];
  /** along which axis each went */
  axis: Axis[];
  smallestSeen: number;
};
export type Axis = "x" | "y";

type Event = { from: number; last: number; worst: number; run: Run; axis: Axis };

/**
 * Leaps that no slow hand makes, in the circle and sweep runs: single steps that are too fast for a hand, and
 * places that nearly every crossing leaps over. Source: docs/measures.md, "jumps".
 */
export function findJumps(
  p: Prepared,
  x: Float64Array,
  y: Float64Array,
  runs: readonly Run[],
  rest: { centre: Point; noise: number },
): Jumps {
  const usual = medianChangeMs(p, x, y, runs);
  const threshold = Math.max(FLOOR, NOISE_TIMES * rest.noise);
  const moved = movedRows(p, x, y, runs);
  const flow = [axisLeaps(p, x, moved, usual, threshold), axisLeaps(p, y, moved, usual, threshold)];
  const late = lateRows(p.recording.t, x, y, moved, usual, threshold);
  const events = joined(p.recording.t, [
    ...fastSteps(p, x, y, runs, threshold, usual).filter((e) => !late.has(e.last)),
    ...flow.flatMap(({ changes }, axis) =>
      changes.map((c): Event => ({
        from: c.from,
        last: c.row,
        worst: Math.max(0, Math.abs(c.step) - c.flow),
        run: runAt(runs, c.row),
        axis: axis === 0 ? "x" : "y",
      })),
    ),
  ]).filter((e) => !isRelease(p.recording.t, x, y, e, rest.centre));
  return {
    count: events.length,
    worst: events.reduce((m, e) => Math.max(m, e.worst), 0),
    at: events.map((e): Point => [x[e.from]!, y[e.from]!]),
    axis: events.map((e) => e.axis),
    smallestSeen: Math.min(
      WHOLE_TRAVEL,
      Math.max(threshold, Math.min((PER_SECOND * usual) / 1000, Math.max(...flow.map((f) => f.smallest)))),
    ),
  };
}

/** The run that a row lies in, by halving: runs lie in order. */
function runAt(runs: readonly Run[], row: number): Run {
  let lo = 0;
  let hi = runs.length - 1;
  while (lo < hi) {
    const mid = (lo + hi + 1) >> 1;
    if (runs[mid]!.from <= row) lo = mid;
    else hi = mid - 1;
  }
  return runs[lo]!;
}

/**
 * Rows that came late or after repeated ones: what seems too fast is the hand's own way since the last change.
 * Along the way, so that a turning hand explains its chord.
 */
function lateRows(
  t: Float64Array,
  x: Float64Array,
  y: Float64Array,
  moved: readonly number[][],
  usual: number,
  threshold: number,
): Set<number> {
  const late = new Set<number>();
  for (const rows of moved) {
    const way = rows.slice(1).map((row, k) => Math.hypot(x[row]! - x[rows[k]!]!, y[row]! - y[rows[k]!]!));
    const took = rows.slice(1).map((row, k) => Math.max(1e-6, t[row]! - t[rows[k]!]!));
    const speed = way.map((d, k) => d / took[k]!);
    for (let k = 0; k < way.length; k++) {
      if (way[k]! <= threshold) continue;
      const explained =
        LATE_SLACK * aroundMedian(speed, k) * Math.min(LATE_MOST * usual, took[k]! + OLD * usual);
      if (way[k]! <= explained + threshold / 2) late.add(rows[k + 1]!);
    }
  }
  return late;
}

/** Steps faster than any slow hand. */
function fastSteps(
  p: Prepared,
  x: Float64Array,
  y: Float64Array,
  runs: readonly Run[],
  threshold: number,
  usual: number,
): Event[] {
  const events: Event[] = [];
  const { t } = p.recording;
  for (const run of runs)
    for (let i = run.from + 1; i < run.to; i++) {
      const dx = x[i]! - x[i - 1]!;
      const dy = y[i]! - y[i - 1]!;
      if (dx * dx + dy * dy <= threshold * threshold) continue;
      const change = Math.hypot(dx, dy);
      if (change / (Math.max(t[i]! - t[i - 1]!, usual) / 1000) <= PER_SECOND) continue;
      events.push({
        from: i - 1,
        last: i,
        worst: change,
        run,
        axis: Math.abs(dx) >= Math.abs(dy) ? "x" : "y",
      });
    }
  return events;
}

/** Events within 30 ms of each other are one, the earliest of them. */
function joined(t: Float64Array, events: readonly Event[]): Event[] {
  const out: Event[] = [];
  for (const e of [...events].sort((a, b) => a.last - b.last)) {
    const open = out.at(-1);
    if (open && open.run === e.run && t[e.last]! - t[open.last]! <= JOIN_MS) {
      if (e.worst > open.worst) open.axis = e.axis;
      open.worst = Math.max(open.worst, e.worst);
      open.last = e.last;
    } else out.push({ ...e });
  }
  return out;
}

/** The rows at which the stick changed, a list for each stretch without a pause. */
function movedRows(p: Prepared, x: Float64Array, y: Float64Array, runs: readonly Run[]): number[][] {
  const { t } = p.recording;
  const out: number[][] = [];
  for (const run of runs) {
    let open: number[] = [];
    for (let i = run.from + 1; i < run.to; i++) {
      if (x[i] === x[i - 1] && y[i] === y[i - 1]) continue;
      if (open.length && t[i]! - t[open.at(-1)!]! > PAUSE_MS) {
        out.push(open);
        open = [];
      }
      open.push(i);
    }
    if (open.length) out.push(open);
  }
  return out;
}

/** Median time between changes while the stick moves, in ms; 0 when it never changed. */
function medianChangeMs(p: Prepared, x: Float64Array, y: Float64Array, runs: readonly Run[]): number {
  const { t } = p.recording;
  const gaps: number[] = [];
  for (const run of runs) {
    let last = -1;
    for (let i = run.from + 1; i < run.to; i++) {
      if (x[i] === x[i - 1] && y[i] === y[i - 1]) continue;
      const gap = t[i]! - t[last]!;
      if (last >= 0 && gap <= PAUSE_MS) gaps.push(gap);
      last = i;
    }
  }
  return gaps.length === 0 ? 0 : median(gaps);
}

/** A return from above 0.8 to within 0.2 of the rest centre that stays there: the hand let go. */
function isRelease(
  t: Float64Array,
  x: Float64Array,
  y: Float64Array,
  { from, last, run }: Event,
  centre: Point,
): boolean {
  const start = t[from]!;
  let held = false;
  for (let i = from; i >= run.from && start - t[i]! <= RELEASE_MS && !held; i--)
    held = Math.hypot(x[i]!, y[i]!) > RELEASE_FROM;
  if (!held) return false;
  const home = (i: number) => Math.hypot(x[i]! - centre[0], y[i]! - centre[1]) <= RELEASE_TO;
  let i = last;
  while (i < run.to && !home(i) && t[i]! - start <= RELEASE_MS) i++;
  if (i >= run.to || !home(i)) return false;
  const arrived = t[i]!;
  for (; i < run.to && t[i]! - arrived <= RELEASE_STAYS_MS; i++) if (!home(i)) return false;
  return true;
}
