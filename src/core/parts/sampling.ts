import { found } from "../base/finding";
import { z } from "../base/schema";

import { clopperPearsonUpper, incompleteBeta, logFactorial } from "../math/binomial";

/**
 * Sampling of an incoming batch by attributes: how many pieces to measure, and how many bad ones are still
 * borne. Exact: hypergeometric for a batch of known size, binomial for one that is as good as endless.
 * Method: docs/parts.md, "Incoming inspection".
 */

const share = z.number().min(0.001).max(0.9);
export const riskSchema = z
  .strictObject({
    /** share of bad pieces that is still good enough, and the risk of refusing such a batch */
    goodShare: share,
    refuseGood: share,
    /** share of bad pieces that is too much, and the risk of taking such a batch */
    badShare: share,
    takeBad: share,
  })
  .refine((r) => r.goodShare < r.badShare, found({ rule: "good-bad" }));
export type Risk = z.infer<typeof riskSchema>;
export const HOUSE_RISK: Risk = { goodShare: 0.05, refuseGood: 0.1, badShare: 0.25, takeBad: 0.1 };

export type SamplingPlan = {
  /** pieces in the batch; null for the binomial plan */
  pieces: number | null;
  sample: number;
  /** bad pieces among the sample that are still borne */
  accept: number;
  /** the risks that the plan really has */
  refusesGood: number;
  takesBad: number;
  /** whether the whole batch is measured */
  all: boolean;
};

const logChoose = (n: number, k: number) => logFactorial(n) - logFactorial(k) - logFactorial(n - k);

/** Chance of at most `c` bad among `n` drawn without putting back from `pieces` of which `bad` are bad. */
export function hypergeometricAtMost(c: number, n: number, bad: number, pieces: number): number {
  let sum = 0;
  for (let k = Math.max(0, n - (pieces - bad)); k <= Math.min(c, n, bad); k++)
    sum += Math.exp(logChoose(bad, k) + logChoose(pieces - bad, n - k) - logChoose(pieces, n));
  return Math.min(1, sum);
}

/** Chance of at most `c` bad among `n` when each is bad with `share`. */
export const binomialAtMost = (c: number, n: number, share: number): number => {
  if (c >= n) return 1;
  if (share <= 0) return 1;
  if (share >= 1) return 0;
  return 1 - incompleteBeta(share, c + 1, n - c);
};

/**
 * Bad pieces that a share of a batch means: what is good enough is rounded down, what is too much is rounded
 * up.
 */
const badOf = (share: number, pieces: number, up: boolean) =>
  Math.min(pieces, up ? Math.max(1, Math.ceil(share * pieces - 1e-9)) : Math.floor(share * pieces + 1e-9));

/** Chance that a batch with this share of bad pieces is taken: one point of the plan's operating curve. */
export function acceptChance(
  plan: Pick<SamplingPlan, "pieces" | "sample" | "accept">,
  share: number,
): number {
  return plan.pieces === null
    ? binomialAtMost(plan.accept, plan.sample, share)
    : hypergeometricAtMost(plan.accept, plan.sample, Math.round(share * plan.pieces), plan.pieces);
}

/** More pieces than that nobody measures. */
export const MOST_SAMPLED = 500;

/**
 * Chances are sums of rounded terms: one that is a risk exactly (3 of 5 pieces with 2 bad: 1 in 10) may come
 * out a hair above it.
 */
const HAIR = 1e-9;
const keeps = (chance: number, risk: number): boolean => chance <= risk + HAIR;

/** Whether a plan refuses good batches and takes bad ones no more often than asked. */
export const keepsBoth = (plan: SamplingPlan, risk: Risk): boolean =>
  keeps(plan.refusesGood, risk.refuseGood) && keeps(plan.takesBad, risk.takeBad);

/**
 * The smallest sample, and of those the lowest number of bad ones borne, that keeps both risks. Where not
 * even the largest sample does, the risk of taking a bad batch is kept, and of refusing a good one it says
 * what it is; a small batch is measured whole, and what is good enough is borne.
 * @param pieces 1 to 100,000; null for a batch as good as endless
 * @example samplingPlan(5, HOUSE_RISK) // 3 pieces, none of them bad
 */
