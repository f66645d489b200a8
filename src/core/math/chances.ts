import { incompleteBeta } from "./binomial";

/**
 * Chances as Beta posteriors: a stated prior, what this shop saw of the same route on other models (counted
 * as so many cases at most as the models' own agreement makes them worth), and what it saw on this model in
 * full. Partial pooling: with few cases of its own a model leans on the others.
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
  /** how many cases the others count as */
  othersAs: number;
};

/** What other models count as at most where nothing is known of how much models differ. */
const POOLED_CASES = 8;
const MODELS_NEEDED = 3;
/** The guess above weighs as much as what so many models tell of their difference. */
const GUESS_MODELS = 2;
const LEAST_ALIKE = 0.9;
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

const sizeOf = (t: Tally): number => t.yes + t.no;

/**
 * How many cases of other models are worth at most as many of this one: what a Beta distribution of the
 * models' own chances counts as, from their tallies. Its correlation within a model is estimated by the
 * moments of the one-way analysis of variance, and held towards the guess of eight cases while there are few
 * models. Eight with fewer than three models or where all went one way; from 1 to some hundreds.
 */
export function pooledCases(models: readonly Tally[]): number {
  const some = models.filter((t) => sizeOf(t) > 0);
  const all = some.reduce((n, t) => n + sizeOf(t), 0);
  const yes = some.reduce((n, t) => n + t.yes, 0);
  if (some.length < MODELS_NEEDED || yes === 0 || yes === all || all <= some.length) return POOLED_CASES;
  const share = yes / all;
  const between =
    some.reduce((s, t) => s + sizeOf(t) * (t.yes / sizeOf(t) - share) ** 2, 0) / (some.length - 1);
  const within = some.reduce((s, t) => s + (t.yes * t.no) / sizeOf(t), 0) / (all - some.length);
  const usual = (all - some.reduce((s, t) => s + sizeOf(t) ** 2, 0) / all) / (some.length - 1);
  const alike = (between - within) / (between + (usual - 1) * within);
  const told = some.length - 1;
  const guess = 1 / (1 + POOLED_CASES);
  const held =
    (GUESS_MODELS * guess + told * Math.min(LEAST_ALIKE, Math.max(0, alike))) / (GUESS_MODELS + told);
  return Math.max(1, 1 / held - 1);
}

/**
 * `most`: what other models count as at most, from `pooledCases`.
 * @example chanceOf({ mean: 0.6, cases: 5 }, { yes: 4, no: 1 }, { yes: 0, no: 0 }).mean // (3 + 4) / (5 + 5)
 * = 0.7
 */
export function chanceOf(stated: Stated, own: Tally, others: Tally, most = POOLED_CASES): ChanceView {
  const seen = sizeOf(others);
  const weight = seen > 0 ? Math.min(1, most / seen) : 0;
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
    othersAs: seen * weight,
  };
}
