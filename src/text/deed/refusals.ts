import type { FirmBlock } from "@/core/record/standing";
import type { Refusal } from "@/contract/refusals";
import { fieldWords } from "@/text/fields";
import { calibrationText, holeText, workText } from "@/features/mend/words/text";
import { placeWords } from "@/text/names";
import { fitWhyText, USE_WORDS } from "@/features/parts/words/text";
import { codeWords } from "@/words/codes";
import { say } from "@/words/refusals";
import { figure } from "@/text/format";
import { findingWords } from "@/text/findings";

type Words = { [C in Refusal["code"]]: (p: Extract<Refusal, { code: C }>) => string };

const FIRM_WORDS: Record<FirmBlock, string> = {
  swollen: say("aSwollenCellLeavesByThe"),
  liquid: say("itTookLiquidAndIsNot"),
  "no-proof": say("thereIsNoFullTestAfter"),
  apart: say("itsWorkOrderIsNotClosed"),
  recall: say("itCarriesAPieceOfA"),
};

/** A moment of today, as everywhere here by twenty-four hours. */
const TIME = new Intl.DateTimeFormat(undefined, { hour: "2-digit", minute: "2-digit", hourCycle: "h23" });

const NOT_ITS_MATE = {
  itself: (tag: string) => say("mateIsItself", { tag }),
  "same-half": (tag: string) => say("mateIsTheSameHalf", { tag }),
  "other-model": (tag: string) => say("mateOfAnotherModel", { tag }),
  taken: (tag: string) => say("mateIsTaken", { tag }),
};