export function samplingPlan(pieces: number | null, risk: Risk): SamplingPlan {
  const most = Math.min(pieces ?? MOST_SAMPLED, MOST_SAMPLED);
  const goodBad = pieces === null ? 0 : badOf(risk.goodShare, pieces, false);
  const badBad = pieces === null ? 0 : badOf(risk.badShare, pieces, true);
  const take = (c: number, n: number, good: boolean) =>
    pieces === null
      ? binomialAtMost(c, n, good ? risk.goodShare : risk.badShare)
      : hypergeometricAtMost(c, n, good ? goodBad : badBad, pieces);
  const plan = (sample: number, accept: number): SamplingPlan => ({
    pieces,
    sample,
    accept,
    refusesGood: 1 - take(accept, sample, true),
    takesBad: take(accept, sample, false),
    all: sample === pieces,
  });
  /** the largest number borne of a sample that still keeps bad batches out; -1 for none */
  const mostBorne = (n: number) => {
    let c = -1;
    while (c + 1 < n && keeps(take(c + 1, n, false), risk.takeBad)) c++;
    return c;
  };
  for (let n = 1; n <= most; n++) {
    const borne = mostBorne(n);
    if (borne < 0 || !keeps(1 - take(borne, n, true), risk.refuseGood)) continue;
    let least = borne;
    while (least > 0 && keeps(1 - take(least - 1, n, true), risk.refuseGood)) least--;
    return plan(n, least);
  }
  return plan(most, most === pieces ? goodBad : Math.max(0, mostBorne(most)));
}

/** The operating curve: for each share of bad pieces the chance that the batch is taken. */
export function operatingCurve(plan: SamplingPlan, points = 41): { share: number; taken: number }[] {
  const steps = plan.pieces === null ? points - 1 : Math.min(points - 1, plan.pieces);
  return Array.from({ length: steps + 1 }, (_, i) => {
    const share = plan.pieces === null ? i / steps : Math.round((i / steps) * plan.pieces) / plan.pieces;
    return { share, taken: acceptChance(plan, share) };
  });
}

export type BatchVerdict =
  { verdict: "accept" } | { verdict: "reject" } | { verdict: "more"; measure: number; bearable: number };

/**
 * Where a batch stands after some pieces: decided as soon as nothing that could still come would change it.
 */
export function batchVerdict(
  plan: Pick<SamplingPlan, "sample" | "accept">,
  measured: number,
  bad: number,
): BatchVerdict {
  if (bad > plan.accept) return { verdict: "reject" };
  if (measured >= plan.sample) return { verdict: "accept" };
  return { verdict: "more", measure: plan.sample - measured, bearable: plan.accept - bad };
}

/**
 * The batch's share of bad pieces from a sample: the share seen, and a two-sided 90 % interval: exact for a
 * batch of known size (the numbers of bad pieces that a one-sided 5 % test does not rule out), else by
 * Clopper and Pearson.
 */
export function badShare(
  pieces: number | null,
  measured: number,
  bad: number,
): { seen: number | null; low: number; high: number } {
  if (measured === 0) return { seen: null, low: 0, high: 1 };
  const tail = 0.05;
  if (pieces === null)
    return {
      seen: bad / measured,
      low: 1 - clopperPearsonUpper(measured - bad, measured, 1 - tail),
      high: clopperPearsonUpper(bad, measured, 1 - tail),
    };
  const possible = Array.from({ length: pieces - measured + 1 }, (_, i) => bad + i).filter((d) => {
    const atMost = hypergeometricAtMost(bad, measured, d, pieces);
    const atLeast = 1 - (bad > 0 ? hypergeometricAtMost(bad - 1, measured, d, pieces) : 0);
    return atMost > tail && atLeast > tail;
  });
  return {
    seen: bad / measured,
    low: (possible[0] ?? bad) / pieces,
    high: (possible.at(-1) ?? bad) / pieces,
  };
}
