import type { Minor } from "../money/money";
import { spread } from "../money/spread";

/**
 * Packs, kits and assemblies come apart into pieces; what they cost is spread so that it adds up to the cent.
 */

/**
 * The cost of taking `count` of `left` pieces that are worth `value` together. The last one takes what is
 * left.
 */
export const takeCost = (value: Minor, left: number, count: number): Minor =>
  count >= left ? value : Math.round((value * count) / left);

export type KitLine = {
  part: string;
  count: number;
  weight: number;
  worth: Minor | null;
  tool: boolean;
  owned: boolean;
};

/**
 * What a kit is worth buying: its price with every tool, against its pieces bought one by one without the
 * tools that the shop has already. `each` is null when a piece of it is sold by nobody alone.
 */
export function kitAgainstPieces(
  price: Minor,
  lines: readonly KitLine[],
): { parts: Minor; each: Minor | null; saves: Minor | null } {
  const shares = spread(
    price,
    lines.map((l) => l.weight * l.count),
  );
  const parts = lines.reduce((s, l, i) => (l.tool && l.owned ? s : s + shares[i]!), 0);
  const wanted = lines.filter((l) => !(l.tool && l.owned));
  const each = wanted.some((l) => l.worth === null)
    ? null
    : wanted.reduce((s, l) => s + l.worth! * l.count, 0);
  return { parts, each, saves: each === null ? null : each - price };
}

export type SplitLine = { part: string; good: number; bad: number; weight: number };

/**
 * An assembly or kit taken apart: what each line of good pieces costs, and the yield. What came out bad costs
 * nothing and saves nothing.
 */
export function splitCost(cost: Minor, lines: readonly SplitLine[]): { cost: Minor[]; yield: number | null } {
  const good = lines.reduce((s, l) => s + l.good, 0);
  const all = good + lines.reduce((s, l) => s + l.bad, 0);
  const weights = lines.map((l) => l.weight * l.good);
  return {
    cost:
      good > 0
        ? spread(cost, lines.every((l) => l.weight === 0) ? lines.map((l) => l.good) : weights)
        : lines.map(() => 0),
    yield: all ? good / all : null,
  };
}
