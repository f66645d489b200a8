import type { Direction } from "@/core/signal/outer";
import type { Grade, Reason } from "@/core/grade/grade";
import type { Measure } from "@/core/grade/measures";
import type { Limits } from "@/core/grade/limits";
import type { ControlResult } from "@/core/analyse/analyse";
import { say } from "@/words/measures";
import { figure } from "./format";

/** Words and figures of the measures: percent of travel with one decimal, counts as they are. */

/** Figures that are told beside the measures and grade nothing. */
type Beside =
  | "returnWorst"
  | "returnSpread"
  | "releases"
  | "octants"
  | "coverage"
  | "pulls"
  | "cues"
  | "registered"
  | "missed"
  | "missRateUpper95"
  | "rim.missRateUpper95";

/** Where a stick is pushed to, as the person who holds it says it. */
export const DIRECTION_WORDS: Record<Direction, string> = {
  right: say("right"),
  upRight: say("upRight"),
  up: say("up"),
  upLeft: say("upLeft"),
  left: say("left"),
  downLeft: say("downLeft"),
  down: say("down"),
  downRight: say("downRight"),
};

export const MEASURE_NAMES: Record<Measure | Beside, string> = {
  restOffset: say("restOffset"),
  restNoise: say("restNoise"),
  restSpikes: say("leapsAtRest"),
  safeDeadZone: say("safeDeadZone"),
  reachMin: say("shortestReach"),
  circularityError: say("edgeError"),
  jumps: say("jumps"),
  deadHalves: say("deadHalves"),
  stuckReleases: say("stuckReleases"),
  noAnswer: say("noAnswer"),
  restValue: say("restValue"),
  fullPull: say("fullPull"),
  backtrack: say("backtrack"),
  holdSag: say("holdSag"),
  idle: say("whileNobodyUsedIt"),
  largestStep: say("largestStep"),
  decision: say("presses"),
  "rim.decision": say("pressesOnTheRim"),
  stuckAtRest: say("pressedAtRest"),
  extra: say("extraPresses"),
  chatter: say("chatter"),
  firesWith: say("firesWith"),
  returnWorst: say("worstReturn"),
  returnSpread: say("returnSpread"),
  releases: say("releases"),
  octants: say("directionsLetGoFrom"),
  coverage: say("coverageOfTheEdge"),
  pulls: say("pulls"),
  cues: say("pressesAskedFor"),
  registered: say("pressesRegistered"),
  missed: say("pressesMissed"),
  missRateUpper95: say("missRateAtMost95"),
  "rim.missRateUpper95": say("missRateOnTheRimAt"),
};
/** A measure's name; one without a name of its own in plain words, never as the program writes it. */
export const measureName = (measure: string): string =>
  (MEASURE_NAMES as Partial<Record<string, string>>)[measure] ??
  measure
    .replace(/([a-z0-9])([A-Z])/g, "$1 $2")
    .replaceAll(".", " ")
    .toLowerCase();

export const GRADE_WORDS: Record<Grade, string> = {
  A: say("gradeA"),
  B: say("gradeB"),
  C: say("gradeC"),
  untested: say("notTested"),
  fail: say("fail"),
};

export const NOTES: Record<string, string> = {
  "rest-too-short": say("handsWereOffForLessThan"),
  "few-releases": say("fewerThan8Releases"),
  "few-octants": say("notLetGoFromAllEight"),
  "too-coarse": say("tooCoarseToTell"),
  "move-slower": say("moveSlower"),
  "circle-longer": say("circleLonger"),
  "sampled-too-slowly": say("sampledTooSlowly"),
  "pull-slower": say("pullSlower"),
  "fired-once": say("firedOnceWithAnother"),
  "once-while-idle": say("onceWhileNobodyUsedIt"),
  "few-pulls": say("fewerThan3WholePulls"),
  "no-slow-pull": say("noPullTookHalfASecond"),
  "no-circle": say("noCirclesWereMade"),
  coverage: say("theCirclesLeftGaps"),
  turns: say("fewerThanTwoWholeTurnsEach"),
  "too-fast": say("theCirclesWereFasterThan2"),
  "not-asked": say("theCirclesDidNotAskFor"),
  "no-cues": say("noPacedPresses"),
  undecided: say("tooFewPressesToDecide"),
  "no-evidence": say("theRecordingHoldsNoEvidence"),
};

/** With one decimal, and never a negative zero. */
export const percent = (v: number): string => `${figure(Math.round(v * 1000) / 10 || 0, 1)} %`;

/** A measure's value in the form a person reads. */
export function valueText(value: Reason["value"]): string {
  if (value === null) return say("notTested");
  if (typeof value === "boolean") return value ? say("yes") : say("no");
  if (typeof value === "number")
    return Number.isInteger(value) && value !== 0 && value !== 1 ? String(value) : percent(value);
  if (typeof value === "string") return value;
  if (value.length) return value.map((v) => v.replaceAll(".", " ")).join(", ");
  return say("none");
}

export const COUNTED = new Set([
  "restSpikes",
  "jumps",
  "stuckReleases",
  "extra",
  "chatter",
  "deadHalves",
  "idle",
]);

