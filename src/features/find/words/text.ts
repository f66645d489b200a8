import type { Check, CheckKind } from "@/core/diagnosis/checks";
import type { Basis } from "@/core/diagnosis/evidence";
import type { AlwaysDiffers, Difference, StatePair } from "@/core/diagnosis/halving";
import type { PlaceFinding } from "@/core/diagnosis/places";
import type { Outcome } from "@/core/diagnosis/priors";
import type { Cure, TryAction, TryOutcome } from "@/core/diagnosis/tries";
import type { Advice } from "@/core/diagnosis/advise";
import type { Wiring } from "@/core/profile/wiring";
import { say } from "./words";
import { codeWords } from "@/words/codes";
import { figure } from "@/text/format";

/** Words of the Find station. */

const CHECKS: Record<CheckKind, (name: string) => string> = {
  test: (n) => say("testN", { n }),
  look: (n) => say("lookAtTheNMagnified", { n }),
  probe: (n) => say("probeTheNByItself", { n }),
  measure: (n) => say("measureAtN", { n }),
  compare: (n) => say("compareNWithAKnownGood", { n }),
  "swap-twin": (n) => say("swapTheNWithItsTwin", { n }),
  "swap-donor": (n) => say("swapInADonorForThe", { n }),
  reseat: (n) => say("reseatTheN", { n }),
  disconnect: (n) => say("disconnectTheN", { n }),
  flex: (n) => say("pressOrFlexTheN", { n }),
  cool: (n) => say("coolTheN", { n }),
};
/** A check in words, by the name of what it is done at. */
export const checkNamed = (kind: CheckKind, name: string): string => CHECKS[kind](name);
/** A check in words, with the names of the wiring and of what it serves. */
export function checkWords(
  check: Pick<Check, "kind" | "target">,
  wiring: Wiring,
  nameOf: (id: string) => string,
): string {
  const node = wiring.nodes.find((n) => n.id === check.target);
  const point = wiring.points.find((p) => p.id === check.target);
  return CHECKS[check.kind](node?.name ?? point?.name ?? nameOf(check.target));
}

export const OUTCOME_WORDS: Record<Outcome, string> = {
  works: say("works"),
  dead: say("dead"),
  intermittent: say("comesAndGoes"),
  offset: say("restsOffCentre"),
  scatter: say("settlesAnywhere"),
  noise: say("noisyAtRest"),
  jumps: say("jumps"),
  "dead-half": say("oneHalfDead"),
  "short-reach": say("doesNotReach"),
  misses: say("missesPresses"),
  "rim-misses": say("missesOnTheRim"),
  "yields-to-force": say("yieldsToForce"),
  stuck: say("readsPressed"),
  bridged: say("firesWithAnother"),
};
const CODES: Record<string, string> = {
  ...OUTCOME_WORDS,
  damaged: say("damaged"),
  sound: say("sound"),
  off: say("off"),
  right: say("right"),
  cured: say("cured"),
  "no-change": say("noChange"),
  changes: say("theFaultChanges"),
  "rest-recovers": say("theRestRecovers"),
  "fault-moves": say("theFaultMovesAlong"),
  "fault-stays": say("theFaultStays"),
  noted: say("notedNothingToCompareWith"),
};
export const outcomeWords = (code: string): string => CODES[code] ?? codeWords(code);

export const PLACE_WORDS: Record<PlaceFinding, string> = {
  sound: say("sound"),
  "corrosion-slight": say("corrosionSlight"),
  "corrosion-strong": say("corrosionStrong"),
  "cracked-joint": say("crackedJoint"),
  "bridged-joint": say("bridgedJoint"),
  residue: say("whiteResidue"),
  "missing-tooth": say("missingTooth"),
  worn: say("worn"),
  dirty: say("dirty"),
  bent: say("bent"),
  eaten: say("eatenAway"),
  torn: say("torn"),
  "loose-piece": say("loosePiece"),
};
export const ACTION_WORDS: Record<TryAction, string> = {
  clean: say("clean"),
  reseat: say("reseat"),
  resolder: say("resolder"),
  replace: say("replace"),
  swap: say("swap"),
  calibrate: say("calibrate"),
  reheat: say("reheat"),
  other: say("somethingElse"),
};
export const TRY_WORDS: Record<TryOutcome, string> = {
  cured: say("cured"),
  better: say("better"),
  same: say("noChange"),
  worse: say("worse"),
};
export const CURE_WORDS: Record<Cure, string> = {
  "proven-by-undoing": say("provenUndoingItBroughtTheFault"),
  "proven-by-repeats": say("provenItHeldOnRepeats"),
  unproven: say("unproven"),
  refuted: say("refutedALaterTestFailed"),
  none: "",
};
export const PAIR_WORDS: Record<StatePair, [works: string, fails: string]> = {
  "open-closed": [say("open"), say("closed")],
  "cable-radio": [say("byCable"), say("byRadio")],
  "cold-warm": [say("cold"), say("warm")],
};

