import { median, quantile } from "./quantile";

/** A robust line: slope with a 95 % interval, and the value at any place. */
export type RobustLine = {
  slope: number;
  low: number;
  high: number;
  at: (x: number) => number;
  middle: { x: number; y: number };
};

const MOST_POINTS = 300; // pairs grow with the square
const Z95 = 1.959964;

/**
 * The median of the slopes between all pairs of points, with the interval of Sen (1968) from Kendall's
 * statistic; the line goes through the medians. Null with fewer than 4 points or when x never changes.
 * @example theilSen([0, 1, 2, 3], [1, 3, 5, 7])!.slope // 2
 */
export function theilSen(xs: readonly number[], ys: readonly number[]): RobustLine | null {
  const every = Math.max(1, Math.ceil(xs.length / MOST_POINTS));
  const keep = xs.map((_, i) => i).filter((i) => i % every === 0);
  const slopes: number[] = [];
  for (let a = 0; a < keep.length; a++)
    for (let b = a + 1; b < keep.length; b++) {
      const dx = xs[keep[b]!]! - xs[keep[a]!]!;
      if (dx !== 0) slopes.push((ys[keep[b]!]! - ys[keep[a]!]!) / dx);
    }
  const n = keep.length;
  if (n < 4 || slopes.length === 0) return null;
  slopes.sort((a, b) => a - b);
  const spread = Z95 * Math.sqrt((n * (n - 1) * (2 * n + 5)) / 18);
  const at = (rank: number) => slopes[Math.min(slopes.length - 1, Math.max(0, Math.round(rank)))]!;
  const slope = median(slopes);
  const middle = {
    x: quantile(
      keep.map((i) => xs[i]!),
      0.5,
    ),
    y: quantile(
      keep.map((i) => ys[i]!),
      0.5,
    ),
  };
  return {
    slope,
    low: at((slopes.length - spread) / 2 - 1),
    high: at((slopes.length + spread) / 2),
    at: (x) => middle.y + slope * (x - middle.x),
    middle,
  };
}
