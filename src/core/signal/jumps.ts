import { median } from "../math/quantile";
import type { Point } from "./rest";
import { type Prepared, type Run } from "./rows";

const FLOOR = 0.1;
const NOISE_TIMES = 4;
const PER_SECOND = 25; // faster than any slow hand
const JOIN_MS = 30;
const PAUSE_MS = 250; // a longer hold is a pause, not a slow rate of change
const RELEASE_FROM = 0.8;
const RELEASE_TO = 0.2;
const RELEASE_MS = 200;
const RELEASE_STAYS_MS = 250;

export type Jumps = { count: number; worst: number; at: Point[]; smallestSeen: number };

type Event = { from: number; last: number; worst: number; run: Run };

/** Leaps that no slow hand makes, in the circle and sweep runs. Source: docs/measures.md, "jumps". */
export function findJumps(
  p: Prepared,
  x: Float64Array,
  y: Float64Array,
  runs: readonly Run[],
  rest: { centre: Point; noise: number },
): Jumps {
  const usual = medianChangeMs(p, x, y, runs);
  const threshold = Math.max(FLOOR, NOISE_TIMES * rest.noise);
  const events: Event[] = [];
  const { t } = p.recording;
  for (const run of runs) {
    let open: Event | undefined;
    for (let i = run.from + 1; i < run.to; i++) {
      const dx = x[i]! - x[i - 1]!;
      const dy = y[i]! - y[i - 1]!;
      if (dx * dx + dy * dy <= threshold * threshold) continue;
      const change = Math.hypot(dx, dy);
      if (change / (Math.max(t[i]! - t[i - 1]!, usual) / 1000) <= PER_SECOND) continue;
      if (open && t[i]! - t[open.last]! <= JOIN_MS) {
        open.last = i;
        open.worst = Math.max(open.worst, change);
      } else events.push((open = { from: i - 1, last: i, worst: change, run }));
    }
  }
  const real = events.filter((e) => !isRelease(t, x, y, e, rest.centre));
  return {
    count: real.length,
    worst: real.reduce((m, e) => Math.max(m, e.worst), 0),
    at: real.map((e): Point => [x[e.from]!, y[e.from]!]),
    smallestSeen: Math.max(threshold, (PER_SECOND * usual) / 1000),
  };
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
