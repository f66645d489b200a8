import { median, weightedMedian } from "../math/quantile";
import { noAnswer } from "./dead-halves";
import { type Prepared, type Run, gather, restRuns, runsFor } from "./rows";

/** Every measure of a trigger, in shares of full travel; null where the recording holds no evidence. */
export type TriggerMeasures = {
  restValue: number | null;
  fullPull: number | null;
  pulls: number | null;
  backtrack: number | null;
  largestStep: number | null;
  noAnswer: boolean | null;
};

const RISES = 0.15;
const BACK = 0.05;
const SLOW_MS = 500;
const PULLS_NEEDED = 3;
const BACKTRACK_MS = 50;
const NEAR = 0.05;
const HELD_MS = 100;
/** Of so many held pulls the lowest may have been the hand's. */
const ENOUGH_TO_LEAVE_ONE = 6;
const LOCAL_MS = 150; // "local" speed: the intervals that begin within this time of the one looked at

/**
 * One pull: the last row at rest before it, the first row at its highest value, and that value; held when it
 * stayed near its highest for a moment, so that a hand's half pull on the way is no end of travel.
 */
export type Pull = { from: number; peak: number; highest: number; slow: boolean; held: boolean };

/** Whether a pull's rows lie within 0.05 of its highest value for 100 ms in one piece. */
function isHeld(t: Float64Array, v: Float64Array, from: number, to: number, highest: number): boolean {
  let since = -1;
  for (let i = from; i < to; i++) {
    if (v[i]! < highest - NEAR) since = -1;
    else if (since < 0) since = i;
    if (since >= 0 && t[i]! - t[since]! >= HELD_MS) return true;
  }
  return false;
}

/** Pulls that rise at least 0.15 above rest and come back within 0.05 of it. */
export function findPulls(t: Float64Array, v: Float64Array, runs: readonly Run[], rest: number): Pull[] {
  const pulls: Pull[] = [];
  for (const run of runs) {
    let from = -1;
    let peak = -1;
    for (let i = run.from; i < run.to; i++) {
      const value = v[i]!;
      if (value <= rest + BACK) {
        if (peak >= 0 && v[peak]! >= rest + RISES) {
          const highest = v[peak]!;
          const slow = t[peak]! - t[from]! >= SLOW_MS;
          pulls.push({ from, peak, highest, slow, held: isHeld(t, v, from, i, highest) });
        }
        from = i;
        peak = -1;
      } else if (from >= 0 && (peak < 0 || value > v[peak]!)) peak = i;
    }
  }
  return pulls;
}

/** The largest fall within any 50 ms of the way up. */
function backtrackOf(t: Float64Array, v: Float64Array, { from, peak }: Pull): number {
  let worst = 0;
  let tail = from;
  for (let i = from + 1; i <= peak; i++) {
    while (t[i]! - t[tail]! > BACKTRACK_MS) tail++;
    for (let j = tail; j < i; j++) worst = Math.max(worst, v[j]! - v[i]!);
  }
  return worst;
}

/**
 * The lowest of the held pulls' highest values: one that stops short is a fault also where two others do not.
 * Of six or more the lowest is left out, since a hand may once have held half way. Null below three.
 */
export function fullPullOf(pulls: readonly Pull[]): number | null {
  const heights = pulls
    .filter((pull) => pull.held)
    .map((pull) => pull.highest)
    .sort((a, b) => a - b);
  if (heights.length < PULLS_NEEDED) return null;
  return heights[heights.length >= ENOUGH_TO_LEAVE_ONE ? 1 : 0]!;
}

/**
 * The largest rise between consecutive distinct samples beyond what the local speed explains in the time
 * since the previous row, at least the usual time between changes: a value that sticks and then leaps must
 * not explain its leap by the time for which it stuck.
 */
function largestLeap(t: Float64Array, v: Float64Array, { from, peak }: Pull): number {
  const distinct: number[] = [];
  for (let i = from; i <= peak; i++) if (i === from || v[i] !== v[i - 1]) distinct.push(i);
  const times = distinct.slice(1).map((i, k) => t[i]! - t[distinct[k]!]!);
  const usual = median(times);
  const speeds = times.map((dt, k) => (dt > 0 ? (v[distinct[k + 1]!]! - v[distinct[k]!]!) / dt : 0));
  let worst = 0;
  let lo = 0;
  let hi = 0;
  for (let k = 0; k < speeds.length; k++) {
    const start = t[distinct[k]!]!;
    const end = distinct[k + 1]!;
    const took = Math.max(usual, t[end]! - t[end - 1]!);
    const rise = v[distinct[k + 1]!]! - v[distinct[k]!]!;
    while (t[distinct[lo]!]! < start - LOCAL_MS) lo++;
    while (hi < speeds.length && t[distinct[hi]!]! <= start + LOCAL_MS) hi++;
    if (rise <= worst) continue; // the local speed can only lower it
    const local = Math.max(0, median(speeds.slice(lo, hi)));
    worst = Math.max(worst, rise - local * took);
  }
  return worst;
}

/** Measures one trigger from its column of values in 0..1. Source: docs/measures.md, "Triggers". */
export function measureTrigger(
  p: Prepared,
  id: string,
  v: Float64Array,
): { measures: TriggerMeasures; pulls: Pull[] } {
  const { t } = p.recording;
  const restRows = restRuns(p, id);
  const restValue = restRows && weightedMedian(gather(v, restRows), gather(p.weights, restRows));
  const runs = runsFor(p, id, "pull");
  const pulls = restValue === null || runs.length === 0 ? null : findPulls(t, v, runs, restValue);
  const slow = pulls?.filter((pull) => pull.slow) ?? [];
  const fullPull = pulls && fullPullOf(pulls);
  return {
    measures: {
      restValue,
      fullPull,
      pulls: pulls?.length ?? null,
      backtrack: pulls?.length ? Math.max(...pulls.map((pull) => backtrackOf(t, v, pull))) : null,
      largestStep:
        fullPull !== null && slow.length && restValue !== null
          ? Math.max(...slow.map((pull) => largestLeap(t, v, pull))) / (fullPull - restValue)
          : null,
      noAnswer: noAnswer(p, runs, (i) => Math.abs(v[i]! - (restValue ?? 0))),
    },
    pulls: pulls ?? [],
  };
}
