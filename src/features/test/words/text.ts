import type { CalibrationOutlook } from "@/core/analyse/calibration-outlook";
import type { BenchFigure, BenchResult, FigureUnit, Finding } from "@/core/bench/result";
import type { InstrumentProblem } from "@/core/instrument/instrument";
import type { FourLink, Group, Purpose, StepMethod } from "@/core/protocol/protocol";
import { measureName, percent } from "@/text/measures";
import { type ModelProfile, placeName } from "@/core/profile/profile";
import type { ProtocolStep } from "@/core/protocol/protocol";
import { codeWords } from "@/words/codes";
import { say } from "./words";
import { figure } from "@/text/format";

/** Words of the bench: steps, figures and what they say. */

export const PURPOSE_NAMES: Record<Purpose, string> = {
  triage: say("quickTriage"),
  full: say("fullTest"),
  proof: say("proof"),
};
export const GROUP_NAMES: Record<Group, string> = {
  "power-and-links": say("powerAndLinks"),
  "no-host": say("inTheHandNoHost"),
  "host-by-cable": say("onTheHostByCable"),
  "host-by-radio": say("onTheHostByRadio"),
  opened: say("onlyWhenOpen"),
};
export const LINK_NAMES: Record<FourLink, string> = {
  "power-on": "power-on",
  charging: say("chargingSign"),
  cable: say("cable"),
  radio: say("radio"),
};
export const METHOD_WORDS: Record<StepMethod, string> = {
  prompt: say("lookAndAnswer"),
  quick: say("moveEverythingOnce"),
  guided: say("guidedRecording"),
  supply: say("meter"),
  "charge-log": say("chargeMeter"),
  "discharge-log": say("runDownLog"),
  "link-watch": say("watchedLink"),
  motor: say("runAndFeel"),
  microphone: say("soundLevel"),
  tone: say("tone"),
  latch: say("tugs"),
  feel: say("byFeel"),
  "trigger-drag": say("scale"),
  "contact-sensor": say("meterOpen"),
};

export const FIGURE_NAMES: Record<string, string> = {
  openVolts: say("openVoltage"),
  highestVolts: say("highestVoltage"),
  loadedVolts: say("voltageUnderLoad"),
  nominalVolts: say("cellsTimesNominal"),
  stateOfCharge: say("stateOfCharge"),
  internalResistance: say("internalResistance"),
  taken: say("chargeTaken"),
  shareOfRated: say("shareOfRated"),
  breaks: say("breaksInTheFlow"),
  peakCurrent: say("peakCurrent"),
  chargeTime: say("timeLogged"),
  leak: say("leakEachCell"),
  runTime: say("runTimeToCutOff"),
  shortestBreakSeen: say("shortestBreakSeen"),
  shortestGapSeen: say("shortestGapSeen"),
  chargeCovered: say("chargeThatTheLogCovers"),
  capacity: say("capacity"),
  imbalance: say("imbalance"),
  predictedOffset: say("predictedAxisOffset"),
  totalDeviation: say("totalAgainstNominal"),
  total: say("totalResistance"),
  repeats: say("readingsUsed"),
  dropouts: say("dropouts"),
  longestGap: say("longestGap"),
  watched: say("watched"),
  cleanReach: say("reachWithoutADropout"),
  firstDropout: say("firstDropoutAt"),
  walked: say("walked"),
  noiseFloor: say("noiseFloor"),
  phrase: say("setPhrase"),
  rub: say("rubbedSurface"),
  phraseOverFloor: say("phraseOverTheFloor"),
  rubOverFloor: say("rubOverTheFloor"),
  belowReference: say("belowTheReference"),
  silentLevel: say("silenceAtTheTone"),
  toneLevel: say("tone"),
  toneOverSilence: say("toneOverSilence"),
  slipped: say("slipped"),
  slipRateUpper95: say("slipRateAtMost95"),
  tugs: say("tugs"),
  stuck: say("wouldNotLetGo"),
  dragLeft: say("leftPowered"),
  dragRight: say("rightPowered"),
  dragDifference: say("difference"),
};
export const figureName = (name: string): string =>
  FIGURE_NAMES[name] ??
  (name.startsWith("dropouts.")
    ? say("dropoutsName", { name: placeWord(name.slice(9)) })
    : measureName(name));

const PLACES: Record<string, string> = {
  plug: say("atThePlug"),
  "first-third": say("firstThird"),
  middle: say("middle"),
  "last-third": say("lastThird"),
  shell: say("atTheShell"),
};
export const placeWord = (place: string): string => PLACES[place] ?? place;

