import type { Disposition } from "@/core/decide/ends";
import type { Grade } from "@/core/grade/grade";
import type { CheckResult } from "@/core/bench/result";
import type { Block, Ending, NextAction, Station, StationSaid } from "@/core/record/standing";
import type { StandingReading } from "@/core/prove/standing-reading";
import type { Step } from "@/core/recording/recording";
import type { Waiting } from "@/core/guide/progress";
import type { QuickFault } from "@/core/quicklook/quick-look";
import type { Cause } from "@/contract/mend";
import type { Role } from "@/contract/roles";
import { DIRECTION_WORDS, GRADE_WORDS, percent } from "@/text/measures";
import { placeWords } from "@/text/names";
import { PROOF_RESULT_WORDS, proofWords } from "@/features/release/words/text";
import { day, type Shop, figure } from "@/text/format";
import { codeWords } from "@/words/codes";
import { say } from "./words";

/** The interface's words for codes of the core. Short, plain, the trade's own. */

export const STATION_NAMES: Record<Station, string> = {
  intake: say("intake"),
  test: say("test"),
  find: say("find"),
  decide: say("decide"),
  mend: say("mend"),
  prove: say("prove"),
  release: say("release"),
};
export const STATION_KEYS: Record<Station, string> = {
  intake: "i",
  test: "t",
  find: "f",
  decide: "d",
  mend: "m",
  prove: "p",
  release: "r",
};

export const NEXT_WORDS: Record<NextAction, string> = {
  quarantine: say("quarantineHandOver"),
  "dry-out": say("openDryInspect"),
  "first-test": say("firstFullTest"),
  "name-faults": say("nameTheFaults"),
  decide: say("decide"),
  mend: say("mend"),
  wait: say("waitForThePart"),
  end: say("endAsDecided"),
  prove: say("prove"),
  "settle-blocks": say("settleWhatBlocks"),
  release: say("release"),
  closed: say("closed"),
};

export const STAGE_NAMES: Record<string, string> = {
  ...STATION_NAMES,
  closed: say("closed"),
  quarantine: say("quarantine"),
};

export const ENDING_NAMES: Record<Ending, string> = {
  released: say("released"),
  "returned-unmended": say("returnedUnmended"),
  "sold-as-found": say("soldAsFound"),
  donor: say("donor"),
  scrap: say("scrap"),
};

const STATION_GRADES: Record<Grade, string> = {
  A: say("gradeA"),
  B: say("gradeB"),
  C: say("gradeC"),
  untested: say("incomplete"),
  fail: say("fails"),
};
const STATION_DECIDED: Record<Disposition, string> = {
  mend: say("toMend"),
  hold: say("onHold"),
  "sell-as-it-is": say("sellAsItIs"),
  "sell-limited": say("sellLimited"),
  strip: say("toStrip"),
  scrap: say("scrap"),
  "hand-back": say("handBack"),
};
const STATION_PLAIN: Record<
  Exclude<StationSaid["code"], "open" | "apart" | "entries" | "grade" | "decided" | "ended">,
  string
> = {
  quarantine: say("quarantine2"),
  "taken-in": say("takenIn"),
  locked: say("locked"),
  wet: say("skippedWet"),
  "quick-only": say("quickLookOnly"),
  "not-tested": say("notTested"),
  "all-settled": say("allSettled"),
  "no-fault": say("noFaultNamed"),
  "not-decided": say("notDecided"),
  "nothing-yet": say("nothingYet"),
  "not-proven": say("notProven2"),
  "in-house": say("inHouse"),
};

/** What a station comes to, in the line over a unit. */
export function stationText(said: StationSaid): string {
  switch (said.code) {
    case "open":
      return say("countOpen", { count: said.count });
    case "apart":
      return say("countApart", { count: said.count });
    case "entries":
      return say("countEntries", { count: said.count });
    case "grade":
      return STATION_GRADES[said.grade];
    case "decided":
      return STATION_DECIDED[said.disposition];
    case "ended":
      return ENDING_NAMES[said.ending];
    default:
      return STATION_PLAIN[said.code];
  }
}

