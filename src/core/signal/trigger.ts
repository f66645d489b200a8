import { median, quantile, weightedMedian } from "../math/quantile";
import { noAnswer } from "./dead-halves";
import { type Idle, idleTrigger } from "./idle";
import { type Prepared, type Run, durationOf, gather, quantumOf, restRuns, runsFor } from "./rows";

/** Every measure of a trigger, in shares of full travel; null where the recording holds no evidence. */
export type TriggerMeasures = {
  restValue: number | null;
  fullPull: number | null;
  fullPullMedian: number | null;
  pulls: number | null;
  backtrack: number | null;
  holdSag: number | null;
  largestStep: number | null;
  idle: Idle | null;
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
const RELEASED = 0.25;
const RELEASE_MS = 100;
const SLOW_RELEASE_MS = 400;
const HAND_PER_MS = 0.0004; // a hand that lets go; what sags by itself is slower or comes to an end
const SPEED_SLACK = 1.6;
const FALL_WINDOW_MS = 40;
const OWN_REST_MS = 1950; // a run that carries a verdict of its own
const LOCAL_MS = 150; // "local" speed: the intervals that begin within this time of the one looked at

/**
 * One pull: the last row at rest before it, the first row at its highest value, and that value; held when it
 * stayed near its highest for a moment, so that a hand's half pull on the way is no end of travel.
 */
export type Pull = { from: number; peak: number; to: number; highest: number; slow: boolean; held: boolean };

/** Where a measure found its worst: from one row to another, and how much it was there. */
export type Span = { from: number; to: number; by: number };
/** Where a trigger's travel is worst: the leap on the way up, the fall on the way up, the sag while it was held. */
export type TriggerMarks = { step: Span | null; back: Span | null; sag: Span | null };

/** One-sided 95 % doubts of the measures, each in its own unit; null where nothing was measured. */
export type TriggerDoubt = {
  restValue: number;
  fullPull: number;
  backtrack: number;
  holdSag: number;
  largestStep: number;
};

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
          pulls.push({ from, peak, to: i, highest, slow, held: isHeld(t, v, from, i, highest) });
        }
        from = i;
        peak = -1;
      } else if (from >= 0 && (peak < 0 || value > v[peak]!)) peak = i;
    }
  }
  return pulls;
}

