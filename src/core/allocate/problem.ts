import type { Minor } from "../money/money";

/**
 * What a plan is made from: units with what could be done with each, parts on the shelf and in donors, and
 * what can be bought.
 */

export const CHOICES = ["mend", "sell", "strip", "keep", "scrap", "hand-back"] as const;
export type Choice = (typeof CHOICES)[number];

/** One place of a unit that takes `count` pieces, of any of these parts. */
export type Need = { slot: string; count: number; from: readonly string[] };
export type PlanOption = {
  id: string;
  choice: Choice;
  /** what is done, one route a place; of mending only */
  routes?: readonly string[];
  /**
   * what it brings from now on, without the parts that it takes; of stripping, with all freed parts at their
   * worth
   */
  value: Minor;
  /** bench minutes */
  minutes: number;
  needs: readonly Need[];
};
/** A part that stripping frees, and what it brings when nobody here needs it. */
export type Freed = { slot: string; part: string; count: number; worth: Minor };
export type PlanUnit = { id: string; options: readonly PlanOption[]; frees: readonly Freed[] };
export type StockLine = { part: string; count: number; worth: Minor };
export type PlanOffer = {
  id: string;
  supplier: string;
  part: string;
  pack: number;
  breaks: readonly { packs: number; priceMinor: Minor }[];
  mostPacks: number;
};
export type Lock = { unit: string; option: string; as: "keep" | "not" };
export type PlanProblem = {
  units: readonly PlanUnit[];
  /** units that are donors already: what is left in them */
  donors: readonly { id: string; frees: readonly Freed[] }[];
  stock: readonly StockLine[];
  /** what is ordered or waits for its inspection: it can be counted on and not yet put aside */
  ordered: readonly StockLine[];
  offers: readonly PlanOffer[];
  suppliers: readonly { id: string; carriageMinor: Minor; freeFromMinor: Minor | null }[];
  /** what a bought piece that is left over is still worth, by part */
  keeps: Readonly<Record<string, Minor>>;
  minutes: number;
  locks: readonly Lock[];
};

/** Where each piece of a need comes from. */
export type Source =
  | { kind: "stock" }
  | { kind: "ordered" }
  | { kind: "donor"; donor: string; slot: string }
  | { kind: "bought"; offer: string };
export type Flow = { unit: string; slot: string; part: string; count: number; source: Source };
export type Chosen = { unit: string; option: PlanOption; flows: Flow[] };
export type Order = { offer: string; packs: number; costMinor: Minor };
export type Plan = {
  status: "proven" | "stopped" | "impossible";
  value: number;
  bound: number;
  gap: number;
  seconds: number;
  chosen: Chosen[];
  orders: Order[];
  carriageMinor: Minor;
  minutes: number;
};
