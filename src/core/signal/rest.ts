import { weightedMedian, weightedQuantile } from "../math/quantile";
import { type Prepared, type Run, gather } from "./rows";

export type Point = readonly [number, number];
export type Rest = { centre: Point; offset: number; noise: number; spikes: number; radius995: number };

const SPIKE_FLOOR = 0.05;
const SPIKE_SIGMAS = 6;
const MAD_TO_SIGMA = 1.4826;
const SPIKE_JOIN_MS = 30;

/** Where the stick rests, how still, and how often it leaps away. Source: docs/measures.md, "Sticks". */
export function measureRest(p: Prepared, x: Float64Array, y: Float64Array, runs: readonly Run[]): Rest {
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
    spikes: countExcursions(p, d, runs, threshold),
    radius995: weightedQuantile(
      xs.map((v, i) => Math.hypot(v, ys[i]!)),
      w,
      0.995,
    ),
  };
}

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
