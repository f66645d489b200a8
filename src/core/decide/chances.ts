import { incompleteBeta } from "../math/binomial";

/**
 * Chances as Beta posteriors: a stated prior, what this shop saw of the same route on other models (counted
 * as at most eight cases), and what it saw on this model in full. Partial pooling: with few cases of its own
 * a model leans on the others.
 */

export type Stated = { mean: number; cases: number };
export type Tally = { yes: number; no: number };
export type ChanceView = {
  mean: number;
  low: number;
  high: number;
  /** the stated guess and how many cases it counts as */
  stated: Stated;
  own: Tally;
  others: Tally;
};

const POOLED_CASES = 8;
const INTERVAL = 0.9;

/** The value below which a Beta variable lies with chance p, by halving; to 1e-9. */
function betaQuantile(p: number, a: number, b: number): number {
  let lo = 0;
  let hi = 1;
  for (let i = 0; i < 40; i++) {
    const mid = (lo + hi) / 2;
    if (incompleteBeta(mid, a, b) < p) lo = mid;
    else hi = mid;
  }
  return (lo + hi) / 2;
}

/**
 * A chance that is stated as never or always is held this far open, so that its interval has two ends and
 * what is seen moves it; small enough to leave every other stated chance as it is.
 */
const OPEN = 0.005;
const heldOpen = (mean: number): number => Math.min(1 - OPEN, Math.max(OPEN, mean));

/**
 * @example chanceOf({ mean: 0.6, cases: 5 }, { yes: 4, no: 1 }, { yes: 0, no: 0 }).mean // (3 + 4) / (5 + 5)
 * = 0.7
 */
export function chanceOf(stated: Stated, own: Tally, others: Tally): ChanceView {
  const seen = others.yes + others.no;
  const weight = seen > 0 ? Math.min(1, POOLED_CASES / seen) : 0;
  const start = heldOpen(stated.mean);
  const a = start * stated.cases + others.yes * weight + own.yes;
  const b = (1 - start) * stated.cases + others.no * weight + own.no;
  const mean = a / (a + b);
  const tail = (1 - INTERVAL) / 2;
  return {
    mean,
    low: a > 0 ? betaQuantile(tail, a, b) : 0,
    high: b > 0 ? betaQuantile(1 - tail, a, b) : 1,
    stated,
    own,
    others,
  };
}
