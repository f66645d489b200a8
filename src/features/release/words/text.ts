import type { CertificateBody, Disclosure, SignatureState } from "@/contract/certificate";
import type { HandoverKind } from "@/contract/release";
import type { Condition, ConditionReason } from "@/core/grade/condition";
import type { Care } from "@/core/prove/care";
import type { Curve, CurveKind, CurvePoint } from "@/core/plots/curve";
import type { ProofKey, ProofResult, ProofWhy, Trigger } from "@/core/prove/proof";
import type { Make } from "@/core/profile/slots";
import { MAKE_WORDS } from "@/features/decide/words/text";
import { GRADE_WORDS, percent } from "@/text/measures";
import { idWords, personName } from "@/text/names";
import { codeWords } from "@/words/codes";
import { say } from "./words";

/** The interface's words for proving, releasing and standing behind it. */

const TRIGGER_ASKS: Record<Trigger, string> = {
  angle: say("holdAndUseItAtOdd"),
  tug: say("tugLightlyAtPlugCordAnd"),
  tap: say("tapItOnThePalmShake"),
  slow: say("moveSlowlyThroughTheWholeTravel"),
  warm: say("playUntilItIsWarmThen"),
  rim: say("pressAtTheRimOnEvery"),
  "as-told": say("doWhatTheComplaintTellsAs"),
};

type ProofWords = { name: string; ask: string };
const OTHER: Record<Exclude<ProofKey, `trigger.${Trigger}`>, ProofWords> = {
  silence: { name: say("silence"), ask: say("shakeAndTurnItAtThe") },
  "last-look": { name: say("lastLook"), ask: say("seamsFlushLatchesCaughtNoSqueezed") },
  rattle: { name: say("nothingRattles"), ask: say("shakeItAtTheEarWhat") },
  cells: { name: say("cellsBack"), ask: say("putBackWhatWasTakenOut") },
  cleaned: { name: say("cleaned"), ask: say("whatWasDirtyOrSmeltAt") },
  bond: { name: say("bondCleared"), ask: say("clearTheBondToTheBenchs") },
  storage: { name: say("chargeForStorage"), ask: say("readTheChargeThatItLeaves") },
};
const TRIGGER_NAMES: Record<Trigger, string> = {
  angle: say("oddAngles"),
  tug: say("tugs"),
  tap: say("taps"),
  slow: say("slowStrokes"),
  warm: say("warm"),
  rim: say("rim"),
  "as-told": say("theComplaintItself"),
};
export function proofWords(key: string): ProofWords {
  const trigger = key.startsWith("trigger.") ? (key.slice(8) as Trigger) : null;
  if (trigger)
    return {
      name: say("triggerNamed", { name: TRIGGER_NAMES[trigger] ?? trigger }),
      ask: TRIGGER_ASKS[trigger] ?? "",
    };
  return OTHER[key as keyof typeof OTHER] ?? { name: idWords(key), ask: "" }; // a line of an older sheet
}

export const proofWhyText = (why: ProofWhy): string => {
  if (why.code === "claim") return say("theComplaintWhy", { why: why.words });
  if (why.code === "dirty") return say("whatWasNotedAtTheDoor", { what: codeWords(why.what) });
  if (why.code === "fell") return say("itIsToldThatItFell");
  if (why.code === "rattled") return say("somethingRattledAtTheDoor", { what: codeWords(why.what) });
  if (why.code === "cells-out")
    return why.where ? say("itsCellsLieAt", { where: why.where }) : say("itsCellsWereTakenOut");
  if (why.code === "radio") return say("itHasARadio");
  if (why.code === "built-in-cell") return say("itHasABuiltInCell");
  return say("askedOfEveryUnit");
};

export const PROOF_RESULT_WORDS: Record<ProofResult | "not-done", string> = {
  pass: say("pass"),
  fail: say("fail"),
  cannot: say("cannotBeDone"),
  "not-done": say("notDone"),
};

