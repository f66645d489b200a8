import { type Recording, type Step, stepCode } from "../recording/recording";

const MAX_WEIGHT_MS = 50; // a longer gap is a lost link, not a long look at one value

/** A stretch of consecutive rows with one step and one control. */
export type Run = { step: number; control: number; from: number; to: number };

export type Prepared = { recording: Recording; weights: Float64Array; runs: Run[]; medianInterval: number };

/** The weight of each row: the time to the next one, at most 50 ms; none for the last. */
function rowWeights(t: Float64Array): Float64Array {
  const weights = new Float64Array(t.length);
  for (let i = 0; i + 1 < t.length; i++) weights[i] = Math.min(MAX_WEIGHT_MS, t[i + 1]! - t[i]!);
  return weights;
}

function runsOf({ step, control, length }: Recording): Run[] {
  const runs: Run[] = [];
  let from = 0;
  for (let i = 1; i <= length; i++) {
    if (i < length && step[i] === step[from] && control[i] === control[from]) continue;
    runs.push({ step: step[from]!, control: control[from]!, from, to: i });
    from = i;
  }
  return runs;
}

export function prepare(recording: Recording, medianInterval: number): Prepared {
  return {
    recording,
    weights: rowWeights(recording.t),
    runs: recording.length ? runsOf(recording) : [],
    medianInterval,
  };
}

/** The runs of some steps that are about this control or about all. */
export function runsFor({ recording, runs }: Prepared, control: string, ...steps: Step[]): Run[] {
  const codes = steps.map(stepCode);
  const own = recording.controlNames.indexOf(control) + 1;
  return runs.filter((r) => codes.includes(r.step) && (r.control === 0 || r.control === own));
}

/** The same runs without their first `ms`: the hand has to let go first. */
export function withoutStart({ recording: { t } }: Prepared, runs: readonly Run[], ms: number): Run[] {
  const out: Run[] = [];
  for (const run of runs) {
    let from = run.from;
    while (from < run.to && t[from]! - t[run.from]! < ms) from++;
    if (from < run.to) out.push({ ...run, from });
  }
  return out;
}

export const rowsIn = (runs: readonly Run[]): number => runs.reduce((n, r) => n + r.to - r.from, 0);

/** The rows of the runs of one column, one after another. */
export function gather(column: Float64Array, runs: readonly Run[]): Float64Array {
  if (runs.length === 1) return column.subarray(runs[0]!.from, runs[0]!.to);
  const out = new Float64Array(rowsIn(runs));
  let at = 0;
  for (const r of runs) {
    out.set(column.subarray(r.from, r.to), at);
    at += r.to - r.from;
  }
  return out;
}

export function durationOf({ recording: { t } }: Prepared, run: Run): number {
  const last = Math.min(run.to, t.length - 1);
  return t[last]! - t[run.from]!;
}

export function sum(values: Float64Array): number {
  let total = 0;
  for (let i = 0; i < values.length; i++) total += values[i]!;
  return total;
}

const REST_START_MS = 300;
const REST_NEEDED_MS = 2000;

/**
 * The rest rows that count, or null when they last less than 2 s together (a sampling interval is forgiven).
 */
export function restRuns(p: Prepared, control: string): Run[] | null {
  const runs = withoutStart(p, runsFor(p, control, "rest"), REST_START_MS);
  return sum(gather(p.weights, runs)) >= REST_NEEDED_MS - Math.min(50, p.medianInterval) ? runs : null;
}

const COARSEST_STEP = 2 / 127; // seven bits: no converter of a controller is coarser

/** The smallest step between two values of a column, which the converter cannot go below; 0 when it never moved. */
export function quantumOf(v: Float64Array): number {
  let least = Infinity;
  for (let i = 1; i < v.length; i++) {
    const d = Math.abs(v[i]! - v[i - 1]!);
    if (d > 1e-9 && d < least) least = d;
  }
  return Number.isFinite(least) ? Math.min(COARSEST_STEP, least) : 0;
}

/** How many times a column changed in some runs: repeats of a value are no new look at it. */
export function changesIn(columns: readonly Float64Array[], runs: readonly Run[]): number {
  let n = 0;
  for (const run of runs)
    for (let i = run.from + 1; i < run.to; i++) if (columns.some((c) => c[i] !== c[i - 1])) n++;
  return n;
}
