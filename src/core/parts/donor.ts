import type { Grade } from "../grade/grade";
import type { Minor } from "../money/money";
import type { Slot } from "../profile/slots";
import type { CheckResult } from "../bench/result";
import { type Catalogue, type FitRule, type Part, partOf } from "./catalogue";
import { partsThatFit } from "./fit";
import { spread } from "../money/spread";

/**
 * A donor is a map of its parts. What a part is like is read from the unit's own tests, and never guessed.
 */

export type DonorEvidence = {
  /** the latest full test's grade of each control */
  controls: Readonly<Record<string, Grade>>;
  checks: Readonly<Record<string, CheckResult>>;
  /** places with a fault that was never mended */
  faulty: readonly string[];
};
export type PartCondition = "good" | "unknown" | "worn" | "bad";
export type PartReading = {
  state: PartCondition;
  why: { place: string; found: "fault" | "fail" | "C" | "good" | "not-tested" }[];
};

/**
 * Bad when anything that the part serves fails, worn when something only just passes (grade C), good when all
 * of it was tested and passes, else unknown. A part that serves what others serve too (a board) is no better
 * known than the worst of it.
 */
export function partCondition(slot: Pick<Slot, "serves">, e: DonorEvidence): PartReading {
  const why = slot.serves.map((place): PartReading["why"][number] => {
    if (e.faulty.includes(place)) return { place, found: "fault" };
    const grade = e.controls[place];
    if (grade === "fail") return { place, found: "fail" };
    if (grade === "C") return { place, found: "C" };
    if (grade === "A" || grade === "B") return { place, found: "good" };
    const check = e.checks[place];
    if (check === "fail") return { place, found: "fail" };
    return { place, found: check === "pass" ? "good" : "not-tested" };
  });
  const has = (found: string) => why.some((w) => w.found === found);
  const stateOf = () => {
    if (has("fault") || has("fail")) return "bad";
    if (has("not-tested")) return "unknown";
    if (has("C")) return "worn";
    return "good";
  };
  return {
    state: stateOf(),
    why,
  };
}

/**
 * The catalogue's entry for what a donor came with, where the catalogue lists no original for the slot: an
 * original of its own, which fits where it came from; `words` is what a person reads of it. Its code is made
 * of model and slot, so that a second donor of the kind finds the same entry.
 */
export function ownPart(
  model: string,
  revision: string | null,
  slot: Pick<Slot, "id" | "kind">,
  words: { name: string; why: string },
): { part: Part; rule: FitRule } {
  const code = ownCode(model, slot);
  const came = { fits: true, why: words.why };
  return {
    part: {
      code,
      class: "part",
      kind: slot.kind,
      name: words.name,
      make: "original",
      traits: {},
      tells: [],
      lacks: [],
      use: "precise",
      check: null,
      contents: [],
      unit: "piece",
      low: 0,
      uses: "",
      disposal: "",
    },
    rule: { part: code, model, revision, slot: slot.id, mechanical: came, electrical: came, deviation: "" },
  };
}
/**
 * Which parts may sit in a donor's slot, for certain where it was fitted here: that one; else what it came
 * with, which is an original of the catalogue that needs nothing else in its stead, or where the catalogue
 * sells none the donor's own.
 */
export function partsInSlot(
  catalogue: Catalogue,
  model: string,
  revision: string | null,
  slot: Slot,
  fittedHere: string | null,
): string[] {
  if (fittedHere !== null) return [fittedHere];
  const originals = partsThatFit(catalogue, { model, revision, slot })
    .filter((f) => f.instead.length === 0 && partOf(catalogue, f.part)?.make === "original")
    .map((f) => f.part);
  return originals.length ? originals : [ownCode(model, slot)];
}
const CODE_LENGTH = 24;
function ownCode(model: string, slot: Pick<Slot, "id">): string {
  const whole = `OWN-${model}-${slot.id}`.toUpperCase().replace(/[^A-Z0-9]+/g, "-");
  return whole.length <= CODE_LENGTH
    ? whole
    : `${whole.slice(0, CODE_LENGTH - 7).replace(/-$/, "")}-${digest(whole)}`;
}
/** Six characters that tell long names apart. */
const digest = (text: string): string =>
  [...text]
    .reduce((h, c) => (Math.imul(h, 31) + c.charCodeAt(0)) >>> 0, 7)
    .toString(36)
    .toUpperCase()
    .slice(-6)
    .padStart(6, "0");

/** How much of its going price a part in each state weighs when the donor's cost is spread over its parts. */
export const STATE_WEIGHT: Record<PartCondition | "gone", number> = {
  good: 1,
  unknown: 0.5,
  worn: 0.4,
  bad: 0,
  gone: 0,
};

/**
 * Spreads what a donor cost over the parts that can be had from it; parts already taken keep the share they
 * left with. Adds up to the cent; all of it stays unspread when nothing can be had.
 */
export function donorShares(
  cost: Minor,
  parts: readonly { slot: string; worth: Minor; state: PartCondition | "gone"; takenAt: Minor | null }[],
): Map<string, Minor> {
  const taken = parts.reduce((s, p) => s + (p.takenAt ?? 0), 0);
  const left = parts.filter((p) => p.takenAt === null && STATE_WEIGHT[p.state] > 0);
  const shares = spread(
    Math.max(0, cost - taken),
    left.map((p) => p.worth * STATE_WEIGHT[p.state]),
  );
  return new Map([
    ...parts.map((p): [string, Minor] => [p.slot, p.takenAt ?? 0]),
    ...left.map((p, i): [string, Minor] => [p.slot, shares[i]!]),
  ]);
}