/** One measured figure beside the limit of its grade A, and the smallest defect that would have shown. */
export type Figure = { measure: string; value: string; limit: string; grade: Grade; seen: string };
type Measured = Omit<Figure, "seen">;

const RATES: ReadonlySet<string> = new Set([
  "stuckReleases",
  "chatter",
  "extra",
  "firesWith",
  "decision",
  "rim.decision",
]);

/** From what size on a defect would have shown; empty where nothing is said of it. */
function seenText(result: ControlResult, measure: string): string {
  const seen = result.smallestSeen[measure as Measure];
  if (!seen) return "";
  if (measure === "restSpikes") return say("wouldShowFromASecond", { value: figure(seen.value, 1) });
  const value = percent(seen.value);
  return RATES.has(measure) ? say("wouldShowFromTimes", { value }) : say("wouldShowFrom", { value });
}

const at = (v: number) => percent(v);

/** The figures of a control in the order a technician reads them, each with what it must keep for grade A. */
export const figuresOf = (result: ControlResult, limits: Limits): Figure[] =>
  measuredOf(result, limits).map((f) => ({ ...f, seen: seenText(result, f.measure) }));

function measuredOf(result: ControlResult, limits: Limits): Measured[] {
  const gradeOf = (measure: string, value: unknown): Grade =>
    result.reasons.find((r) => r.measure === measure)?.grade ?? (value === null ? "untested" : "A");
  const share = (measure: string, value: number | null, limit: number, least = false): Measured => ({
    measure,
    value: value === null ? say("notTested") : percent(value),
    limit: `${least ? say("atLeast") : say("atMost")} ${at(limit)}`,
    grade: gradeOf(measure, value),
  });
  const count = (measure: string, value: number | null): Measured => ({
    measure,
    value: value === null ? say("notTested") : String(value),
    limit: say("none"),
    grade: gradeOf(measure, value),
  });
  if (result.kind === "stick") {
    const l = limits.stick;
    return [
      share("restOffset", result.restOffset, l.restOffset.A),
      share("safeDeadZone", result.safeDeadZone, l.safeDeadZone.A),
      share("restNoise", result.restNoise, l.restNoise.A),
      share("reachMin", result.reachMin, l.reachMin.A, true),
      share("circularityError", result.circularityError, l.circularityError.A),
      count("jumps", result.jumps?.count ?? null),
      count("restSpikes", result.restSpikes),
      {
        measure: "deadHalves",
        value: valueText(result.deadHalves),
        limit: say("none"),
        grade: gradeOf("deadHalves", result.deadHalves),
      },
      count("stuckReleases", result.stuckReleases),
      count("idle", result.idle?.count ?? null),
    ];
  }
  if (result.kind === "trigger") {
    const l = limits.trigger;
    return [
      share("fullPull", result.fullPull, l.fullPull.A, true),
      share("restValue", result.restValue, l.restValue.A),
      share("backtrack", result.backtrack, l.backtrack.A),
      share("holdSag", result.holdSag, l.holdSag.A),
      share("largestStep", result.largestStep, l.largestStep.A),
      count("idle", result.idle?.count ?? null),
    ];
  }
  const presses = (
    measure: string,
    p: { cues: number | null; registered: number | null; decision: string | null } | null,
  ): Measured => ({
    measure,
    value:
      p?.cues == null
        ? say("notTested")
        : say("registeredOfCues", { registered: String(p.registered), cues: p.cues }),
    limit: say("toldApartFrom1MissIn"),
    grade: gradeOf(measure, p?.decision ?? null),
  });
  return [
    presses("decision", result),
    ...(result.rim ? [presses("rim.decision", result.rim)] : []),
    count("extra", result.extra),
    count("chatter", result.chatter),
    {
      measure: "stuckAtRest",
      value: valueText(result.stuckAtRest),
      limit: say("no"),
      grade: gradeOf("stuckAtRest", result.stuckAtRest),
    },
    {
      measure: "firesWith",
      value: valueText(result.firesWith),
      limit: say("none"),
      grade: gradeOf("firesWith", result.firesWith),
    },
    count("idle", result.idle?.count ?? null),
  ];
}

/** A reason in one line: "rest offset 11.2 %, limit 8.0 %: grade C". */
export function reasonText(r: Reason): string {
  if (r.value === null)
    return say("measureNotTestedNote", { measure: measureName(r.measure), note: NOTES[r.note] ?? r.note });
  if (r.note === "once-while-idle")
    return `${measureName(r.measure)} ${String(r.value)}: ${NOTES[r.note]}: ${GRADE_WORDS[r.grade]}`;
  if (r.note === "undecided") return `${measureName(r.measure)}: ${NOTES.undecided}`;
  const value = COUNTED.has(r.measure) && typeof r.value === "number" ? String(r.value) : valueText(r.value);
  const limitOf = () => {
    if (typeof r.limit === "number") {
      if (COUNTED.has(r.measure) || r.limit === 0) return say("noneAllowed");
      return say("limitLimit", { limit: percent(r.limit) });
    }
    return "";
  };
  const limit = limitOf();
  return `${measureName(r.measure)} ${value}${limit ? `, ${limit}` : ""}: ${GRADE_WORDS[r.grade]}`;
}
