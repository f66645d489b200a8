/**
 * What a schema found, as a rule and what it says about it; the sentence lives in src/text/findings. A
 * validator's messages are texts, so that a finding travels in one as JSON.
 */

/** What a list's entries are, where each needs an id of its own or one is named that is not there. */
export type Listed =
  | "accessory"
  | "board"
  | "cable"
  | "clip"
  | "control"
  | "fastener"
  | "half"
  | "offer"
  | "part"
  | "piece"
  | "revision"
  | "route"
  | "slot"
  | "step"
  | "supplier"
  | "wiring";

export type Findings = {
  missing: object;
  kind: { wanted: string };
  "too-large": { most: number | null; below: boolean };
  "too-small": { least: number | null; above: boolean };
  "too-long": { most: number; of: "letters" | "entries" };
  "too-short": { least: number; of: "letters" | "entries" };
  empty: object;
  multiple: { of: number };
  form: { wanted: string };
  choice: { of: string };
  "not-known": { keys: string };
  "no-form": object;
  unfit: object;
  "no-json": object;
  /** which letters an id or a code may have */
  letters: { of: "small" | "small-hyphens" | "capitals" | "mixed" | "currency" | "bin" };
  "own-id": { of: Listed };
  "not-listed": { by: string; what: Listed; name: string };
  circle: { of: "wiring" | "guide" };
  apart: { by: number };
  years: { from: number; to: number };
  "low-high": object;
  "from-to": object;
  falls: object;
  rises: object;
  "times-fall": object;
  "bad-rate": object;
  "good-bad": object;
  "held-tried": object;
  "odds-over-one": { route: string };
  "freed-twice": { id: string; first: string; second: string };
  "never-freed": { id: string; what: Listed };
  "too-hot": { id: string };
  "too-deep": { id: string };
  "needs-kind": { code: string };
  "has-contents": { code: string };
  "holds-itself": { code: string };
  "first-break": { part: string; supplier: string };
  "breaks-rise": { part: string; supplier: string };
};
export type Finding = { [R in keyof Findings]: { rule: R } & Findings[R] }[keyof Findings];

/** A finding as a schema's message. */
export const found = (finding: Finding): string => JSON.stringify(finding);

/** The finding in a message of ours, or null for one that is a sentence already. */
export function findingIn(message: string): Finding | null {
  if (!message.startsWith('{"rule":')) return null;
  try {
    return JSON.parse(message) as Finding;
  } catch {
    return null; // cut short on its way
  }
}

/** Where something was found, and what; a place is empty where it is the whole. */
export type Place = { path: string; message: string };

/** The first findings of a validator, each with its place. */
export const placesOf = (
  error: { issues: { path: PropertyKey[]; message: string }[] },
  most: number,
): Place[] =>
  error.issues
    .slice(0, most)
    .map((i) => ({ path: i.path.join(".").slice(0, 120), message: i.message.slice(0, 600) }));
