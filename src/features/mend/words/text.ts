import type { CalibrationProblem } from "@/core/calibrate/calibrate";
import type { BackCheck, Cable, Hazard, Way } from "@/core/profile/guide";
import type { Fate, WorkProblem } from "@/core/mend/work";
import type { Placed } from "@/core/dayplan/problem";
import { percent, reasonText } from "@/text/measures";
import { placeWords } from "@/text/names";
import { bitOf, TOOLS } from "@/core/mend/tools";
import type { CleaningNote, SoilingWhy } from "@/core/mend/cleaning";
import type { OrderStep } from "@/core/mend/order";
import { say } from "./words";
import { codeWords } from "@/words/codes";
import { isRefTo } from "@/core/mend/ref";

/** Words of the mending part: cautions before a step, checks of what goes back, refusals. */

export const CAUTIONS: Record<Hazard, string> = {
  powered: say("noMetalWhileThereIsPower"),
  cell: say("lithiumCellByItsPlugNever"),
  spring: say("sprungPartGlassesOnAFinger"),
  blade: say("cutAndPryAwayFromThe"),
  iron: say("hotIronStandClearBenchNothing"),
  "hot-air": say("hotAirShieldWhatIsNear"),
  fumes: say("fluxFumesAirOnFaceAside"),
  solvent: say("solventNoFlameAirOnGloves"),
  glue: say("glueOffSkinAndMovingParts"),
  static: say("staticTouchTheEarthPointBefore"),
  dust: say("dustAndMouldMaskOutsideOr"),
  force: say("ifItWillNotMoveLook"),
};

/** The same in a word or two, beside the place on the drawing. */
export const HAZARD_WORDS: Record<Hazard, string> = {
  powered: say("hazardPowered"),
  cell: say("hazardCell"),
  spring: say("hazardSpring"),
  blade: say("hazardBlade"),
  iron: say("hazardIron"),
  "hot-air": say("hazardHotAir"),
  fumes: say("hazardFumes"),
  solvent: say("hazardSolvent"),
  glue: say("hazardGlue"),
  static: say("hazardStatic"),
  dust: say("hazardDust"),
  force: say("hazardForce"),
};

/** Which way something lets go, as the front is seen. */
export const WAY_WORDS: Record<Way, string> = {
  up: say("letsGoUp"),
  "to-left": say("letsGoLeft"),
  "to-right": say("letsGoRight"),
  "to-upper": say("letsGoUpper"),
  "to-lower": say("letsGoLower"),
};

export const CHECK_WORDS: Record<BackCheck, string> = {
  facing: say("facesTheRightWayFromThe"),
  seated: say("seatedNoGap"),
  "marker-line": say("inUpToItsLineStraight"),
  "catch-down": say("catchClosedOnBothEnds"),
  tug: say("holdsALightTug"),
  "cable-free": say("noCableTrappedBeneath"),
  threaded: say("threadedThroughItsSlot"),
  "low-force": say("twoFingersOnlyLowForceIn"),
  "same-thread": say("droppedIntoItsOldThread"),
  returns: say("springsBackByItselfThreeTimes"),
  keyed: say("keyedToItsPlace"),
  flush: say("seamFlushLatchesCaughtNoTrim"),
  "hidden-one": say("theHiddenFastenerIsInIts"),
  "contacts-to-board": say("contactsLookAtTheProperBoard"),
  "teeth-meet": say("endToothToEndGapFull"),
  "soft-bend": say("ribbonInItsSoftestBend"),
};

export const CATCH_WORDS: Record<Cable["catch"], string> = {
  "pull-tab": say("pullTab"),
  flip: say("flipBar"),
  slide: say("slideCatch"),
  "push-fit": say("pushFit"),
  "board-to-board": say("boardToBoard"),
  plug: say("plug"),
  soldered: say("soldered"),
};

export const FATE_WORDS: Record<Fate, string> = {
  "missing-before": say("wasMissingWhenItCame"),
  lost: say("lostHere"),
  broken: say("broken"),
  replaced: say("replacedByANewOne"),
  "left-out": say("leftOutOnPurpose"),
};

const list = (ids: readonly string[], names: Record<string, string>): string => {
  const shown = ids.slice(0, 4).map((i) => names[i] ?? i);
  return ids.length > 4
    ? say("shownAndIdsMore", { shown: shown.join("; "), ids: ids.length - 4 })
    : shown.join("; ");
};

