import { weightedMedian } from "../math/quantile";
import { type Direction, directionOf } from "./outer";
import type { Point } from "./rest";
import { type Prepared, type Run, sum } from "./rows";

const HELD = 0.8;
const GONE = 0.5;
const NEXT_PUSH = 0.6;
const FALL_MS = 200;
const SETTLE_FROM_MS = 250;
const SETTLE_TO_MS = 600;
const SETTLE_NEEDS_MS = 100;
const STUCK_BEYOND = 0.15;
const STAY_MS = 250;
const STAY_WITHIN = 0.05;

export type Releases = {
  settled: Point[];
  /** where it was still held before each of them */
  letGoAt: Point[];
  neverLetGo: number;
  /** how often it was let go from each direction, whatever came of it */
  from: ReadonlyMap<Direction, number>;
};
export type ReleaseFigures = { releases: number; worst: number; spread: number; stuck: number };

type Track = { t: Float64Array; w: Float64Array; x: Float64Array; y: Float64Array; run: Run };
const radius = ({ x, y }: Track, i: number) => Math.hypot(x[i]!, y[i]!);

/**
 * Finds each release of the `flick` runs and where the stick settled after it. Source: docs/measures.md,
 * "Releases".
 */
export function findReleases(p: Prepared, x: Float64Array, y: Float64Array, runs: readonly Run[]): Releases {
  const settled: Point[] = [];
  const letGoAt: Point[] = [];
  let neverLetGo = 0;
  const from = new Map<Direction, number>();
  const leaves = (d: Direction) => from.set(d, (from.get(d) ?? 0) + 1);
  for (const run of runs) {
    const track: Track = { t: p.recording.t, w: p.weights, x, y, run };
    for (let i = run.from; i < run.to; i++) {
      const isLastHeld = radius(track, i) > HELD && (i + 1 === run.to || radius(track, i + 1) <= HELD);
      if (!isLastHeld) continue;
      const gone = firstGone(track, i);
      if (gone !== null) {
        const place = settledPlace(track, i, gone);
        if (place) {
          settled.push(place);
          letGoAt.push([x[i]!, y[i]!]);
          leaves(directionOf(x[i]!, y[i]!));
        }
      } else if (staysAway(track, i)) {
        neverLetGo++;
        leaves(directionOf(x[i]!, y[i]!));
      }
    }
  }
  return { settled, letGoAt, neverLetGo, from };
}

function firstGone(track: Track, held: number): number | null {
  const { t, run } = track;
  for (let i = held + 1; i < run.to && t[i]! - t[held]! <= FALL_MS; i++) {
    const r = radius(track, i);
    if (r > HELD) return null;
    if (r < GONE) return i;
  }
  return null;
}

function settledPlace(track: Track, held: number, gone: number): Point | null {
  const { t, w, x, y, run } = track;
  let from = -1;
  let to = gone;
  for (let i = gone; i < run.to && t[i]! - t[held]! <= SETTLE_TO_MS; i++) {
    if (radius(track, i) > NEXT_PUSH) break;
    if (from < 0 && t[i]! - t[held]! >= SETTLE_FROM_MS) from = i;
    to = i + 1;
  }
  if (from < 0) return null;
  const weights = w.subarray(from, to);
  if (sum(weights) < SETTLE_NEEDS_MS) return null;
  return [weightedMedian(x.subarray(from, to), weights), weightedMedian(y.subarray(from, to), weights)];
}

/**
 * Whether the stick, once below 0.8, stays put at 0.5 or more: it was never let go, or it hangs. A hold that
 * merely trembles about 0.8 is not a fall: the place must lie clearly below the push that led to it.
 */
function staysAway(track: Track, held: number): boolean {
  const { t, x, y, run } = track;
  let peak = 0;
  for (let i = held; i >= run.from && radius(track, i) > NEXT_PUSH; i--)
    peak = Math.max(peak, radius(track, i));
  let start = held + 1;
  for (let i = held + 1; i < run.to; i++) {
    const r = radius(track, i);
    if (r > HELD || r < GONE) return false;
    if (Math.hypot(x[i]! - x[start]!, y[i]! - y[start]!) > STAY_WITHIN) start = i;
    else if (t[i]! - t[start]! >= STAY_MS) return peak - r > STAY_WITHIN;
  }
  return false;
}

/** The figures of the settled places about the rest centre; null when there is nothing to judge. */
export function releaseFigures(
  { settled, neverLetGo }: Pick<Releases, "settled" | "neverLetGo">,
  centre: Point | null,
): ReleaseFigures | null {
  if (settled.length === 0 && neverLetGo === 0) return null;
  if (centre === null)
    return settled.length === 0 ? { releases: 0, worst: NaN, spread: NaN, stuck: neverLetGo } : null;
  const d = settled.map(([x, y]) => Math.hypot(x - centre[0], y - centre[1]));
  return {
    releases: settled.length,
    worst: d.length ? Math.max(...d) : NaN,
    spread: d.length ? Math.sqrt(d.reduce((s, v) => s + v * v, 0) / d.length) : NaN,
    stuck: d.filter((v) => v > STUCK_BEYOND).length + neverLetGo,
  };
}
