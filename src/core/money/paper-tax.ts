import type { Minor } from "./money";
import type { Rates } from "./rates";

/** The tax that a paper names. Prices hold it already: r of a price p is p r / (1 + r). */

export const PAPER_TAXES = ["none", "full", "margin"] as const;
/** What is paid for: the shop's work on somebody's own unit, or goods that it bought second-hand. */
export type PaidFor = "work" | "goods";
export type PaperTax = {
  scheme: (typeof PAPER_TAXES)[number];
  rate: number;
  netMinor: Minor;
  taxMinor: Minor;
};

const within = (gross: Minor, rate: number): Minor => Math.round((gross * rate) / (1 + rate));

/**
 * What a bill says of tax. A shop under the margin names none on goods, since its buyers may not claim any; its
 * work for customers is no second-hand good and bears the whole.
 */
export function taxOnPaper(grossMinor: Minor, of: PaidFor, { tax, taxRate }: Rates): PaperTax {
  const scheme = tax === "margin" && of === "work" ? "full" : tax;
  const taxMinor = scheme === "full" ? within(grossMinor, taxRate) : 0;
  return { scheme, rate: scheme === "full" ? taxRate : 0, netMinor: grossMinor - taxMinor, taxMinor };
}

/**
 * What the shop owes of a paper, for its books: what the paper names, or under the margin the tax in what it
 * brought above its purchase; a loss owes none.
 */
export const taxOwed = (
  grossMinor: Minor,
  purchaseMinor: Minor,
  { scheme, taxMinor }: PaperTax,
  marginRate: number,
): Minor => (scheme === "margin" ? within(Math.max(0, grossMinor - purchaseMinor), marginRate) : taxMinor);
