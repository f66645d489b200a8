import { weightedMedian, weightedQuantile } from "../math/quantile";
import { type Prepared, type Run, gather, sum } from "./rows";

export type Point = readonly [number, number];
/**
 * The centre is that of the first rest; `apart` is how far the farthest rest lies from it, `median` the median
 * distance of the rows from their centre.
 */
export type Rest = {
  centre: Point;
  offset: number;
  noise: number;
  spikes: number;
  radius995: number;
  median: number;
  apart: number;
  /** the noise of each axis by itself */
  noiseBy: Point;
};

const SPIKE_FLOOR = 0.05;
const SPIKE_SIGMAS = 6;
const MAD_TO_SIGMA = 1.4826;
const SPIKE_JOIN_MS = 30;

const LONG_ENOUGH_MS = 1950; // a run that carries a verdict of its own

/**
 * Where the stick rests, how still, and how often it leaps away. Of several rests (a test begins and ends with
 * one) the worst of each counts: a stick that creeps off while it is used must not rest on its first moment.
 * Source: docs/measures.md, "Sticks".
 */
export function measureRest(p: Prepared, x: Float64Array, y: Float64Array, runs: readonly Run[]): Rest {
  const long = runs.filter((run) => sum(gather(p.weights, [run])) >= LONG_ENOUGH_MS);
  const each = (long.length > 1 ? long.map((run) => [run]) : [runs]).map((some) => restOf(p, x, y, some));
  const first = each[0]!;
  return {
    ...first,
    offset: Math.max(...each.map((r) => r.offset)),
    apart: Math.max(
      ...each.map((r) => Math.hypot(r.centre[0] - first.centre[0], r.centre[1] - first.centre[1])),
    ),
    noise: Math.max(...each.map((r) => r.noise)),
    noiseBy: [0, 1].map((axis) => Math.max(...each.map((r) => r.noiseBy[axis]!))) as unknown as Point,
    spikes: each.reduce((n, r) => n + r.spikes, 0),
    radius995: Math.max(...each.map((r) => r.radius995)),
  };
}

function restOf(p: Prepared, x: Float64Array, y: Float64Array, runs: readonly Run[]): Omit<Rest, "apart"> {
  const xs = gather(x, runs);
  const ys = gather(y, runs);
  const w = gather(p.weights, runs);
  const centre: Point = [weightedMedian(xs, w), weightedMedian(ys, w)];
  const d = xs.map((v, i) => Math.hypot(v - centre[0], ys[i]! - centre[1]));
  const m = weightedMedian(d, w);
  const mad = weightedMedian(
    d.map((v) => Math.abs(v - m)),
    w,
  );
  const threshold = Math.max(SPIKE_FLOOR, m + SPIKE_SIGMAS * MAD_TO_SIGMA * mad);
  return {
    centre,
    offset: Math.hypot(...centre),
    noise: weightedQuantile(d, w, 0.95),
    noiseBy: [noiseOf(xs, centre[0], w), noiseOf(ys, centre[1], w)],
    median: m,
    spikes: countExcursions(p, d, runs, threshold),
    radius995: weightedQuantile(
      xs.map((v, i) => Math.hypot(v, ys[i]!)),
      w,
      0.995,
    ),
  };
}

const noiseOf = (v: Float64Array, middle: number, w: Float64Array): number =>
  weightedQuantile(
    v.map((x) => Math.abs(x - middle)),
    w,
    0.95,
  );

function countExcursions(p: Prepared, d: Float64Array, runs: readonly Run[], threshold: number): number {
  const { t } = p.recording;
  let count = 0;
  let at = 0;
  for (const run of runs) {
    let lastOut = -Infinity;
    for (let i = run.from; i < run.to; i++, at++) {
      if (d[at]! <= threshold) continue;
      if (t[i]! - lastOut > SPIKE_JOIN_MS) count++;
      lastOut = t[i]!;
    }
  }
  return count;
}
