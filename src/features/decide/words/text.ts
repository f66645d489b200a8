import type { Disposition, End } from "@/core/decide/ends";
import type { FlipKind } from "@/core/decide/flips";
import type { Risk } from "@/core/decide/buying";
import type { Skipped } from "@/core/decide/build";
import type { ChanceView } from "@/core/math/chances";
import type { Treated } from "@/core/decide/families";
import type { SpreadWay } from "@/core/decide/lot";
import type { School } from "@/core/decide/routes";
import type { TermCode } from "@/core/money/rates";
import type { Make, PartKind } from "@/core/profile/slots";
import { say } from "./words";
import { codeWords } from "@/words/codes";
import { figure } from "@/text/format";

/** The interface's words for deciding and buying. */

export const DISPOSITION_WORDS: Record<Disposition, string> = {
  mend: say("mend"),
  hold: say("holdForAPart"),
  "sell-as-it-is": say("sellAsItIs"),
  "sell-limited": say("sellWithAStatedLimit"),
  strip: say("stripForParts"),
  scrap: say("scrap"),
  "hand-back": say("handBackUnmended"),
};

export const SCHOOL_WORDS: Record<School, string> = {
  calibrate: say("calibrateOnly"),
  clean: say("cleanFirst"),
  adjust: say("adjustOrPad"),
  sensor: say("onlyTheSensors"),
  replace: say("replaceThePartWhole"),
  upgrade: say("changeToMagnetic"),
  rework: say("reworkJoints"),
};

export const FAMILY_WORDS: Record<Treated, string> = {
  "stick-drift": say("driftingStick"),
  "stick-worn": say("wornStick"),
  "stick-range": say("shortStickRange"),
  "button-dome": say("buttonOnADome"),
  "button-membrane": say("buttonOnAMembrane"),
  "button-switch": say("buttonOnASwitch"),
  trigger: say("trigger"),
  power: say("power"),
  port: say("port"),
  radio: say("radio"),
  sound: say("sound"),
  motor: say("motor"),
  "board-part": say("lightTouchOrMotion"),
  cord: say("cord"),
  latch: say("latch"),
  flex: say("aFlexOrTrace"),
  joint: say("aJoint"),
  connector: say("aConnector"),
  cap: say("aCap"),
  post: say("postOrFrame"),
  spring: say("aSpring"),
  gear: say("gearOrLever"),
  cell: say("aCell"),
  contact: say("cellContacts"),
  lead: say("aLead"),
  chip: say("workOnTheBoard"),
  elsewhere: say("somethingElse"),
};

export const TERM_WORDS: Record<TermCode, string> = {
  price: say("price"),
  "fee-share": say("sellingFeeShare"),
  "fee-fixed": say("sellingFeeFixed"),
  "carriage-out": say("carriageToTheBuyer"),
  tax: say("tax"),
  returns: say("returnsOnAverage"),
  labour: say("benchTime"),
  "strip-labour": say("timeToStrip"),
  part: say("part"),
  specialist: say("theSpecialistsPrice"),
  gift: say("giftedPartAtItsReplacementValue"),
  shelf: say("shelfWhileItWaits"),
  "parts-value": say("goodPartsAsFarAsThey"),
  purchase: say("boughtWithCarriage"),
  "carriage-in": say("carriageHere"),
  retest: say("retest"),
};

export const MAKE_WORDS: Record<Make, string> = {
  original: say("original"),
  "dear-copy": say("dearCopy"),
  "cheap-copy": say("cheapCopy"),
};
export const kindWords = (kind: PartKind): string => codeWords(kind);

export const RISK_WORDS: Record<Risk, string> = {
  named: say("namesItsFault"),
  vague: say("speaksVaguely"),
  untested: say("wasNotTested"),
};

export const SPREAD_WORDS: Record<SpreadWay, string> = {
  value: say("byExpectedValue"),
  even: say("evenly"),
  hand: say("byHand"),
};

export const SKIPPED_WORDS: Record<Skipped["why"], string> = {
  tried: say("wasTriedHereAndDidNot"),
  "no-part": say("noPartOfferedForThisModel"),
  skill: say("beyondTheShopsSkill"),
  "not-agreed": say("notWhatTheCustomerAgreedTo"),
  "used-up": say("makesNoSenseAfterWhatWas"),
  grade: say("leavesLessThanTheGradeThat"),
  "house-copy": say("noCopiesForSaleHere"),
  "house-sensor": say("clickOrSpringNotSound"),
  tools: say("noToolForIt"),
};

/** Where a chance comes from, in cases. */
export function casesWords(c: ChanceView & { reach?: number }): string {
  const n = (x: number) => (Number.isInteger(x) ? String(x) : figure(x, 1));
  const own = c.own.yes + c.own.no;
  const others = c.others.yes + c.others.no;
  return [
    c.reach === undefined ? "" : say("reachesWhatIsWrongIn", { share: Math.round(c.reach * 100) }),
    say("statedMeanAsCasesCases", { mean: Math.round(c.stated.mean * 100), cases: c.stated.cases }),
    own ? say("hereYesOfOwn", { yes: n(c.own.yes), own: n(own) }) : say("noneHereYet"),
    others
      ? say("otherModelsYesOfOthers", {
          yes: n(c.others.yes),
          others: n(others),
          cases: figure(c.othersAs, c.othersAs < 10 ? 1 : 0),
        })
      : "",
  ]
    .filter(Boolean)
    .join("; ");
}

type Money = (minor: number) => string;
const WHY: { [C in End["why"]["code"]]: (w: Extract<End["why"], { code: C }>, money: Money) => string } = {
  ladder: () => say("byTheLadderBelow"),
  waits: (w) => say("theFirstStepWaitsDaysDays", { days: w.days, part: w.part }),
  "nothing-to-try": () => say("noRouteIsLeftToTry"),
  "nothing-to-wait-for": () => say("noPartHasToBeWaited"),
  "not-worth-trying": () => say("theBestFirstAttemptAgainstStopping"),
  price: (w, money) => say("goesForMinorAsItIs", { minor: money(w.minor) }),
  "no-limit": (w) => say("nobodyBuysItSoPlaces", { places: w.places.join(", ") }),
  limits: (w) =>
    say("shareOfGradeAsPriceTold", { share: Math.round(w.share * 100), places: w.places.join(", ") }),
  "no-faults": () => say("noOpenFault"),
  untested: (w) => say("countNotTestedWhatIsTo", { count: w.count }),
  parts: () => say("goodPartsLessTheTimeTo"),
  "handed-back": () => say("nothingEarnedCarriagePaid"),
};
export const whyWords = (w: End["why"], money: Money): string =>
  (WHY[w.code] as (w: End["why"], money: Money) => string)(w, money);

export const FLIP_WORDS: Record<FlipKind, string> = {
  price: say("gradeASellsFor"),
  chance: say("chanceOfTheFirstAttempt"),
  part: say("theFirstAttemptsPartCosts"),
  labour: say("anHourAtTheBenchCosts"),
};
