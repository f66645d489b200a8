import { logFactorial } from "../math/binomial";
import type { Minor } from "../money/money";

/**
 * When to order a part again and how much: a reorder point from the demand over the lead time and what a
 * waiting unit costs, and a quantity from what ordering and keeping cost. Demand is taken as Poisson. Method:
 * docs/parts.md, "The buying list".
 */

export type Demand = {
  /** pieces used a week in this shop's own history, and how many weeks stand behind it */
  perWeek: number;
  weeks: number;
};
export type ReorderAsked = {
  demand: Demand;
  leadDays: number;
  /** pieces free on the shelf, on order, and wanted by units that wait now */
  free: number;
  onOrder: number;
  backlog: number;
  /** one piece, its carriage share aside; what one order costs; what a unit that waits costs a day */
  pieceMinor: Minor;
  orderMinor: Minor;
  waitPerDay: Minor;
  /** mean days that a unit waits when the part is out: the lead time when null */
};
export type Reorder = {
  /** order when what is free, on order and not promised falls to this */
  point: number;
  /** how many to order now; 0 for none */
  quantity: number;
  position: number;
  leadDemand: number;
  /** the chance of not running out that pays */
  service: number;
  why: "backlog" | "below-point" | "enough" | "no-demand";
};

/** Yearly cost of having a piece lie: room, age and money, as a share of its price. The house's. */
export const KEEPING = 0.25;

/** Of a mean m what lies farther below it than this many times sqrt(m) has no weight (under 1e-30). */
const FAR = 12;

/**
 * The smallest k with P(X <= k) >= p for a Poisson X, at any mean: terms begin where they have weight, since
 * e^-mean is 0 for a computer from 746 on.
 */
export function poissonQuantile(mean: number, p: number): number {
  if (mean <= 0) return 0;
  let k = Math.max(0, Math.floor(mean - FAR * Math.sqrt(mean)));
  let logTerm = -mean + k * Math.log(mean) - logFactorial(k);
  let sum = Math.exp(logTerm);
  const most = mean + FAR * Math.sqrt(mean) + 100; // beyond it nothing is left to add
  while (sum < p && k < most) {
    k++;
    logTerm += Math.log(mean / k);
    sum += Math.exp(logTerm);
  }
  return k;
}

export function reorder(a: ReorderAsked): Reorder {
  const leadDemand = (a.demand.perWeek * a.leadDays) / 7;
  const position = a.free + a.onOrder - a.backlog;
  // a piece more saves a unit's wait over the lead time when it is called for, and else lies for one such
  // time
  const missing = a.waitPerDay * Math.max(1, a.leadDays);
  const lying = (a.pieceMinor * KEEPING * Math.max(1, a.leadDays)) / 365;
  const service = missing + lying > 0 ? Math.min(0.995, missing / (missing + lying)) : 0.5;
  const point = a.demand.perWeek > 0 ? poissonQuantile(leadDemand, service) : 0;
  const perYear = a.demand.perWeek * 52;
  const economic =
    perYear > 0
      ? Math.max(
          1,
          Math.round(
            Math.sqrt((2 * perYear * Math.max(1, a.orderMinor)) / Math.max(1, a.pieceMinor * KEEPING)),
          ),
        )
      : 0;
  // never more than a quarter of a year at once: models age
  const lot = Math.min(economic, Math.max(1, Math.ceil(a.demand.perWeek * 13)));
  const short = Math.max(0, -position);
  const base = { point, position, leadDemand, service };
  const whyOf = () => {
    if (short > 0) return "backlog";
    if (a.backlog > 0) return "enough";
    return "no-demand";
  };
  if (perYear === 0) return { ...base, quantity: short, why: whyOf() };
  // a point of 0 says that waiting is cheaper than keeping one: then only what is wanted is ordered
  if (position > point || (point === 0 && position >= 0)) return { ...base, quantity: 0, why: "enough" };
  return {
    ...base,
    quantity: Math.max(short, point - position + lot),
    why: short > 0 ? "backlog" : "below-point",
  };
}