export const CAUSE_WORDS: Record<Cause, string> = {
  "not-known": say("notKnown"),
  wear: say("wear"),
  dirt: say("dirt"),
  drop: say("aDropOrABlow"),
  liquid: say("liquid"),
  "wrong-use": say("wrongUseByTheOwner"),
  "bad-part": say("aBadPart"),
  "earlier-mend": say("anEarlierMend"),
};

export const SOURCE_NAMES: Record<string, string> = {
  single: say("boughtSingle"),
  lot: say("fromALot"),
  customer: say("customers"),
};
export const TESTER_NAMES: Record<string, string> = {
  gamepad: say("controllerInTheBrowser"),
  simulated: say("simulatedController"),
  playback: say("recordingPlayedBack"),
  import: say("importedRecording"),
};
export const ROLE_NAMES: Record<Role, string> = {
  technician: say("technician"),
  lead: say("lead"),
  viewer: say("viewer"),
};
export const CHECK_NAMES: Record<CheckResult, string> = {
  pass: say("pass"),
  fail: say("fail"),
  "not-tested": say("notTested"),
  "not-fitted": say("notFitted"),
};

/** What the person is asked to do, with the control's name. */
export const STEP_WORDS: Record<Step, (place: string) => string> = {
  rest: () => say("handsOff"),
  circle: (place) => say("circleThePlaceSlowlyBothWays", { place }),
  sweep: (place) => say("sweepThePlaceOutAndBack", { place }),
  flick: (place) => say("flickThePlaceAndLetGo", { place }),
  pull: (place) => say("pullThePlaceSlowlyLetGo", { place }),
  press: (place) => say("pressPlaceOnEachCue", { place }),
  "press-edge": (place) => say("pressTheRimOfPlaceOn", { place }),
  free: () => say("getReady"),
};
export const STEP_NAMES: Record<Step, string> = {
  rest: say("rest"),
  circle: say("circle"),
  sweep: say("sweep"),
  flick: say("flick"),
  pull: say("pull"),
  press: say("press"),
  "press-edge": say("rim"),
  free: say("between"),
};

const WAITING: { [C in Waiting["code"]]: (w: Extract<Waiting, { code: C }>) => string } = {
  "hands-off": (w) => say("secondsLeftSMoreWithoutTouching", { secondsLeft: figure(w.secondsLeft, 1) }),
  "keep-circling": (w) =>
    say("coverageOfTheEdgeMinOf", {
      coverage: Math.round(w.coverage * 100),
      min: figure(Math.min(2, w.left), 1),
      min2: figure(Math.min(2, w.right), 1),
    }),
  "too-fast": (w) => say("tooFastTurnsPerSecondTurnsA", { turnsPerSecond: figure(w.turnsPerSecond, 1) }),
  "too-quick-for-link": (w) => say("tooQuickForTheLink", { smallest: percent(w.smallest) }),
  "sweep-missing": (w) => say("stillToGoHalves", { halves: w.halves.join(", ") }),
  "let-go-sweep": () => say("backToTheMiddle"),
  flicks: (w) =>
    say("doneOfNeededReleases", {
      done: w.done,
      needed: w.needed,
      lacks:
        w.lacks.length && w.done > 0
          ? say("stillToLetGoFrom", { lacks: w.lacks.map((d) => DIRECTION_WORDS[d]).join(", ") })
          : "",
    }),
  pulls: (w) => say("doneOfNeededPulls", { done: w.done, needed: w.needed }),
  presses: (w) => say("cuesCuesMissedMissed", { cues: w.cues, missed: w.missed }),
  "move-it": () => say("waitingForItToMove"),
};
export const waitingText = (w: Waiting): string => (WAITING[w.code] as (w: Waiting) => string)(w);

