import type { PartClass, TellKind, Traits, Use } from "@/core/parts/catalogue";
import type { PartReading } from "@/core/parts/donor";
import type { FitWhy } from "@/core/parts/fit";
import type { PieceFinding } from "@/core/parts/inspection";
import type { BatchVerdict } from "@/core/parts/sampling";
import type { Choice } from "@/core/allocate/problem";
import type { PartState } from "@/contract/parts";
import { placeWords } from "./names";

/** Words for parts, fit, inspection and the plan. */

export const CLASS_WORDS: Record<PartClass, string> = {
  part: "part",
  consumable: "consumable",
  odds: "odds and ends",
  kit: "kit",
  assembly: "assembly",
  tool: "tool",
};
export const USE_WORDS: Record<Use, string> = {
  precise: "for precise aim",
  sale: "for sale",
  casual: "for casual play",
  own: "for own use only",
  never: "never",
};
const TRAIT_WORDS: Record<keyof Traits, string> = {
  side: "side",
  base: "base",
  heightMm: "height",
  thicknessMm: "thickness",
  clip: "clip",
  sensor: "sensor",
  supplyLeg: "supply leg",
  generation: "generation",
  connector: "connector",
  colour: "colour",
};
export const traitText = (t: Traits): string =>
  (Object.entries(t) as [keyof Traits, string | number][])
    .filter(([k, v]) => !(k === "side" && v === "either"))
    .map(([k, v]) => `${TRAIT_WORDS[k]} ${typeof v === "number" ? `${v} mm` : v.replaceAll("-", " ")}`)
    .join(", ");

export const TELL_WORDS: Record<TellKind, string> = {
  "inner-colour": "inner colour",
  "moulded-code": "moulded code",
  alignment: "alignment",
  thickness: "thickness",
  feel: "feel",
};

export function fitWhyText(w: FitWhy): string {
  switch (w.code) {
    case "kind":
      return `the slot takes a ${w.wanted.replaceAll("-", " ")}, this is a ${w.has.replaceAll("-", " ")}`;
    case "no-fit-data":
      return "the model says nothing about fit here";
    case "rule":
      return w.words;
    case "trait":
      return w.has === null
        ? `its ${TRAIT_WORDS[w.trait]} is not known, ${w.wanted.replaceAll("-", " ")} is asked`
        : `${TRAIT_WORDS[w.trait]} ${w.has.replaceAll("-", " ")}, asked is ${w.wanted.replaceAll("-", " ")}`;
  }
}

export const STATE_WORDS: Record<PartState, string> = {
  good: "tested good",
  unknown: "not tested",
  worn: "worn",
  bad: "bad",
  gone: "gone",
};
export const FOUND_WORDS: Record<PartReading["why"][number]["found"], string> = {
  fault: "an open fault",
  fail: "fails",
  C: "grade C",
  good: "good",
  "not-tested": "not tested",
};
export const readingText = (r: PartReading): string =>
  r.why.map((w) => `${placeWords(w.place)} ${FOUND_WORDS[w.found]}`).join(", ");

export const BATCH_STATUS_WORDS: Record<string, string> = {
  waiting: "to be measured",
  open: "on the shelf",
  rejected: "rejected, locked",
  disposed: "disposed of",
};

export function findingText(f: PieceFinding): string {
  const share = (x: number) => `${(100 * x).toFixed(1)} %`;
  switch (f.code) {
    case "imbalance":
      return `imbalance ${share(f.value)}, at most ${share(f.limit)}`;
    case "leg-open":
      return "a leg is open";
    case "thickness":
      return `${f.value} mm thick, ${f.low} to ${f.high} is asked`;
    case "feel":
      return `feel ${f.value} of 5, at least ${f.limit}`;
    case "tell":
      return `${TELL_WORDS[f.kind as TellKind] ?? f.kind} like a copy's`;
    case "missing":
      return `${f.what} not measured`;
  }
}

export const verdictText = (v: BatchVerdict): string =>
  v.verdict === "accept"
    ? "Good enough: accept it"
    : v.verdict === "reject"
      ? "Too many bad ones: reject it"
      : `${v.measure} more to measure`;

export const CHOICE_WORDS: Record<Choice, string> = {
  mend: "mend",
  sell: "sell as it is",
  strip: "strip",
  keep: "keep",
  scrap: "scrap",
  "hand-back": "hand back",
};