const digits = (v: number, n: number) => figure(v, n);
const IN_UNIT: Record<FigureUnit, (v: number) => string> = {
  V: (v) => `${digits(v, 2)} V`,
  "V/cell": (v) => `${digits(v, 2)} V`,
  ohm: (v) => (v >= 1000 ? `${digits(v / 1000, 2)} kΩ` : `${digits(v, 2)} Ω`),
  mAh: (v) => say("digitsMAh", { digits: digits(v, 0) }),
  mA: (v) => say("digitsMA", { digits: digits(v, 0) }),
  share: percent,
  h: (v) => `${digits(v, 1)} h`,
  "mV/day": (v) => say("digitsMVADay", { digits: digits(v, 1) }),
  m: (v) => `${digits(v, 1)} m`,
  count: (v) => String(Math.round(v)),
  s: (v) => `${digits(v, 0)} s`,
  ms: (v) => say("digitsMs", { digits: digits(v, 0) }),
  dBFS: (v) => say("digitsDBFS", { digits: digits(v, 1) }),
  dB: (v) => say("digitsDB", { digits: digits(v, 1) }),
  g: (v) => `${digits(v, 0)} g`,
  travel: percent,
};
export const inUnit = (v: number, unit: FigureUnit): string => IN_UNIT[unit](v);
export const figureValue = (f: BenchFigure): string =>
  f.value === null ? say("notMeasured") : inUnit(f.value, f.unit);
export const figureLimit = (f: BenchFigure): string => {
  if (f.limit) {
    if (f.limit.value === 0) return say("noneAllowed");
    return `${f.limit.side === "most" ? say("atMost") : say("atLeast")} ${inUnit(f.limit.value, f.unit)}`;
  }
  return "";
};
export const figureInterval = (f: BenchFigure): string =>
  f.low != null && f.high != null
    ? say("lowToLow2", {
        low: inUnit(Math.min(f.low, f.high), f.unit),
        low2: inUnit(Math.max(f.low, f.high), f.unit),
      })
    : "";

/** From what size on a defect would have shown; empty where nothing is said of it. */
export const figureSmallest = (f: BenchFigure): string =>
  f.smallest == null ? "" : say("wouldShowFrom", { value: inUnit(f.smallest, f.unit) });

const FINDINGS: Record<string, (facts: Record<string, string | number>) => string> = {
  "load-raised-voltage": () => say("theLoadedVoltageIsAboveThe"),
  "charge-first": () => say("tooLowToJudgeAnythingBy"),
  "supply-low": () => say("theSupplyIsBelowWhatThe"),
  "voltage-too-high": () => say("aboveWhatCellsOfThisKind"),
  "cell-sags": () => say("theVoltageSagsUnderLoadA"),
  "no-load-reading": () => say("withoutALoadedReadingTheCell"),
  "no-current": () => say("noCurrentFlowedAndNoSign"),
  "sign-without-current": () => say("theSignShowsChargingWhileNo"),
  "contacts-break": () => say("theCurrentComesAndGoesContacts"),
  "charge-not-finished": () => say("theLogEndsBeforeTheCurrent"),
  "charges-too-high": () => say("theChargingCircuitDoesNotStop"),
  "cell-takes-little": () => say("itTakesLittleChargeBeforeIt"),
  "current-without-sign": () => say("currentFlowsAndTheSignStays"),
  "log-too-short": () => say("tooFewRowsToDrawA"),
  "cell-leaks": () => say("theChargeDoesNotHoldWhile"),
  "too-close": () => say("tooCloseToTheLimit"),
  "log-covers-little": () => say("theLogCoversLittle"),
  "log-undecided": () => say("theLogIsUndecided"),
  "cell-gives-little": () => say("itGivesLittleBeforeCutOff"),
  "voltage-does-not-fall": () => say("theVoltageDidNotFallLog"),
  "finger-left-out": (f) =>
    say("countCount2WithAFingerOn", {
      count: String(f.count),
      count2: f.count === 1 ? say("reading") : say("readings"),
    }),
  "leg-open": () => say("anOpenLegABrokenTrack"),
  "leg-open-once": () => say("aLegReadOpenOnce"),
  "track-broken": () => say("theTotalLiesTooFarFrom"),
  "one-reading": () => say("oneReadingHasNoSpreadRepeat"),
  "readings-scatter": () => say("theReadingsScatterHoldTheProbes"),
  "drops-at": (f) =>
    say("dropsOutPlaceCountCount2", {
      place: placeWord(String(f.place)),
      count: String(f.count),
      count2: f.count === 1 ? say("time") : say("times"),
    }),
  "charge-lost-at": (f) => say("chargingStopsWhenPushedPlaces", { places: String(f.places) }),
  "plug-loose": () => say("thePlugSitsLoose"),
  "plug-falls-out": () => say("thePlugFallsOut"),
  "places-left": (f) =>
    say("notLongEnoughSplit", { split: String(f.places).split(", ").map(placeWord).join(", ") }),
  "radio-drops": (f) => say("firstDropoutAtMetresM", { metres: figure(Number(f.metres), 1) }),
  "walk-farther": (f) => say("noDropoutSoFarWalkTo", { metres: String(f.metres) }),
  "microphone-deaf": () => say("neitherVoiceNorRubbingIsHeard"),
  "microphone-muffled": () => say("rubbingIsHeardTheVoiceIs"),
  "not-this-opening": () => say("theVoiceIsHeardRubbingThis"),
  "below-reference": () => say("quieterThanTheReferenceUnit"),
  "no-reference": () => say("noReferenceUnitWasMeasuredThis"),
  "tone-not-heard": () => say("theToneIsNotHeard"),
  "latch-slips": (f) => say("slippedCountOfTugsTugs", { count: String(f.count), tugs: String(f.tugs) }),
  "latch-sticks": (f) =>
    say("wouldNotLetGoCountCount2", {
      count: String(f.count),
      count2: f.count === 1 ? say("time") : say("times"),
    }),
  "more-tugs": () => say("heldSoFarButTooFew"),
  "try-the-release": () => say("tryTheReleaseAsWell"),
  "motor-silent": () => say("doesNotRun"),
  "motor-weak": () => say("runsWeakly"),
  "motor-rattles": () => say("rattles"),
  "play-marked": () => say("markedFreePlay"),
  "return-slow": () => say("comesBackSlowly"),
  "return-hangs": () => say("hangs"),
  "feels-floppy": () => say("floppy"),
  "feels-sticky": () => say("sticky"),
  "feels-stiff": () => say("tooStiff"),
  "drag-left-weak": () => say("theLeftTriggerPushesBackLess"),
  "drag-right-weak": () => say("theRightTriggerPushesBackLess"),
  "gears-grind": () => say("theGearsGrind"),
};
export const findingText = (f: Finding): string => FINDINGS[f.code]?.(f.facts ?? {}) ?? f.code;

