import type { Minor } from "./money";

/**
 * Spreads whole cents over weights so that they add up exactly: each gets the whole part of its share, and
 * the cents that are left go to the largest remainders, the first of equals first. Equal shares when no
 * weight is above nothing.
 * @example spread(1000, [1, 1, 1]) // [334, 333, 333]
 */
export function spread(total: Minor, weights: readonly number[]): Minor[] {
  if (weights.length === 0) return [];
  const clean = weights.map((w) => (Number.isFinite(w) && w > 0 ? w : 0));
  const sum = clean.reduce((a, b) => a + b, 0);
  const shares = clean.map((w) => (sum > 0 ? (total * w) / sum : total / clean.length));
  const whole = shares.map(Math.floor);
  const left = total - whole.reduce((a, b) => a + b, 0);
  const order = shares
    .map((s, i) => ({ i, rest: s - whole[i]! }))
    .sort((a, b) => b.rest - a.rest || a.i - b.i);
  for (let k = 0; k < left; k++) whole[order[k % order.length]!.i]!++;
  return whole;
}