export const CONDITION_WORDS: Record<Condition, string> = {
  fine: say("fine"),
  light: say("lightUse"),
  marked: say("marked"),
  worn: say("worn"),
};
const CONDITION_RULES: Record<ConditionReason["rule"], (n: number) => string> = {
  "broken-outside": (n) => say("nPlaceIsCrackedChewedOr", { n }),
  "many-marks": (n) => say("nScratchesOrScuffsMoreThan", { n }),
  "some-marks": (n) => say("nScratchesOrScuffsMoreThan2", { n }),
  residue: (n) => say("nStickyStainedOrGluedSpot", { n }),
  "shop-damage": (n) => say("nDamageOfOurOwnNot", { n }),
  smell: () => say("itSmeltAtTheDoorAnd"),
};
export const conditionRule = (r: { rule: string; count: number }): string =>
  CONDITION_RULES[r.rule as ConditionReason["rule"]]?.(r.count) ?? r.rule;

export const CARE_WORDS: Record<Care, string> = {
  "plug-straight": say("pushPlugsInStraightAndPull"),
  "no-food": say("playWithCleanDryHandsCrumbs"),
  "stick-light": say("guideTheSticksLightlyAndStore"),
  "dry-away": say("keepDrinksAwayFromItIf"),
  "soft-landing": say("putItDownDoNotLet"),
  "store-half-full": say("forALongerRestLeaveIt"),
  "strap-and-latch": say("slideTheLatchAllTheWay"),
  "out-of-reach-of-teeth": say("keepItOutOfReachOfTeeth"),
  "cord-no-bend": say("coilTheCordLooselyAndKeep"),
  "loose-cells-out": say("takeTheCellsOutBeforeA"),
};

const list = (xs: readonly string[]) => xs.join(", ");
/** A part's name with its make, which many a name holds already. */
const withMake = (name: string, make: Make | null): string =>
  make === null || name.includes(MAKE_WORDS[make]) ? name : `${name}, ${MAKE_WORDS[make]}`;

/** A fitted part as the certificate lists it. */
export const fittedText = (p: CertificateBody["parts"][number]): string =>
  `${p.place}: ${withMake(p.name, p.make)}, ${p.used ? say("used") : say("new")}${p.warrantyDays ? say("warrantyWarrantyDaysDays", { warrantyDays: p.warrantyDays }) : ""}`;

export function disclosureText(d: Disclosure): string {
  switch (d.code) {
    case "part":
      return say("nonOriginalPartName", { name: withMake(d.name, d.make) });
    case "typed-part":
      return say("partFittedAsItWasWritten", { name: d.name, what: d.what });
    case "donor-part":
      return say("usedPartFromADonorName", { name: d.name });
    case "route":
      return d.words.charAt(0).toUpperCase() + d.words.slice(1);
    case "glue":
      return say("glueWasUsedWords", { words: d.words });
    case "shim":
      return say("aShimOrPadIsInside", { words: d.words });
    case "upgrade":
      return say("changedFromHowItWasMade", { words: d.words });
    case "marks":
      return say("marksOutsideKinds", { kinds: list(d.kinds.map(codeWords)) });
    case "lost":
      return say("lostOrBrokenInsideAndLeft", { names: list(d.names) });
    case "damage":
      return say("damageDoneInTheWorkshopPlace", { place: idWords(d.place), what: d.what });
    case "missing":
      return say("doesNotComeWithNames", { names: list(d.names) });
    case "function-lost":
      return say("doesNotWorkOrIsNot", { names: list(d.names) });
    case "reading": {
      const facts = {
        reading: codeWords(d.reading),
        subject: d.subject === "main" ? "" : ` (${idWords(d.subject)})`,
      };
      return d.verdict === "fail" ? say("failedAtTheBench", facts) : say("unclearAtTheBench", facts);
    }
    case "broken":
      return say("seenBrokenInside", { name: d.name, finding: codeWords(d.finding) });
    case "accepted-fault":
      return say("knownAndLeftAsItIs", { words: d.words });
    case "provisional":
      return say("mendedForNowNotForGood", { words: d.words });
  }
}

