import type { Minor } from "../money/money";

/** What a customer owes: what they agreed to, for what was cured, and nothing else. */

export type Agreement = {
  /** the fault as it was asked about */
  number: number;
  found: string;
  words: string;
  priceMinor: Minor;
  fault: "open" | "mended" | "accepted" | "withdrawn";
};
export type BillLine = Omit<Agreement, "fault"> & { billed: boolean };
export type Bill = {
  lines: BillLine[];
  sumMinor: Minor;
  /** the most that may be asked for: the sum agreed for what was cured, else what they said at the door; null where neither */
  ceilingMinor: Minor | null;
};

/**
 * The bill of a customer's unit. Work that was agreed to and did not cure what it was for costs nothing.
 * @param limitMinor what they said at the door that it may cost, which counts until something was agreed
 */
export function billOf(agreed: readonly Agreement[], limitMinor: Minor | null): Bill {
  const lines = agreed.map(({ fault, ...a }) => ({ ...a, billed: fault === "mended" }));
  const sumMinor = lines.reduce((sum, l) => sum + (l.billed ? l.priceMinor : 0), 0);
  return { lines, sumMinor, ceilingMinor: agreed.length > 0 ? sumMinor : limitMinor };
}
