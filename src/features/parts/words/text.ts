import type { PartClass, TellKind, Traits, Use } from "@/core/parts/catalogue";
import type { PartReading } from "@/core/parts/donor";
import type { FitWhy } from "@/core/parts/fit";
import type { PieceFinding } from "@/core/parts/inspection";
import type { BatchVerdict } from "@/core/parts/sampling";
import type { Choice } from "@/core/allocate/problem";
import type { PartState } from "@/contract/parts";
import { placeWords } from "@/text/names";
import { say } from "./words";
import { codeWords } from "@/words/codes";
import { figure, typedAmount } from "@/text/format";
import type { RowEffect, RowSaid } from "@/core/parts/csv";
import { findingWords } from "@/text/findings";

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
      return asked(
        w.trait,
        w.has && say("vMm", { v: w.has }),
        say("fromToMm", { from: w.wanted[0], to: w.wanted[1] }),
      );
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

export const verdictText = (v: BatchVerdict): string => {
  if (v.verdict === "accept") return say("goodEnoughAcceptIt");
  if (v.verdict === "reject") return say("tooManyBadOnesRejectIt");
  return say("measureMoreToMeasure", { measure: v.measure });
};

export const CHOICE_WORDS: Record<Choice, string> = {
  mend: say("mend"),
  sell: say("sellAsItIs"),
  strip: say("strip"),
  keep: say("keep"),
  scrap: say("scrap"),
  "hand-back": say("handBack"),
};

/** What a row of a file would do, or what is wrong with it. */
export const EFFECT_WORDS: Record<RowEffect["effect"], string> = {
  new: say("newRow"),
  changes: say("changed"),
  same: say("same"),
  error: say("error"),
};

const amount = typedAmount;
const BROKEN: Record<string, string> = {
  TooFewFields: say("fewerCellsThanTheHeader"),
  TooManyFields: say("moreCellsThanTheHeader"),
};
const SAID: { [C in RowSaid["code"]]: (s: Extract<RowSaid, { code: C }>) => string } = {
  "header-long": ({ needs }) => say("theHeaderIsTooLong", { needs }),
  "header-twice": ({ column }) => say("theHeaderNamesTwice", { column }),
  "header-lacks": ({ lacks, needs }) => say("theHeaderLacks", { lacks, needs }),
  unreadable: ({ why }) => say("thisRowCannotBeRead", { why: BROKEN[why] ?? say("aQuotationMarkIsWrong") }),
  "too-many": ({ most }) => say("atMostRowsAtOnce", { most }),
  twice: ({ what }) => (what === "code" ? say("thisCodeStandsTwice") : say("thisBatchStandsTwice")),
  trait: ({ pair }) => say("traitsShouldReadNameValue", { pair }),
  found: ({ place }) => `${place.path || say("theRow")}: ${findingWords(place.message)}`,
  "no-amount": ({ column, text }) => say("isNoAmount", { column, text }),
  "no-part": ({ name }) => say("partIsNotInTheCatalogue", { name: name || say("emptyCell") }),
  "no-supplier": ({ name }) => say("supplierIsNotKnown", { name: name || say("emptyCell") }),
  "no-count": ({ text }) => say("onHandIsNoWholeNumber", { text }),
  bin: () => say("binLettersAndDigits"),
  "nothing-received": () => say("onHandAtLeastOne"),
  "no-batch": () => say("thereIsNoSuchBatch"),
  holds: ({ part }) => say("thisBatchHolds", { part }),
  named: ({ name }) => name,
  becomes: ({ field, had, now }) =>
    say("fieldBecomes", { field, had: had || say("nothing"), now: now || say("nothing") }),
  pack: ({ pieces, priceMinor }) => say("piecesForPrice", { pieces, price: amount(priceMinor) }),
  price: ({ hadMinor, priceMinor }) =>
    say("becomes", { had: hadMinor === null ? say("noPrice") : amount(hadMinor), now: amount(priceMinor) }),
  received: ({ pieces, bin, costMinor }) => say("receivedInto", { pieces, bin, cost: amount(costMinor) }),
  counted: ({ had, now }) => say("countedBecomes", { had, now }),
  moves: ({ from, to }) => say("movesFromTo", { from, to }),
};
export const rowWords = (r: Pick<RowEffect, "said">): string =>
  r.said.map((s) => (SAID[s.code] as (s: RowSaid) => string)(s)).join("; ");
/** What a row is of: a part, a batch, or a part by its supplier. */
export function rowAbout({ row, about: [name = "", supplier] }: Pick<RowEffect, "row" | "about">): string {
  if (row === 0) return say("theWhole");
  return supplier === undefined ? name : say("partBySupplier", { part: name, supplier });
}
