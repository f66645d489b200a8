import { z } from "../base/schema";

import type { Minor } from "./money";

/**
 * What a sale and an hour cost the shop. Shares are 0 to 1, money in minor units of the one shop currency.
 */

const minor = z.int().min(0).max(1_000_000);
const share = z.number().min(0).max(1);

export const ratesSchema = z.strictObject({
  labourPerHour: minor,
  feeShare: share,
  feeFixed: minor,
  carriageOut: minor,
  /**
   * what a returned unit costs in carriage and minutes, and the share of units that come back for no fault of
   * the mend
   */
  returnCarriage: minor,
  returnMinutes: z.int().min(0).max(600),
  returnBase: share,
  /** chance that a like part on the other side wears out within the warranty */
  twinReturn: share,
  shelfPerDay: minor,
  retestMinutes: z.int().min(0).max(120),
  stripHours: z.number().min(0).max(20),
  /** not registered; on the whole price; on what it sells above its purchase */
  tax: z.enum(["none", "full", "margin"]),
  taxRate: share,
  /** standard deviation of a sale price, as a share of it */
  priceSpread: share,
  /** share of a unit's part values that stripping really brings */
  partsYield: share,
  /** the hardest route that the shop does itself, 1 to 4 */
  skill: z.int().min(1).max(4),
  /** days within which a seller can still be asked to answer for what came */
  claimDays: z.int().min(0).max(365),
});
export type Rates = z.infer<typeof ratesSchema>;

export const HOUSE_RATES: Rates = {
  labourPerHour: 1500,
  feeShare: 0.11,
  feeFixed: 35,
  carriageOut: 490,
  returnCarriage: 980,
  returnMinutes: 25,
  returnBase: 0.02,
  twinReturn: 0.06,
  shelfPerDay: 3,
  retestMinutes: 4,
  stripHours: 0.4,
  tax: "none",
  taxRate: 0.23,
  priceSpread: 0.12,
  partsYield: 0.45,
  skill: 4,
  claimDays: 14,
};

export type TermCode =
  | "price"
  | "fee-share"
  | "fee-fixed"
  | "carriage-out"
  | "tax"
  | "returns"
  | "labour"
  | "strip-labour"
  | "part"
  | "specialist"
  | "gift"
  | "shelf"
  | "parts-value"
  | "purchase"
  | "carriage-in"
  | "retest";
export type Term = { code: TermCode; minor: Minor; note?: string };

export const totalOf = (terms: readonly Term[]): Minor => terms.reduce((sum, t) => sum + t.minor, 0);

export const labourOf = (minutes: number, rates: Rates): Minor =>
  Math.round((minutes * rates.labourPerHour) / 60);

/**
 * Tax that a price bears: in the price, or in what it is above the purchase. Rate r in a price p is p r / (1
 * + r).
 */
export function taxTerms(rates: Rates, purchase: Minor): { share: number; above: Minor } {
  const inPrice = rates.taxRate / (1 + rates.taxRate);
  if (rates.tax === "none") return { share: 0, above: 0 };
  return { share: inPrice, above: rates.tax === "margin" ? purchase : 0 };
}

/** A sale, term by term; they add up to what it leaves. `returnChance` is of a unit so sold. */
export function saleTerms(price: Minor, purchase: Minor, returnChance: number, rates: Rates): Term[] {
  const tax = taxTerms(rates, purchase);
  return [
    { code: "price", minor: price },
    { code: "fee-share", minor: -Math.round(rates.feeShare * price) },
    { code: "fee-fixed", minor: -rates.feeFixed },
    { code: "carriage-out", minor: -rates.carriageOut },
    { code: "tax", minor: -Math.round(tax.share * Math.max(0, price - tax.above)) },
    { code: "returns", minor: -Math.round(returnChance * returnCost(rates)) },
  ].filter((t) => t.minor !== 0) as Term[];
}

/** What one return costs: both ways, and the minutes that it takes. */
export const returnCost = (rates: Rates): Minor =>
  rates.returnCarriage + labourOf(rates.returnMinutes, rates);