export const HANDOVER_WORDS: Record<HandoverKind, string> = {
  sold: say("sold"),
  returned: say("returnedToItsOwner"),
};

export const SIGNATURE_WORDS: Record<SignatureState["state"], string> = {
  good: say("whatIsShownIsWhatWas"),
  tampered: say("whatIsShownIsNotWhat"),
  broken: say("theSignatureDoesNotHoldDo"),
  "unknown-key": say("signedWithAKeyThatIs"),
  unsigned: say("madeBeforeCertificatesWereSigned"),
};

/** A text for a listing, in general words and from the facts alone. */
export function listingText(
  c: Pick<
    CertificateBody,
    | "model"
    | "revision"
    | "grade"
    | "condition"
    | "controls"
    | "functions"
    | "limit"
    | "disclosures"
    | "warrantyDays"
    | "known"
  >,
): string {
  const tested = c.controls.filter((x) => x.grade !== "untested").length;
  const works = c.functions.filter((f) => f.result === "pass").map((f) => f.name);
  const not = c.functions.filter((f) => f.result === "not-tested").map((f) => f.name);
  return [
    say("modelRevisionFunctionGradeCondition", {
      model: c.model,
      revision: c.revision ? `, ${c.revision}` : "",
      grade: GRADE_WORDS[c.grade],
      condition: c.condition ? say("outsideGrade", { grade: CONDITION_WORDS[c.condition.grade] }) : "",
    }),
    say("testedOfControlsControlsMeasured", { tested, controls: c.controls.length }),
    works.length ? say("checkedAndWorkingWorks", { works: list(works) }) : "",
    not.length ? say("notTestedNot", { not: list(not) }) : "",
    c.limit ? say("limitLimit", { limit: c.limit }) : "",
    ...c.disclosures.map((d) => `${disclosureText(d)}.`),
    c.known,
    c.warrantyDays > 0
      ? say("warrantyDaysDaysOfWarrantyFrom", { warrantyDays: c.warrantyDays })
      : say("soldWithoutAWarranty"),
    say("aSignedCertificateWithEvery"),
  ]
    .filter(Boolean)
    .join("\n");
}

/** On the certificate, where the proof was not made here. */
export const proofTakenText = (t: { by: string; why: string }): string =>
  say("theTestWasNotMadeAt", { by: personName(t.by), why: t.why });

export const chargeText = (share: number | null): string =>
  share === null ? "" : `${Math.round(share * 100)} %`;

const farthest = (points: readonly CurvePoint[]) => percent(Math.max(...points.map(([, y]) => y)));

/** A curve of the certificate in words, for who cannot see it. */
export const curveText = (kind: CurveKind, { now, before, limit }: Curve): string =>
  `${kind === "stick" ? say("edgeOverTheAngle") : say("travelOverTime")}: now ${now.length ? say("upToNow", { now: farthest(now) }) : say("notMeasured")}${before.length ? say("beforeUpToBefore", { before: farthest(before) }) : ""}${limit === null ? "" : say("gradeAReachesAtLeastLimit", { limit: percent(limit) })}`;

/** The line under it. */
export const curveNote = (kind: CurveKind, { before }: Pick<Curve, "before">): string =>
  `${kind === "stick" ? say("reachOverTheAngleFromRight") : say("travelOfASlowPull")}${before.length ? say("dashedAsItCame") : ""}`;

/** How long the fitted parts are covered: one figure, or from the shortest to the longest. */
export function partCoverText({
  parts,
  partWarrantyDays,
}: Pick<CertificateBody, "parts" | "partWarrantyDays">): string {
  const days = parts.map((p) => p.warrantyDays ?? partWarrantyDays);
  const least = Math.min(partWarrantyDays, ...days);
  return least === partWarrantyDays
    ? say("partWarrantyDaysDays", { partWarrantyDays })
    : say("leastToPartWarrantyDaysDays", { least, partWarrantyDays });
}
