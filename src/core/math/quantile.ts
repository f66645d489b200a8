/**
 * Weighted quantiles with linear interpolation, by selection instead of sorting (expected linear time).
 *
 * Each value stands at the middle of its own weight: with values in order and C the weight up to and
 * including a value, its place is (C - w/2) / W (for equal weights: Hazen's definition, type 5 of Hyndman and
 * Fan 1996). Between two places the quantile is interpolated linearly; beyond the outer places it is the
 * outer value. Equal values share their weight evenly.
 */

const SMALL = 24; // below this a sorted slice is cheaper than another partition

type Pairs = { values: Float64Array; weights: Float64Array };

function swap({ values, weights }: Pairs, i: number, j: number): void {
  const v = values[i]!;
  values[i] = values[j]!;
  values[j] = v;
  const w = weights[i]!;
  weights[i] = weights[j]!;
  weights[j] = w;
}

function insertionSort(pairs: Pairs, lo: number, hi: number): void {
  const { values, weights } = pairs;
  for (let i = lo + 1; i < hi; i++) {
    const v = values[i]!;
    const w = weights[i]!;
    let j = i - 1;
    while (j >= lo && values[j]! > v) {
      values[j + 1] = values[j]!;
      weights[j + 1] = weights[j]!;
      j--;
    }
    values[j + 1] = v;
    weights[j + 1] = w;
  }
}

function medianOfThree(values: Float64Array, lo: number, hi: number): number {
  const a = values[lo]!;
  const b = values[(lo + hi) >> 1]!;
  const c = values[hi - 1]!;
  return Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));
}

/** Splits [lo, hi) into below, equal to and above the pivot; returns the bounds of the equal part. */
function partition(pairs: Pairs, lo: number, hi: number, pivot: number): [number, number] {
  const { values } = pairs;
  let below = lo;
  let above = hi;
  let i = lo;
  while (i < above) {
    const v = values[i]!;
    if (v < pivot) swap(pairs, i++, below++);
    else if (v > pivot) swap(pairs, i, --above);
    else i++;
  }
  return [below, above];
}

function weightOf(weights: Float64Array, lo: number, hi: number): number {
  let sum = 0;
  for (let i = lo; i < hi; i++) sum += weights[i]!;
  return sum;
}

/** The neighbour just outside a slice: the largest value left of `lo`, or the smallest from `hi` on. */
function neighbour(
  { values, weights }: Pairs,
  from: number,
  to: number,
  largest: boolean,
): { v: number; w: number } | null {
  let v = NaN;
  let w = 0;
  let ties = 0;
  for (let i = from; i < to; i++) {
    if (ties > 0 && values[i] === v) {
      w += weights[i]!;
      ties++;
    } else if (ties === 0 || (largest ? values[i]! > v : values[i]! < v)) {
      v = values[i]!;
      w = weights[i]!;
      ties = 1;
    }
  }
  return ties === 0 ? null : { v, w: w / ties };
}

/** Equal values share their weight evenly, so that their order, which means nothing, changes nothing. */
function shareAmongTies({ values, weights }: Pairs, lo: number, hi: number): void {
  for (let from = lo; from < hi;) {
    let to = from + 1;
    while (to < hi && values[to] === values[from]) to++;
    if (to - from > 1) weights.fill(weightOf(weights, from, to) / (to - from), from, to);
    from = to;
  }
}

function interpolateInSlice(
  pairs: Pairs,
  lo: number,
  hi: number,
  before: number,
  target: number,
  n: number,
): number {
  const { values, weights } = pairs;
  insertionSort(pairs, lo, hi);
  shareAmongTies(pairs, lo, hi);
  let place = before;
  for (let i = lo; i < hi; i++) {
    const middle = place + weights[i]! / 2;
    if (target <= middle) {
      if (i > lo) return between(place - weights[i - 1]! / 2, values[i - 1]!, middle, values[i]!, target);
      const left = neighbour(pairs, 0, lo, true);
      return left === null ? values[i]! : between(before - left.w / 2, left.v, middle, values[i]!, target);
    }
    place += weights[i]!;
  }
  const last = hi - 1;
  const right = neighbour(pairs, hi, n, false);
  return right === null
    ? values[last]!
    : between(place - weights[last]! / 2, values[last]!, place + right.w / 2, right.v, target);
}

function between(p0: number, v0: number, p1: number, v1: number, p: number): number {
  if (p1 <= p0) return v1;
  return v0 + ((v1 - v0) * (p - p0)) / (p1 - p0);
}

/**
 * The p-quantile (p in 0..1) of `values[i]` weighted by `weights[i]` (not negative).
 * Weights that are all zero count as equal. Returns NaN for no values. The inputs are not changed.
 */
export function weightedQuantile(values: Float64Array, weights: Float64Array, p: number): number {
  const n = values.length;
  if (n === 0) return NaN;
  const pairs: Pairs = { values: values.slice(), weights: weights.slice() };
  let total = weightOf(pairs.weights, 0, n);
  if (total <= 0) {
    pairs.weights.fill(1);
    total = n;
  }
  const target = p * total;
  let lo = 0;
  let hi = n;
  let before = 0;
  while (hi - lo > SMALL) {
    const [eqLo, eqHi] = partition(pairs, lo, hi, medianOfThree(pairs.values, lo, hi));
    const below = before + weightOf(pairs.weights, lo, eqLo);
    const upTo = below + weightOf(pairs.weights, eqLo, eqHi);
    if (target < below && eqLo > lo) hi = eqLo;
    else if (target > upTo && eqHi < hi) {
      lo = eqHi;
      before = upTo;
    } else {
      lo = eqLo;
      hi = eqHi;
      before = below;
      break;
    }
  }
  return interpolateInSlice(pairs, lo, hi, before, target, n);
}

export const weightedMedian = (values: Float64Array, weights: Float64Array): number =>
  weightedQuantile(values, weights, 0.5);

/** Plain quantile with linear interpolation between order statistics (type 7). NaN for no values. */
export function quantile(values: ArrayLike<number>, p: number): number {
  const sorted = Float64Array.from(values).sort();
  if (sorted.length === 0) return NaN;
  const at = p * (sorted.length - 1);
  const lo = Math.floor(at);
  const hi = Math.min(lo + 1, sorted.length - 1);
  return sorted[lo]! + (sorted[hi]! - sorted[lo]!) * (at - lo);
}

export const median = (values: ArrayLike<number>): number => quantile(values, 0.5);
