import { incompleteBeta } from "../math/binomial";

/** Chances as Beta posteriors: a stated prior, the shop's record over all models, and this model's own, partly pooled. */

export type Prior = { mean: number; cases: number };
export type Tally = { good: number; all: number };
export type Chance = { mean: number; low: number; high: number; cases: number };

const POOLED_CASES = 8; // how many of its own cases a model needs to weigh as much as all the others together

function betaQuantile(p: number, a: number, b: number): number {
  let lo = 0;
  let hi = 1;
  for (let i = 0; i < 60; i++) {
    const mid = (lo + hi) / 2;
    if (incompleteBeta(mid, a, b) < p) lo = mid;
    else hi = mid;
  }
  return (lo + hi) / 2;
}

/**
 * The chance with its 90 % interval. `others` are the shop's cases of the route on other models, `own` those on this one:
 * few own cases lean on the others, many stand by themselves.
 * @example chanceOf({ mean: 0.5, cases: 4 }, { good: 0, all: 0 }, { good: 0, all: 0 }).mean // 0.5
 */
export function chanceOf(prior: Prior, others: Tally, own: Tally): Chance {
  const pool = (prior.mean * prior.cases + others.good) / (prior.cases + others.all);
  const weight = others.all > 0 ? POOLED_CASES : prior.cases;
  const a = pool * weight + own.good;
  const b = (1 - pool) * weight + own.all - own.good;
  const edge = 1e-9;
  return {
    mean: a / (a + b),
    low: betaQuantile(0.05, Math.max(edge, a), Math.max(edge, b)),
    high: betaQuantile(0.95, Math.max(edge, a), Math.max(edge, b)),
    cases: others.all + own.all,
  };
}
