import type { Market } from "../profile/slots";
import type { Minor } from "../money/money";
import { type Rates, returnCost, saleTerms, taxTerms, totalOf } from "../money/rates";
import { quantile } from "../math/quantile";

/** A price from the shop's own sales, with its spread, and the floor below which the unit loses money. */

export type Suggestion = {
  priceMinor: Minor | null;
  /**
   * own sales: an interval that covers the middle price in nine of ten such samples; null when there are too
   * few
   */
  interval: [Minor, Minor] | null;
  cases: number;
  from: "own-sales" | "going-price" | "none";
  /** what it came without, in the price already */
  missingMinor: Minor;
};

const FEWEST = 5;

/**
 * The median of own sales of that model and grade, with a 90 % interval of the median by order statistics
 * (binomial, distribution free); below five sales the going price of the grade stands in.
 * Whole units are sold: what this one came without is taken off, never below nothing.
 * @example suggestPrice([3900, 4100, 4200, 4300, 4500], market, "A").priceMinor // 4200
 */
export function suggestPrice(
  sales: readonly Minor[],
  market: Market,
  grade: string,
  missingMinor: Minor = 0,
): Suggestion {
  const less = (price: Minor): Minor => Math.max(0, price - missingMinor);
  const sorted = [...sales].sort((a, b) => a - b);
  const n = sorted.length;
  if (n >= FEWEST) {
    const k = lowerRank(n);
    return {
      priceMinor: less(Math.round(quantile(sorted, 0.5))),
      interval: [less(sorted[k]!), less(sorted[n - 1 - k]!)],
      cases: n,
      from: "own-sales",
      missingMinor,
    };
  }
  const goingOf = () => {
    if (grade === "A") return market.aMinor;
    if (grade === "B") return market.bMinor;
    if (grade === "C") return market.cMinor;
    return 0;
  };
  const going = goingOf();
  return {
    priceMinor: going > 0 ? less(going) : null,
    interval: null,
    cases: n,
    from: going > 0 ? "going-price" : "none",
    missingMinor,
  };
}

/**
 * The largest number of sales that may be cut off on each side so that the rest covers the median with at
 * least 90 %.
 */
function lowerRank(n: number): number {
  let term = 0.5 ** n;
  let below = term;
  let k = 0;
  while (2 * below <= 0.1 && k < Math.floor(n / 2)) {
    k++;
    term *= (n - k + 1) / k;
    below += term;
  }
  return Math.max(0, k - 1);
}

/**
 * The least price at which a sale gives back what the unit cost, after all that a sale takes: fees, postage,
 * tax, and returns with their chance. `purchase` is the part of the costs that a margin tax leaves out. Whole
 * minor units, found by the sale's own terms.
 */
export function priceFloor(
  costs: Minor,
  sale: { purchase: Minor; returnChance: number },
  rates: Rates,
): Minor {
  const left = (price: Minor) => totalOf(saleTerms(price, sale.purchase, sale.returnChance, rates)) - costs;
  const tax = taxTerms(rates, sale.purchase);
  const fixed = costs + rates.feeFixed + rates.carriageOut + sale.returnChance * returnCost(rates);
  const taxed = (fixed - tax.share * tax.above) / (1 - rates.feeShare - tax.share);
  const untaxed = fixed / (1 - rates.feeShare); // below what is taxed at all
  let price = Math.max(0, Math.floor(untaxed <= tax.above ? untaxed : taxed) - 2);
  while (left(price) < 0) price++; // rounding of each term
  return price;
}