/** A result in one line: its first figure and what it says. */
export function benchResultText(r: BenchResult): string {
  const first = r.figures.find((f) => f.value !== null && f.limit) ?? r.figures.find((f) => f.value !== null);
  return [first && `${figureName(first.name)} ${figureValue(first)}`, ...r.findings.map(findingText)]
    .filter(Boolean)
    .join("; ");
}

const PROBLEMS: { [C in InstrumentProblem["code"]]: (p: Extract<InstrumentProblem, { code: C }>) => string } =
  {
    "no-answer": (p) => say("theInstrumentDidNotAnswerWithin", { afterMs: p.afterMs / 1000 }),
    "not-understood": (p) => say("theInstrumentSaidAnswerWhich", { answer: p.answer }),
    overload: () => say("theInstrumentShowsAnOverload"),
    "instrument-error": (p) => say("theInstrumentReportsText", { text: p.text }),
    "line-lost": () => say("theLineToTheInstrumentIs"),
    cannot: (p) => say("thisInstrumentCannotMeasure", { quantity: codeWords(p.quantity) }),
  };
export const instrumentProblemText = (p: InstrumentProblem): string =>
  (PROBLEMS[p.code] as (p: InstrumentProblem) => string)(p);

const list = (names: readonly string[]) => names.map(measureName).join(", ");
export function calibrationText(o: CalibrationOutlook): string {
  if (o.verdict === "cures") return say("calibrationIsPredictedToCure", { before: list(o.before) });
  if (o.verdict === "helps")
    return say("calibrationWouldCureCuredNot", { cured: list(o.cured), left: list(o.left) });
  if (o.verdict === "no-cure") return say("calibrationWillNotCureItLeft", { left: list(o.left) });
  return o.verdict === "unknown" ? say("whetherCalibrationWouldHelp") : "";
}

/** The name of a step of a protocol: what it is about by its own name, and how. */
export function protocolStepName(
  step: Pick<ProtocolStep, "method" | "subject">,
  profile: ModelProfile,
): string {
  const half = step.subject === "main" ? "" : `, ${step.subject}`;
  const [id, axis] = /^(.*)\.([xy])$/.exec(step.subject)?.slice(1) ?? [step.subject, ""];
  const control = profile.controls.find(
    (c) => c.id === (step.method === "contact-sensor" ? id : step.subject),
  );
  const place = control ? placeName(control) : step.subject;
  switch (step.method) {
    case "supply":
      return say("supplyHalf", { half });
    case "charge-log":
      return say("chargeLogHalf", { half });
    case "discharge-log":
      return say("runDownLogHalf", { half });
    case "quick":
      return say("quickLookAtEveryControl");
    case "guided":
      return say("everyControlMeasured");
    case "feel":
      return say("placeByFeel", { place });
    case "trigger-drag":
      return say("poweredTriggersLeftAgainst");
    case "contact-sensor":
      return say("placeAxisSensor", { place, axis: axis ?? "" });
    default:
      return profile.functions.find((f) => f.id === step.subject)?.name ?? step.subject;
  }
}
