/** The shop's own seal, held against what is read when a unit comes back. */

export const SEALS = ["whole", "broken", "other"] as const;
export type SealState = (typeof SEALS)[number];

const plain = (number: string): string => number.replace(/[\s-]/g, "").toLowerCase();

/**
 * Whether it is the seal that was put on; spaces, dashes and case are not told apart. Null where none was put on, or
 * none was read though it is not said to be broken.
 */
export function sealState(putOn: string, read: string, isBroken: boolean): SealState | null {
  if (plain(putOn) === "") return null;
  if (isBroken) return "broken";
  if (plain(read) === "") return null;
  return plain(read) === plain(putOn) ? "whole" : "other";
}

/** Whether hands of others were inside: what they did is neither covered nor held against a mend of ours. */
export const openedByOthers = (seal: SealState | null): boolean => seal === "broken" || seal === "other";
