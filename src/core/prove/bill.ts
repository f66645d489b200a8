import type { Minor } from "../money/money";

/** What a customer owes: what they agreed to, for what was cured, and nothing else. */

export type Agreement = {
  /** the fault as it was asked about */
  number: number;
  found: string;
  words: string;
  priceMinor: Minor;
  fault: "open" | "mended" | "accepted" | "withdrawn";
  /** what was wanted with it, the like part or a refresh, and whether each is in */
  extras?: readonly { words: string; priceMinor: Minor; fitted: boolean }[];
};
/** `isLike`: of a part that was wanted with it. */
export type BillLine = Omit<Agreement, "fault" | "extras"> & { billed: boolean; isLike: boolean };
export type Bill = {
  lines: BillLine[];
  sumMinor: Minor;
  /** the most that may be asked for: the sum agreed for what was cured, else what they said at the door; null where neither */
  ceilingMinor: Minor | null;
};

/**
 * The bill of a customer's unit. Work that was agreed to and did not cure what it was for costs nothing, nor does a
 * like part that is not in.
 * @param limitMinor what they said at the door that it may cost, which counts until something was agreed
 */
export function billOf(agreed: readonly Agreement[], limitMinor: Minor | null): Bill {
  const lines = agreed.flatMap(({ fault, extras = [], ...a }): BillLine[] => [
    { ...a, billed: fault === "mended", isLike: false },
    ...extras.map((e) => ({
      ...a,
      words: e.words,
      priceMinor: e.priceMinor,
      billed: e.fitted,
      isLike: true,
    })),
  ]);
  const sumMinor = lines.reduce((sum, l) => sum + (l.billed ? l.priceMinor : 0), 0);
  return { lines, sumMinor, ceilingMinor: agreed.length > 0 ? sumMinor : limitMinor };
}
