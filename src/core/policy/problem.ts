/** A ladder as a problem: faults, attempts, depths of opening, and what the ends bring. Money in minor units, as real numbers. */

/**
 * The order and choice of attempts, with a stop rule, that has the highest expected margin: exact dynamic
 * programming over what is known of each fault (which of its attempts failed, or by which kind of attempt it
 * was cured), how deep the unit is open, and which joint attempts were made. What was spent before is not in
 * it. Money in minor units, as real numbers.
 */

/** Grade that a cure leaves room for: 0 is A, 1 is B, 2 is C. */
export type Cap = 0 | 1 | 2;

export type LadderAttempt = {
  id: string;
  /** indexes of the faults that it cures together when it works; one or several */
  cures: readonly number[];
  /** parts and its own minutes, without the strip-down */
  cost: number;
  minutes: number;
  /** how deep the unit must be open for it, an index into `depths` */
  depth: number;
  /** chance that it works, and that it breaks the unit; together at most 1 */
  success: number;
  breaks: number;
  /** chance that it works under each of the problem's explanations; where there are none, `success` */
  works?: readonly number[];
  cap: Cap;
  /** chance that a unit sold after this cure comes back for it */
  comeback: number;
  /** attempts at the same faults, or joint ones, that make no sense any more after this one */
  spends?: readonly number[];
};

export type LadderFault = {
  id: string;
  /**
   * if the unit may be sold with it: which share of the price is left, and the chance that it comes back for
   * it
   */
  leave: { share: number; comeback: number } | null;
};

/** What a sale leaves of its price: fees, carriage and tax taken off. */
export type SaleTerms = { feeShare: number; fixed: number; tax: { share: number; above: number } };

/** Something to learn before going on: it mends nothing, and what it tells moves the odds. */
export type PolicyCheck = {
  id: string;
  /** its own minutes and risk, without the strip-down */
  cost: number;
  minutes: number;
  depth: number;
  /** chance of each outcome under each explanation: a row an outcome; the rows add up to 1 */
  outcomes: readonly (readonly number[])[];
  /** the faults that it asks about: once they are cured it tells nothing */
  faults: readonly number[];
  /** attempts after which what it looks at is not there any more */
  voided: readonly number[];
};

export type LadderProblem = {
  /**
   * whole explanations of what is wrong, by probability; they add up to 1. What an attempt or a check tells moves them,
   * so that a failed attempt is not independent of the next
   */
  explanations?: readonly number[];
  checks?: readonly PolicyCheck[];
  faults: readonly LadderFault[];
  attempts: readonly LadderAttempt[];
  /** strip-down from closed to each depth, ascending; the first is closed and costs nothing */
  depths: readonly { cost: number; minutes: number }[];
  openedTo: number;
  /** going price by grade */
  price: readonly [number, number, number];
  /** what else limits the grade */
  cap: Cap;
  sale: SaleTerms;
  /** what a unit that comes back costs, and how often one does for no reason of ours */
  comebackCost: number;
  comeback: number;
  /** what giving up brings at each depth, and once something broke */
  giveUp: readonly number[];
  giveUpBroken: number;
};

/** What a sale leaves of its price by fees, carriage and tax, in minor units. */
export const taking = (price: number, t: SaleTerms): number =>
  price - t.feeShare * price - t.fixed - t.tax.share * Math.max(0, price - t.tax.above);

/** What selling brings at a grade, for a share of the price, where so many units stay sold. */
export const sold = (p: LadderProblem, cap: Cap, share: number, kept: number): number =>
  taking(p.price[cap] * share, p.sale) - (1 - kept) * p.comebackCost;

/** What opening costs from one depth to another. */
export const opening = (p: LadderProblem, from: number, to: number): number =>
  to > from ? p.depths[to]!.cost - p.depths[from]!.cost : 0;

export const openingMinutes = (p: LadderProblem, from: number, to: number): number =>
  to > from ? p.depths[to]!.minutes - p.depths[from]!.minutes : 0;
