import type { Grade, Reason } from "@/core/grade/grade";
import type { Limits } from "@/core/grade/limits";
import type { ControlResult } from "@/core/signal/analyse";

/** Words and figures of the measures: percent of travel with one decimal, counts as they are. */

export const MEASURE_NAMES: Record<string, string> = {
  restOffset: "rest offset",
  restNoise: "rest noise",
  restSpikes: "leaps at rest",
  safeDeadZone: "safe dead zone",
  reachMin: "shortest reach",
  circularityError: "edge error",
  jumps: "jumps",
  deadHalves: "dead halves",
  stuckReleases: "stuck releases",
  noAnswer: "no answer",
  restValue: "rest value",
  fullPull: "full pull",
  backtrack: "backtrack",
  largestStep: "largest step",
  decision: "presses",
  "rim.decision": "presses on the rim",
  stuckAtRest: "pressed at rest",
  extra: "extra presses",
  chatter: "chatter",
  firesWith: "fires with",
  returnWorst: "worst return",
  returnSpread: "return spread",
  releases: "releases",
  coverage: "coverage of the edge",
  pulls: "pulls",
  cues: "presses asked for",
  registered: "presses registered",
  missed: "presses missed",
  missRateUpper95: "miss rate at most (95 %)",
  "rim.missRateUpper95": "miss rate on the rim at most (95 %)",
};
/** A measure's name; one without a name of its own in plain words, never as the program writes it. */
export const measureName = (measure: string): string =>
  MEASURE_NAMES[measure] ??
  measure
    .replace(/([a-z0-9])([A-Z])/g, "$1 $2")
    .replaceAll(".", " ")
    .toLowerCase();

export const GRADE_WORDS: Record<Grade, string> = {
  A: "grade A",
  B: "grade B",
  C: "grade C",
  untested: "not tested",
  fail: "fail",
};

export const NOTES: Record<string, string> = {
  "rest-too-short": "hands were off for less than 2 s",
  "few-releases": "fewer than 8 releases",
  "few-pulls": "fewer than 3 whole pulls",
  "no-slow-pull": "no pull took half a second on the way up",
  "no-circle": "no circles were made",
  coverage: "the circles left gaps",
  turns: "fewer than two whole turns each way",
  "too-fast": "the circles were faster than 2 turns a second",
  "not-asked": "the circles did not ask for every side",
  "no-cues": "no paced presses",
  undecided: "too few presses to decide",
  "no-evidence": "the recording holds no evidence",
};

/** With one decimal, and never a negative zero. */
export const percent = (v: number): string => `${(Math.round(v * 1000) / 10 || 0).toFixed(1)} %`;

/** A measure's value in the form a person reads. */
export function valueText(value: Reason["value"]): string {
  if (value === null) return "not tested";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") return Number.isInteger(value) && value !== 0 && value !== 1 ? String(value) : percent(value);
  return typeof value === "string" ? value : value.length ? value.map((v) => v.replaceAll(".", " ")).join(", ") : "none";
}

export const COUNTED = new Set(["restSpikes", "jumps", "stuckReleases", "extra", "chatter", "deadHalves"]);

/** One measured figure beside the limit of its grade A; `keeps` is null when nothing was measured. */
export type Figure = { measure: string; value: string; limit: string; grade: Grade };

const at = (v: number) => percent(v);

/** The figures of a control in the order a technician reads them, each with what it must keep for grade A. */
export function figuresOf(result: ControlResult, limits: Limits): Figure[] {
  const gradeOf = (measure: string, value: unknown): Grade =>
    result.reasons.find((r) => r.measure === measure)?.grade ?? (value === null ? "untested" : "A");
  const share = (measure: string, value: number | null, limit: number, least = false): Figure => ({
    measure,
    value: value === null ? "not tested" : percent(value),
    limit: `${least ? "at least" : "at most"} ${at(limit)}`,
    grade: gradeOf(measure, value),
  });
  const count = (measure: string, value: number | null): Figure => ({
    measure,
    value: value === null ? "not tested" : String(value),
    limit: "none",
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
        limit: "none",
        grade: gradeOf("deadHalves", result.deadHalves),
      },
      count("stuckReleases", result.stuckReleases),
    ];
  }
  if (result.kind === "trigger") {
    const l = limits.trigger;
    return [
      share("fullPull", result.fullPull, l.fullPull.A, true),
      share("restValue", result.restValue, l.restValue.A),
      share("backtrack", result.backtrack, l.backtrack.A),
      share("largestStep", result.largestStep, l.largestStep.A),
    ];
  }
  const presses = (
    measure: string,
    p: { cues: number | null; registered: number | null; decision: string | null } | null,
  ): Figure => ({
    measure,
    value: p?.cues == null ? "not tested" : `${p.registered} of ${p.cues}`,
    limit: "told apart from 1 miss in 5",
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
      limit: "no",
      grade: gradeOf("stuckAtRest", result.stuckAtRest),
    },
    { measure: "firesWith", value: valueText(result.firesWith), limit: "none", grade: gradeOf("firesWith", result.firesWith) },
  ];
}

/** A reason in one line: "rest offset 11.2 %, limit 8.0 %: grade C". */
export function reasonText(r: Reason): string {
  if (r.value === null) return `${measureName(r.measure)}: not tested, ${NOTES[r.note] ?? r.note}`;
  if (r.note === "undecided") return `${measureName(r.measure)}: ${NOTES.undecided}`;
  const value = COUNTED.has(r.measure) && typeof r.value === "number" ? String(r.value) : valueText(r.value);
  const limit =
    typeof r.limit === "number" ? (COUNTED.has(r.measure) || r.limit === 0 ? "none allowed" : `limit ${percent(r.limit)}`) : "";
  return `${measureName(r.measure)} ${value}${limit ? `, ${limit}` : ""}: ${GRADE_WORDS[r.grade]}`;
}