/** The largest fall within any 50 ms of the way up. */
function backtrackOf(t: Float64Array, v: Float64Array, { from, peak }: Pull): Span {
  let worst: Span = { from, to: from, by: 0 };
  let tail = from;
  for (let i = from + 1; i <= peak; i++) {
    while (t[i]! - t[tail]! > BACKTRACK_MS) tail++;
    for (let j = tail; j < i; j++)
      if (v[j]! - v[i]! > worst.by) worst = { from: j, to: i, by: v[j]! - v[i]! };
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
 * The largest fall below a pull's highest value before its release begins. The release is the last fall by
 * 0.25 and the 100 ms before it, and as much before these as the value already fell at a hand's speed: a slow
 * hand is no sag.
 */
function holdSagOf(t: Float64Array, v: Float64Array, { peak, to, highest }: Pull): Span {
  let gone = to;
  while (gone > peak && v[gone - 1]! < highest - RELEASED) gone--;
  let end = gone;
  while (end > peak && t[gone]! - t[end]! < RELEASE_MS) end--;
  const hands = (ms: number) => fallsAt(t, v, end, peak, ms) > HAND_PER_MS;
  while (end > peak && t[gone]! - t[end]! < SLOW_RELEASE_MS && hands(FALL_WINDOW_MS)) end--;
  // the last window still held the first moments of the release
  const begun = t[end]!;
  while (end > peak && begun - t[end]! < FALL_WINDOW_MS && hands(FALL_WINDOW_MS / 4)) end--;
  let lowest = peak;
  for (let i = peak; i <= end; i++) if (v[i]! < v[lowest]!) lowest = i;
  return { from: peak, to: lowest, by: highest - v[lowest]! };
}

/** How fast the value falls over so many ms before a row, per ms. */
function fallsAt(t: Float64Array, v: Float64Array, row: number, first: number, ms: number): number {
  let i = row;
  while (i > first && t[row]! - t[i]! < ms) i--;
  return i === row ? 0 : (v[i]! - v[row]!) / (t[row]! - t[i]!);
}

/** What the local speed and the row's own time do not explain of each rise between distinct samples, and where it was. */
type Leap = { from: number; to: number; rise: number; left: number };

/**
 * The largest rise between consecutive distinct samples beyond what the local speed explains in the time
 * since the previous row, at least the usual time between changes: a value that sticks and then leaps must
 * not explain its leap by the time for which it stuck.
 */
function leapsOf(t: Float64Array, v: Float64Array, { from, peak }: Pull): Leap[] {
  const distinct: number[] = [];
  for (let i = from; i <= peak; i++) if (i === from || v[i] !== v[i - 1]) distinct.push(i);
  const times = distinct.slice(1).map((i, k) => t[i]! - t[distinct[k]!]!);
  const usual = median(times);
  const speeds = times.map((dt, k) => (dt > 0 ? (v[distinct[k + 1]!]! - v[distinct[k]!]!) / dt : 0));
  const leaps: Leap[] = [];
  let lo = 0;
  let hi = 0;
  for (let k = 0; k < speeds.length; k++) {
    const start = t[distinct[k]!]!;
    const end = distinct[k + 1]!;
    const took = Math.max(usual, t[end]! - t[end - 1]!);
    const rise = v[distinct[k + 1]!]! - v[distinct[k]!]!;
    while (t[distinct[lo]!]! < start - LOCAL_MS) lo++;
    while (hi < speeds.length && t[distinct[hi]!]! <= start + LOCAL_MS) hi++;
    const local = Math.max(0, median(speeds.slice(lo, hi)));
    leaps.push({ from: end - 1, to: end, rise, left: rise - local * took });
  }
  return leaps;
}

/** Measures one trigger from its column of values in 0..1. Source: docs/measures.md, "Triggers". */
export function measureTrigger(
  p: Prepared,
  id: string,
  v: Float64Array,
): { measures: TriggerMeasures; pulls: Pull[]; marks: TriggerMarks; doubt: TriggerDoubt | null } {
  const { t } = p.recording;
  const restRows = restRuns(p, id);
  const restValue = restRows && restValueOf(p, v, restRows);
  const runs = runsFor(p, id, "pull");
  const pulls = restValue === null || runs.length === 0 ? null : findPulls(t, v, runs, restValue);
  const slow = pulls?.filter((pull) => pull.slow) ?? [];
  const held = pulls?.filter((pull) => pull.held) ?? [];
  const fullPull = pulls && fullPullOf(pulls);
  const travel = fullPull !== null && restValue !== null ? fullPull - restValue : 0;
  const leaps = slow.flatMap((pull) => leapsOf(t, v, pull));
  const marks: TriggerMarks = {
    step: worstOf(leaps.map(({ from, to, left }) => ({ from, to, by: left }))),
    back: worstOf((pulls ?? []).map((pull) => backtrackOf(t, v, pull))),
    sag: worstOf((pulls ?? []).map((pull) => holdSagOf(t, v, pull))),
  };
  return {
    measures: {
      restValue,
      fullPull,
      fullPullMedian: fullPull === null ? null : median(held.map((pull) => pull.highest)),
      pulls: pulls?.length ?? null,
      backtrack: pulls?.length ? (marks.back?.by ?? 0) : null,
      holdSag: pulls?.length ? (marks.sag?.by ?? 0) : null,
      largestStep: travel > 0 && slow.length ? (marks.step?.by ?? 0) / travel : null,
      noAnswer: noAnswer(p, runs, (i) => Math.abs(v[i]! - (restValue ?? 0))),
      idle: idleTrigger(p, id, v, restValue),
    },
    pulls: pulls ?? [],
    marks,
    doubt: doubtOf(v, leaps, travel),
  };
}

/** Of several rests the highest counts. */
function restValueOf(p: Prepared, v: Float64Array, runs: readonly Run[]): number {
  const middle = (some: readonly Run[]) => weightedMedian(gather(v, some), gather(p.weights, some));
  const whole = runs.filter((run) => durationOf(p, run) >= OWN_REST_MS);
  return whole.length > 1 ? whole.reduce((most, run) => Math.max(most, middle([run])), 0) : middle(runs);
}

/** The worst of some places; null where none is above 0. */
const worstOf = (spans: readonly Span[]): Span | null =>
  spans.reduce<Span | null>((worst, s) => (s.by > (worst?.by ?? 0) ? s : worst), null);

/** The largest of some figures, at least 0; a long recording has more than a call takes arguments. */
const largest = (leaps: readonly Leap[], of: (l: Leap) => number): number =>
  leaps.reduce((most, l) => Math.max(most, of(l)), 0);

/**
 * How much deeper the worst fall can have been than it was seen: by as much as the pull rose meanwhile, with
 * something for a speed that is not known exactly.
 */
const hiddenFall = (leaps: readonly Leap[]): number =>
  SPEED_SLACK * (largest(leaps, (l) => -l.left) - largest(leaps, (l) => -l.rise));

/**
 * What each measure may be off by: half a step of the converter; for a fall, the rise that one interval hides;
 * for a leap, what the speed leaves unexplained of 95 in 100 ordinary rises.
 */
function doubtOf(v: Float64Array, leaps: readonly Leap[], travel: number): TriggerDoubt | null {
  if (travel <= 0) return null;
  const step = quantumOf(v) / 2;
  const of = (values: number[], share: number) => (values.length ? quantile(values, share) : 0);
  return {
    restValue: step,
    fullPull: step,
    backtrack:
      step +
      Math.max(
        of(
          leaps.map((l) => Math.max(0, l.rise - l.left)),
          0.5,
        ),
        hiddenFall(leaps),
      ),
    holdSag: step,
    largestStep:
      step +
      of(
        leaps.map((l) => Math.abs(l.left)),
        0.95,
      ) /
        travel,
  };
}