const QUICK: { [C in QuickFault["code"]]: (f: Extract<QuickFault, { code: C }>) => string } = {
  "rests-off": (f) => say("restsValueOffLimitLimit", { value: percent(f.value), limit: percent(f.limit) }),
  "dead-side": (f) => say("sideDoesNotAnswer", { side: f.side }),
  leaps: (f) => say("leapsCountTime", { count: f.count }),
  "short-pull": (f) =>
    say("reachesOnlyValueLimitLimit", { value: percent(f.value), limit: percent(f.limit) }),
  "held-at-rest": () => say("readsPressedWithoutAFinger"),
  chatters: (f) => say("chattersCountTime", { count: f.count }),
  "fires-with": (f) => say("firesWithOther", { other: placeWords(f.other) }),
};
export const quickFaultText = (f: QuickFault): string => (QUICK[f.code] as (f: QuickFault) => string)(f);

type Names = (id: string) => string;
/** What a reading was taken of: a control, an axis of one, or a supply. */
const subjectWords = (subject: string, name: Names): string => {
  const axis = /^(.*)\.([xy])$/.exec(subject);
  if (axis) return ` ${name(axis[1]!)} ${axis[2]}`;
  return subject === "" || subject === "main" ? "" : ` ${name(subject)}`;
};
/** A reading that is no pass, in words. */
export function readingText(r: StandingReading, name: Names): string {
  const facts = { reading: codeWords(r.reading), subject: subjectWords(r.subject, name) };
  return r.verdict === "fail" ? say("readingFailed", facts) : say("readingUnclear", facts);
}
const BLOCK: { [C in Block["code"]]: (b: Extract<Block, { code: C }>, name: Names, shop: Shop) => string } = {
  swollen: () => say("swollenCellQuarantine"),
  liquid: () => say("tookLiquidAndIsNotCleared"),
  "no-proof": (b) => {
    const none = b.lastMend ? say("noFullTestAfterTheLast") : say("noFullTestYet");
    return b.elsewhere ? say("noneThatWasMadeHereA", { none }) : none;
  },
  control: (b, name) =>
    `${name(b.control)}: ${GRADE_WORDS[b.grade]}${b.grade === "C" || b.grade === "B" ? say("belowTheShopsFloor") : ""}`,
  function: (b, name) => `${name(b.functionId)}: ${b.result === "fail" ? say("fails") : say("notTested")}`,
  "open-fault": (b) => say("faultNumberIsOpen", { number: b.number }),
  fragment: (b) => say("loosePieceNumberIsMatchedTo", { number: b.number }),
  reading: (b, name) => readingText(b, name),
  broken: (b) => say("partWasSeenBroken", { name: b.name, finding: codeWords(b.finding) }),
  recall: (b) => say("carriesAPieceOfBatchBatch", { batch: b.batch }),
  proof: (b) =>
    say("proofSheetKeyResult", { key: proofWords(b.key).name, result: PROOF_RESULT_WORDS[b.result] }),
  customer: (b) => say("faultNumberTheCustomerWasNot", { number: b.number }),
  "second-test": (b, _name, shop) =>
    `${b.what === "provisional" ? say("mendNumberIsGoodForNow", { number: b.number }) : say("theCureOfTryNumberIs", { number: b.number })}: ${b.due ? say("aSecondFullTestFromToISOString", { toISOString: day(b.due.toISOString(), shop) }) : say("itWantsTwoFullTestsDays")}`,
  "other-tester": () => say("provenOnAnotherTesterThanThe"),
  "bench-doubt": () => say("aReferenceUnitFailedOnThis"),
  risk: (b) => {
    const figures = { risk: figure(b.risk * 100, 2), aim: figure(b.aim * 100, 2) };
    return b.where === "middle" ? say("riskOfABadButton", figures) : say("riskOfABadRim", figures);
  },
  "same-hand": (b) => say("personWorkedOnItInsideAnd", { person: b.person }),
  apart: (b) =>
    b.steps + b.items === 0
      ? say("theWorkOrderIsNotClosed")
      : say("openStepsStepIsApartItems", { steps: b.steps, items: b.items }),
};
export const blockText = (b: Block, name: Names, shop: Shop): string =>
  (BLOCK[b.code] as (b: Block, name: Names, shop: Shop) => string)(b, name, shop);