const WORDS: Words = {
  "signed-out": () => say("youAreSignedOutSignIn"),
  "not-allowed": (p) => say("aRoleCannotDoThisAsk", { role: codeWords(p.role) }),
  "other-origin": () => say("thisRequestCameFromAnotherSite"),
  "other-person": () => say("somebodyElseIsSignedInHere"),
  "other-bench": () => say("thisWasDoneAtTheOther"),
  "bad-input": (p) =>
    p.issues.map((i) => `${i.path ? `${fieldWords(i.path)}: ` : ""}${findingWords(i.message)}`).join("; "),
  "not-found": (p) => say("thisWhatIsNotThereAny", { what: codeWords(p.what) }),
  "changed-meanwhile": (p) =>
    say("changedMeanwhileByByAtTIME", { by: p.by, tIME: TIME.format(new Date(p.at)) }),
  "tray-taken": (p) => say("trayTrayHoldsTagChooseAnother", { tray: p.tray, tag: p.tag }),
  quarantined: () => say("thisUnitIsInQuarantineFor"),
  wet: () => say("thisUnitTookLiquidItIs"),
  closed: () => say("thisUnitIsClosedALead"),
  blocked: (p) => say("countThingBlocksTheReleaseSettle", { count: p.count }),
  "lead-only-limit": () => say("onlyALeadCanAcceptA"),
  "limit-needs-reason": () => say("aStatedLimitNeedsAReason"),
  "no-proof-to-release": () => FIRM_WORDS["no-proof"],
  "firm-block": (p) => FIRM_WORDS[p.block],
  "shop-unnamed": () => say("theShopHasNoNameYet"),
  "not-healthy": (p) => say("onlyAHealthyUnitCanBe", { why: p.why }),
  "not-released": () => say("onlyAUnitThatWasReleased"),
  "not-a-customers": () => say("thisUnitBelongsToTheShop"),
  "is-a-customers": () => say("thisUnitBelongsToACustomer"),
  "name-taken": (p) => say("nameIsTakenChooseAnother", { name: p.name }),
  "wrong-password": () => say("theCurrentPasswordIsNotRight"),
  "easy-password": () => say("thisPasswordIsGuessedSoonIt"),
  "confirm-password": () => say("typeYourOwnPasswordAgainBefore"),
  "too-many-tries": () => say("tooManyWrongPasswordsWait15"),
  "last-lead": () => say("thisIsTheLastLeadMake"),
  already: (p) => say("thisWhatIsAlreadyRecorded", { what: codeWords(p.what) }),
  "too-large": (p) => say("tooLargeTheLimitIsLimit", { limit: p.limit }),
  "not-an-image": () => say("thisFileIsNotAPhotograph"),
  recording: (p) => p.message,
  "other-controller": (p) =>
    say("thisLooksLikeAnotherModelBoolean", {
      boolean: [
        p.lacks.length ? say("itHasNoLacks", { lacks: p.lacks.map(placeWords).join(", ") }) : "",
        p.strange.length
          ? say("itWasAskedForStrangeWhich", { strange: p.strange.map(placeWords).join(", ") })
          : "",
      ]
        .filter(Boolean)
        .join("; "),
    }),
  "not-a-proof": (p) =>
    p.why === "repeated" ? say("theSameRecordingWasHereBefore") : say("onlyAFullTestCanBe"),
  "model-fixed": () => say("theModelCannotBeChangedAny"),
  "route-unknown": (p) => say("thereIsNoRouteRouteIn", { route: p.route }),
  untested: (p) => say("noFaultIsNamedAndCount", { count: p.count }),
  "needs-why": () => say("thisIsNotWhatWasAdvised"),
  "needs-why-gone": () => say("aFaultDoesNotGoAway"),
  "needs-why-cured": () => say("writeWhatShowsThatItIs"),
  "lead-only-safe": () => say("onlyALeadTakesBackThat"),
  "yes-awaited": (p) => say("faultNumberWaitsForTheCustomers", { number: p.number }),
  "other-agreed": (p) => say("theyAgreedToSomethingElse", { number: p.number, agreed: p.agreed }),
  "over-agreed": (p) =>
    p.isAgreed
      ? say("moreThanWasAgreed", { agreedMinor: figure(p.agreedMinor / 100, 2) })
      : say("moreThanTheySaidAtTheDoor", { agreedMinor: figure(p.agreedMinor / 100, 2) }),
  "no-was-said": (p) => say("theCustomerTurnedDownWorkAt", { number: p.number }),
  "shares-do-not-add": (p) => say("theSharesMissTheLotsCost", { leftMinor: figure(p.leftMinor / 100, 2) }),
  "stock-short": (p) =>
    say("wantedWantedFreeFreeReserved", {
      wanted: p.wanted,
      free: p.free,
      reserved: p.reserved > 0 ? say("reservedReserved", { reserved: p.reserved }) : "",
    }),
  "batch-touched": (p) => say("piecesOfBatchWereUsedMoved", { batch: p.batch }),
  "batch-locked": (p) => {
    if (p.status === "waiting") return say("batchBatchWaitsForItsInspection", { batch: p.batch });
    if (p.status === "open") return say("batchBatchIsOnTheShelf", { batch: p.batch });
    return say("batchBatchIsStatusNothingIs", { batch: p.batch, status: p.status });
  },
  "does-not-fit": (p) =>
    `${p.part} ${p.known ? say("doesNotFitHere") : say("isNotKnownToFitHere")}: ${p.why.map(fitWhyText).join("; ")}. ${p.known ? say("chooseAnotherPart") : say("writeDownWhatIsMissingIn")}`,
  "not-for-this-use": (p) =>
    say("partMayNotBeUsedUse", { part: p.part, use: USE_WORDS[p.use as keyof typeof USE_WORDS] }),
  "part-unknown": (p) => say("partIsNotInTheCatalogue", { part: p.part }),
  "test-in-donor-first": () => say("nobodyKnowsWhetherThisPartIs"),
  "part-gone": (p) => say("thisPartIsStateChooseAnother", { state: p.state }),
  "needs-measuring": (p) => say("leftMorePieceNeedsMeasuring", { left: p.left }),
  csv: (p) =>
    say("nothingWasChangedProblems", {
      problems: p.problems.map((x) => say("rowRowMessage", { row: x.row, message: x.message })).join(". "),
    }),
  "question-over": (p) => {
    if (p.why === "expired") return say("thisQuestionHasRunOutAsk");
    if (p.why === "answered") return say("thisWasAnsweredAlreadyToChange");
    if (p.why === "closed") return say("theWorkOnThisUnitIs");
    if (p.why === "changed-often") return say("thisAnswerWasChangedSeveral");
    return say("theWorkshopTookThisQuestion");
  },
  "clear-the-bond": (p) =>
    p.steps ? say("clearTheBondBySteps", { steps: p.steps }) : say("clearTheBondFirst"),
  "half-follows-pair": (p) => say("halfFollowsPair", { pair: p.pair }),
  "not-its-mate": (p) => NOT_ITS_MATE[p.why](p.tag),
  "not-without-mate": (p) => {
    if (p.mate === null) return say("noMateToGoWith");
    return say("mateIsNotReady", { mate: p.mate, stands: p.stands === null ? "" : codeWords(p.stands) });
  },
  "read-the-seal": () => say("readTheSealFirst"),
  "paper-written": (p) => say("paperIsWritten", { paper: codeWords(p.kind), number: p.number }),
  "nothing-to-bill": (p) => {
    if (p.why === "not-bought") return say("nothingWasPaidForACustomersUnit");
    if (p.why === "no-price") return say("noPriceToBill");
    return p.why === "not-sold" ? say("billOnceItIsSold") : say("billOnceItIsClosed");
  },
  "cover-runs": (p) =>
    p.until ? say("theMakersCoverRunsUntil", { until: p.until }) : say("theMakersCoverRuns"),
  "no-guide": () => say("thisModelHasNoGuideYet"),
  work: (p) => workText(p.problem, p.names),
  "loose-fragments": (p) =>
    say("loosePieceNumbers2FitNothing", { numbers: p.numbers.length, numbers2: p.numbers.join(", ") }),
  "test-first": (p) => (p.which === "closed" ? say("noFullTestSinceTheUnit") : say("noTestSinceTheLastWork")),
  "look-first": (p) => say("answerThisFirst", { check: p.check }),
  "rung-untested": (p) => say("testBeforeTheNextRung", { place: placeWords(p.place) }),
  "still-waiting": (p) =>
    say("stillToGoWaitsNoPower", {
      waits: p.waits.map((w) => say("whatMinutesMin", { what: w.what, minutes: w.minutes })).join("; "),
    }),
  "too-hot": (p) => `${p.why.charAt(0).toUpperCase()}${p.why.slice(1)}.`,
  "holes-first": (p) =>
    say("notReadyForTheNewPart", {
      holes: p.holes.slice(0, 6).map(holeText).join("; "),
      holes2: p.holes.length > 6 ? say("andMore") : "",
    }),
  "no-calibration": (p) => calibrationText(p.stick, p.problem),
  "calibrate-first": (p) => say("noCalibrationOfTheStickWas", { stick: placeWords(p.stick) }),
  "logged-mend": () => say("theLastStepLoggedAMend"),
  "centre-first": () => say("centreFirstThenRangeWriteThe"),
  "read-back-differs": () => say("theUnitKeepsAnotherTableThan"),
  archive: (p) => say("nothingWasReadInWhyExport", { why: p.why }),
  "not-empty": () => say("thereAreUnitsCustomersOrParts"),
  busy: () => say("somebodyElseIsChangingTheSame"),
  away: () => say("theWorkshopIsOutOfReach"),
  unexpected: (p) => say("thisWentWrongInBirdcageNot", { number: p.number }),
};

export const refusalText = (p: Refusal): string => (WORDS[p.code] as (p: Refusal) => string)(p);