export function stopWords(advice: Advice): string {
  if (advice.stop === "certain") return say("nothingIsLeftToAskDecide");
  if (advice.stop === "nothing-left") return say("noCheckIsLeftThatWould");
  return say("decidingPaysMoreThanKnowing", { wrongCost: figure(advice.wrongCost) });
}

/** What the bench read, of one control where it was taken at one. */
export const readingWords = (r: { kind: string; of: string; verdict: string }): string =>
  say("benchReadingVerdict", {
    reading: codeWords(r.kind),
    places: r.of && ` ${r.of}`,
    verdict: codeWords(r.verdict),
  });

/** What was seen of a place, with its axis and whether it stood still, so far as the signal told. */
function seenWords(
  { id, outcome, axis, steady }: Extract<Basis, { code: "seen" }>,
  nameOf: (id: string) => string,
): string {
  const stillness = () => (steady ? say("standingStill") : say("notStandingStill"));
  const still = steady === undefined ? "" : stillness();
  return [`${nameOf(id)} ${spaced(outcome)}`, axis ? say("alongOneAxis", { axis }) : "", still]
    .filter(Boolean)
    .join(", ");
}

const spaced = (code: string): string => codeWords(code);
/** What a piece of evidence rests on; `nameOf` names the parts, controls and functions of the model. */
export function basisWords(basis: Basis, nameOf: (id: string) => string): string {
  switch (basis.code) {
    case "seen":
      return seenWords(basis, nameOf);
    case "stayed-away":
      return say("itWorkedWhileTheRestWas");
    case "check":
      return `${spaced(basis.check)}, ${nameOf(basis.target)}: ${spaced(basis.outcome)}`;
    case "place":
      return `${nameOf(basis.target)}: ${spaced(basis.outcome)}`;
    case "reading":
      return say("readingPointOutcome", {
        point: basis.point.replace(/^tp\./, "").replaceAll(".", " "),
        outcome: codeWords(basis.outcome),
      });
    case "try":
      return say("tryNumberSuspectOutcome", {
        number: basis.number,
        suspect: nameOf(basis.suspect),
        outcome: codeWords(basis.outcome),
      });
    case "bench":
      return readingWords({
        kind: basis.reading,
        of: basis.places.length === 1 ? nameOf(basis.places[0]!) : "",
        verdict: basis.verdict,
      });
    case "loose-piece":
      return say("loosePieceNumberIsFromIt", { number: basis.number });
    case "halved":
      return say("theSearchByHalvesEndsAt");
    case "told":
      return say("whatWasTold", {
        place: nameOf(basis.id),
        outcome: OUTCOME_WORDS[basis.outcome],
        words: basis.words,
      });
    case "named":
      return say("whatWasNamed", { place: nameOf(basis.id), words: basis.words });
    case "mate":
      return say("likeFailed", { place: nameOf(basis.id), mate: basis.tag || say("theMate") });
    case "wet":
      return say("corrodedElsewhere", { place: nameOf(basis.place) });
    case "fitted":
      return say("fittedAndStillFails", { what: basis.words });
    case "history":
      return say("historySays", { what: codeWords(basis.what) });
    case "intake":
      return say("seenAtTheDoor", { sign: codeWords(basis.sign) });
  }
}

const ALWAYS_WORDS: Record<AlwaysDiffers, string> = {
  fasteners: say("theFastenersWhichPress"),
  "shell-halves": say("theShellHalvesWhichPress"),
  "host-and-slot": say("theHostAndItsSlot"),
  warmth: say("whatTheHandWarms"),
};
/** What differs between two states: a part by its own name, or what always does. */
export const differenceText = (d: Difference): string =>
  d.what || (ALWAYS_WORDS[d.id as AlwaysDiffers] ?? d.id);

const CHECK_TOOLS: Record<CheckKind, string> = {
  test: say("noTools"),
  look: say("magnifier"),
  probe: say("meterFineProbes"),
  measure: say("meterFineProbes"),
  compare: say("meterKnownGoodUnit"),
  "swap-twin": say("screwdriver"),
  "swap-donor": say("donorPart"),
  reseat: say("plasticPick"),
  disconnect: say("plasticPick"),
  flex: say("fingerOrStickOfWood"),
  cool: say("coldPackOrSpray"),
};
/** What a check asks for at the bench; a part that is swapped by heat wants an iron as well. */
export const checkTools = (check: Pick<Check, "kind" | "skill">): string =>
  check.kind === "swap-donor" && check.skill === 3 ? say("donorPartIron") : CHECK_TOOLS[check.kind];
