import type { PartClass, TellKind, Traits, Use } from "@/core/parts/catalogue";
import type { PartReading } from "@/core/parts/donor";
import type { FitWhy } from "@/core/parts/fit";
import type { PieceFinding } from "@/core/parts/inspection";
import type { BatchVerdict } from "@/core/parts/sampling";
import type { Choice } from "@/core/allocate/problem";
import type { PartState } from "@/contract/parts";
import { placeWords } from "./names";
import { say } from "@/words/parts";
import { codeWords } from "@/words/codes";
import { figure } from "./format";

/** Words for parts, fit, inspection and the plan. */

export const CLASS_WORDS: Record<PartClass, string> = {
  part: say("part"),
  consumable: say("consumable"),
  odds: say("oddsAndEnds"),
  kit: say("kit"),
  assembly: say("assembly"),
  tool: say("tool"),
};
export const USE_WORDS: Record<Use, string> = {
  precise: say("forPreciseAim"),
  sale: say("forSale"),
  casual: say("forCasualPlay"),
  own: say("forOwnUseOnly"),
  never: say("never"),
};
const TRAIT_WORDS: Record<keyof Traits, string> = {
  side: say("side"),
  base: say("base"),
  heightMm: say("height"),
  thicknessMm: say("thickness"),
  clip: say("clip"),
  sensor: say("sensor"),
  supplyLeg: say("supplyLeg"),
  generation: say("generation"),
  connector: say("connector"),
  colour: say("colour"),
};
export const traitText = (t: Traits): string =>
  (Object.entries(t) as [keyof Traits, string | number][])
    .filter(([k, v]) => !(k === "side" && v === "either"))
    .map(([k, v]) => `${TRAIT_WORDS[k]} ${typeof v === "number" ? say("vMm", { v }) : codeWords(v)}`)
    .join(", ");

export const TELL_WORDS: Record<TellKind, string> = {
  "inner-colour": say("innerColour"),
  "moulded-code": say("mouldedCode"),
  alignment: say("alignment"),
  thickness: say("thickness"),
  feel: say("feel"),
};

const asked = (trait: keyof Traits, has: string | null | 0, wanted: string): string =>
  has
    ? say("traitHasAskedIsWanted", { trait: TRAIT_WORDS[trait], has, wanted })
    : say("itsTraitIsNotKnownWanted", { trait: TRAIT_WORDS[trait], wanted });

export function fitWhyText(w: FitWhy): string {
  switch (w.code) {
    case "kind":
      return say("theSlotTakesAWantedThis", { wanted: codeWords(w.wanted), has: codeWords(w.has) });
    case "no-fit-data":
      return say("theModelSaysNothingAboutFit");
    case "rule":
      return w.words;
    case "trait":
      return asked(w.trait, w.has && codeWords(w.has), codeWords(w.wanted));
    case "length":
      return asked(w.trait, w.has && say("vMm", { v: w.has }), say("fromToMm", { from: w.wanted[0], to: w.wanted[1] }));
  }
}

export const STATE_WORDS: Record<PartState, string> = {
  good: say("testedGood"),
  unknown: say("notTested"),
  worn: say("worn"),
  bad: say("bad"),
  gone: say("gone"),
};
export const FOUND_WORDS: Record<PartReading["why"][number]["found"], string> = {
  fault: say("anOpenFault"),
  fail: say("fails"),
  C: say("gradeC"),
  good: say("good"),
  "not-tested": say("notTested"),
};
export const readingText = (r: PartReading): string =>
  r.why.map((w) => `${placeWords(w.place)} ${FOUND_WORDS[w.found]}`).join(", ");

export const BATCH_STATUS_WORDS: Record<string, string> = {
  waiting: say("toBeMeasured"),
  open: say("onTheShelf"),
  rejected: say("rejectedLocked"),
  disposed: say("disposedOf"),
};

export function findingText(f: PieceFinding): string {
  const share = (x: number) => `${figure(100 * x, 1)} %`;
  switch (f.code) {
    case "imbalance":
      return say("imbalanceValueAtMostLimit", { value: share(f.value), limit: share(f.limit) });
    case "leg-open":
      return say("aLegIsOpen");
    case "thickness":
      return say("valueMmThickLowToHigh", { value: f.value, low: f.low, high: f.high });
    case "feel":
      return say("feelValueOf5AtLeast", { value: f.value, limit: f.limit });
    case "tell":
      return say("kindLikeACopys", { kind: TELL_WORDS[f.kind as TellKind] ?? f.kind });
    case "missing":
      return say("whatNotMeasured", { what: codeWords(f.what) });
  }
}

export const verdictText = (v: BatchVerdict): string =>
  v.verdict === "accept"
    ? say("goodEnoughAcceptIt")
    : v.verdict === "reject"
      ? say("tooManyBadOnesRejectIt")
      : say("measureMoreToMeasure", { measure: v.measure });

export const CHOICE_WORDS: Record<Choice, string> = {
  mend: say("mend"),
  sell: say("sellAsItIs"),
  strip: say("strip"),
  keep: say("keep"),
  scrap: say("scrap"),
  "hand-back": say("handBack"),
};
