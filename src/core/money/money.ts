/**
 * Money is a whole number of minor units of the shop's one currency. This is the only place that reads or
 * adds it.
 */

export type Minor = number;

const AMOUNT = /^\s*(\d{1,9})(?:[.,](\d{1,2}))?\s*$/;

/**
 * Reads what a person types ("12", "12.5", "12,50") as minor units of a currency with two decimals; null if
 * it is no amount.
 */
export function parseAmount(text: string): Minor | null {
  const match = AMOUNT.exec(text);
  return match ? Number(match[1]) * 100 + Number((match[2] ?? "").padEnd(2, "0")) : null;
}

/** The same where leaving it empty means nothing, such as a carriage. */
export const parseOptional = (text: string): Minor | null => (text.trim() === "" ? 0 : parseAmount(text));

export const addUp = (amounts: readonly (Minor | null)[]): Minor =>
  amounts.reduce<Minor>((sum, a) => sum + (a ?? 0), 0);
