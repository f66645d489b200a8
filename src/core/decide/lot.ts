import type { Minor } from "../money/money";
import { spread } from "../money/spread";
import type { Chance } from "../math/random";

/** A lot's one price over its units, and what a lot may be worth. */

export const SPREADS = ["value", "even", "hand"] as const;
export type SpreadWay = (typeof SPREADS)[number];

export type LotUnit = {
  id: string;
  /** what is expected of it from now on, in the role that it has */
  value: number;
  /** sold or handed on: its share stays as it was */
  fixed: Minor | null;
  byHand: Minor | null;
};

/**
 * Each unit's share of the lot's cost; what is sold keeps its share, and the rest is spread over the others.
 * When all are sold, what comes later is added to theirs. Adds up to the cent.
 */
export function shareLot(cost: Minor, units: readonly LotUnit[], way: SpreadWay): Map<string, Minor> {
  const fixed = units.filter((u) => u.fixed !== null);
  const open = units.filter((u) => u.fixed === null);
  const set = new Map(fixed.map((u) => [u.id, u.fixed!]));
  let left = cost - fixed.reduce((sum, u) => sum + u.fixed!, 0);
  if (open.length === 0) {
    // a bill that comes after all is sold was caused by them all the same: by what each carries of the lot
    const shares = fixed.map((u) => u.fixed!);
    const more = spread(left, shares.some((share) => share > 0) ? shares : shares.map(() => 1));
    fixed.forEach((u, i) => set.set(u.id, u.fixed! + more[i]!));
    return set;
  }
  let over = open;
  if (way === "hand") {
    const named = open.filter((u) => u.byHand !== null);
    for (const u of named) set.set(u.id, u.byHand!);
    left -= named.reduce((sum, u) => sum + u.byHand!, 0);
    over = open.filter((u) => u.byHand === null);
  }
  const weights = way === "value" ? over.map((u) => u.value) : over.map(() => 1);
  spread(left, weights).forEach((share, i) => set.set(over[i]!.id, share));
  return set;
}

/** What a unit may bring: values with chances that add up to 1. */
export type Worth = { value: number; chance: number }[];

/** Draws a lot's total many times; each unit by its own odds. Seeded: the same lot gives the same figures. */
export function drawLot(units: readonly Worth[], draws: number, c: Chance): Float64Array {
  const totals = new Float64Array(draws);
  for (const worth of units) {
    const up = new Float64Array(worth.length);
    let sum = 0;
    for (let i = 0; i < worth.length; i++) up[i] = sum += worth[i]!.chance;
    for (let d = 0; d < draws; d++) {
      const x = c.next() * sum;
      let lo = 0;
      let hi = worth.length - 1;
      while (lo < hi) {
        const mid = (lo + hi) >> 1;
        if (up[mid]! <= x) lo = mid + 1;
        else hi = mid;
      }
      totals[d]! += worth[lo]!.value;
    }
  }
  return totals.sort();
}
