/** Exact bounds on a proportion, through the regularised incomplete beta function. */

const LANCZOS = [
  676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059, 12.507343278686905,
  -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
];

/** Natural logarithm of the gamma function for x > 0 (Lanczos approximation, g = 7). */
function logGamma(x: number): number {
  const z = x - 1;
  let sum = 0.99999999999980993;
  LANCZOS.forEach((c, i) => (sum += c / (z + i + 1)));
  const t = z + LANCZOS.length - 0.5;
  return 0.5 * Math.log(2 * Math.PI) + (z + 0.5) * Math.log(t) - t + Math.log(sum);
}

const LOG_FACTORIAL: number[] = [0];
/** Natural logarithm of n! for whole n from 0 on; kept as far as it was asked for. */
export function logFactorial(n: number): number {
  for (let i = LOG_FACTORIAL.length; i <= n; i++) LOG_FACTORIAL.push(LOG_FACTORIAL[i - 1]! + Math.log(i));
  return LOG_FACTORIAL[n]!;
}

/** Continued fraction of the incomplete beta function, by the modified method of Lentz. */
function betaFraction(x: number, a: number, b: number): number {
  const tiny = 1e-300;
  const guard = (v: number) => (Math.abs(v) < tiny ? tiny : v);
  let c = 1;
  let d = 1 / guard(1 - ((a + b) * x) / (a + 1));
  let h = d;
  for (let m = 1; m <= 300; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / guard(1 + even * d);
    c = guard(1 + even / c);
    h *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / guard(1 + odd * d);
    c = guard(1 + odd / c);
    const change = d * c;
    h *= change;
    if (Math.abs(change - 1) < 1e-15) break;
  }
  return h;
}

/** Regularised incomplete beta function I_x(a, b), for x in 0..1 and a, b > 0. */
export function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  const front = Math.exp(logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log(1 - x));
  return x < (a + 1) / (a + b + 2)
    ? (front * betaFraction(x, a, b)) / a
    : 1 - (front * betaFraction(1 - x, b, a)) / b;
}

/**
 * One-sided upper bound on a rate after `events` in `trials`, by Clopper and Pearson (1934).
 * @example clopperPearsonUpper(0, 15, 0.95) // 0.1810
 */
export function clopperPearsonUpper(events: number, trials: number, confidence: number): number {
  if (events >= trials) return 1;
  let lo = 0;
  let hi = 1;
  for (let i = 0; i < 60; i++) {
    const mid = (lo + hi) / 2;
    if (incompleteBeta(mid, events + 1, trials - events) < confidence) lo = mid;
    else hi = mid;
  }
  return (lo + hi) / 2;
}

const Z90 = 1.6449;

/**
 * Interval of a share at 90 %, after Wilson (1927). Without a trial it is all of 0..1.
 * @example wilson(8, 10) // [0.541, 0.930]
 */
export function wilson(events: number, trials: number, z = Z90): [number, number] {
  if (trials === 0) return [0, 1];
  const p = events / trials;
  const shrink = 1 + (z * z) / trials;
  const middle = (p + (z * z) / (2 * trials)) / shrink;
  const half = (z / shrink) * Math.sqrt((p * (1 - p)) / trials + (z * z) / (4 * trials * trials));
  return [Math.max(0, middle - half), Math.min(1, middle + half)];
}