type Words = {
  [C in WorkProblem["code"]]: (p: Extract<WorkProblem, { code: C }>, names: Record<string, string>) => string;
};
const WORK: Words = {
  "step-unknown": () => say("theGuideHasNoSuchStep"),
  "item-unknown": () => say("theGuideHasNoSuchPiece"),
  "apart-already": (p, n) => say("doneAlreadyList", { list: list([p.step], n) }),
  "not-apart": (p, n) => say("thisIsNotApartList", { list: list([p.step], n) }),
  "blocked-by": (p, n) => say("firstStepsItLiesOverThis", { steps: list(p.steps, n) }),
  "put-back-first": (p, n) => say("putBackFirstSteps", { steps: list(p.steps, n) }),
  "left-out": (p, n) => say("notBackYetItemsPutIt", { items: list(p.items, n), items2: p.items.length }),
  "not-out": (p, n) => say("thisIsInItsPlaceList", { list: list([p.item], n) }),
  "gate-first": () => say("testItBeforeTheLastFasteners"),
  "gate-needs-test": () => say("aTestIsMissingRunIt"),
  "still-apart": (p, n) => say("stillOpenSteps", { steps: list(p.steps, n) }),
  "tasks-open": (p) => say("tasksTaskOfTheWorkOrder", { tasks: p.tasks.length }),
  over: () => say("thisWorkOrderIsClosed"),
};
export const workText = (p: WorkProblem, names: Record<string, string>): string =>
  (WORK[p.code] as (p: WorkProblem, n: Record<string, string>) => string)(p, names);

export const holeText = (h: { hole: number; why: "not-checked" | "solder-in-it" | "ring-torn" }): string => {
  const whyOf = () => {
    if (h.why === "not-checked") return say("isNotChecked");
    if (h.why === "solder-in-it") return say("stillHoldsSolderFreshSolder");
    return say("hasATornRingBridgeIt");
  };
  return say("holeHoleWhy", {
    hole: h.hole,
    why: whyOf(),
  });
};

export function calibrationText(stick: string, p: CalibrationProblem): string {
  const name = placeWords(stick);
  if (p.code === "not-measured") return say("theNameIsNotMeasuredWell", { name });
  const why = [
    ...p.reasons.map(reasonText),
    ...(p.scatter
      ? [
          say("scatterAfterReleaseScatterLimit", {
            scatter: percent(p.scatter.value),
            limit: percent(p.scatter.limit),
          }),
        ]
      : []),
  ];
  return say("notCalibratedTheNameIsWorn", { name, why: why.join("; ") });
}

/** Why a task stands where it stands in the day's plan. */
export const placedWhy = (x: Placed, opensWait: boolean, late: boolean): string => {
  if (x.pinned) return say("pinnedByHand");
  if (opensWait) return say("startsAWait");
  if (late) return say("dueSoon");
  if (x.setup > 0) return say("withSetupMinSetUp", { setup: x.setup });
  return say("longestWayStillToGo");
};

/** A tool or bit by its name. */
export function toolName(id: string): string {
  const bit = bitOf(id);
  if (bit) return say("bitDriveSize", { drive: codeWords(bit.drive), size: bit.size });
  return TOOLS.find((t) => t.id === id)?.name ?? codeWords(id);
}

export const CLEANING_NOTES: Record<CleaningNote, string> = {
  "blow-out": say("blowTheLooseDustOut"),
  "board-under": say("cleanTheBoardContactsUnder"),
  "residue-first": say("fluxAndCorrosionFirst"),
  lint: say("lookForLintAndHair"),
};

export const SOILING_WORDS: Record<SoilingWhy, string> = {
  liquid: say("itTookLiquidBothFaces"),
  "strong-smell": say("strongSmellWellsToo"),
  "strong-grime": say("strongGrime"),
  hygiene: say("hygieneAsksForIt"),
  "contact-fault": say("aContactFaultRubber"),
  slight: say("slightSoiling"),
  clean: say("itLooksCleanAWipe"),
};

/** The name of a step of a work order: the guide's own, or ours for what the order adds. */
export function stepTitle({ key, phase, subject }: Pick<OrderStep, "key" | "phase" | "subject">): string {
  if (key === "gate:open") return say("testBeforeTheLastFasteners");
  if (key === "gate:closed") return say("fullTestAfterClosing");
  if (phase === "back")
    return say("backStep", { step: `${subject.charAt(0).toLowerCase()}${subject.slice(1)}` });
  if (isRefTo("clean", key)) return say("cleanSurface", { surface: subject });
  if (isRefTo("calibrate", key)) return say("calibrateTheStick", { stick: placeWords(subject) });
  return subject;
}

/** What is done at a step: the guide's own words, and ours for what the order adds. */
export function stepDoes({ key, does, movesOver }: Pick<OrderStep, "key" | "does" | "movesOver">): string {
  if (key === "gate:closed") return say("closedAndCompleteByTheSame");
  return movesOver.length ? say("moveOverFromTheOldPart", { pieces: movesOver.join(", ") }) : does;
}

/** Why a setting of the iron is refused. */
export const tooHotText = (job: { board: string; ceiling: number }): string =>
  say("theBoardBearsCeiling", { board: codeWords(job.board), ceiling: job.ceiling });
