import type { ButtonMeasures } from "../signal/button";
import type { Idle } from "../signal/idle";
import { WHOLE_TRAVEL } from "../signal/jumps";
import { RELEASES_NEEDED, type StickEvidence, type StickMeasures } from "../signal/stick";
import type { TriggerMeasures } from "../signal/trigger";
import type { Ladder, Limits } from "./limits";
import { MEASURES, type Measure } from "./measures";
import type { SmallestSeen } from "./seen";

/** Best first; `untested` is never a pass. */
export const GRADES = ["A", "B", "C", "untested", "fail"] as const;
export type Grade = (typeof GRADES)[number];

/**
 * A measure below A with the limit it did not keep, or a required measure that is missing. `note` is a code
 * or empty.
 */
export type Reason = {
  measure: Measure;
  value: number | string | readonly string[] | boolean | null;
  limit: number | string | null;
  grade: Grade;
  note: string;
};

export type Verdict = { grade: Grade; reasons: Reason[] };

const worse = (a: Grade, b: Grade): Grade => (GRADES.indexOf(a) >= GRADES.indexOf(b) ? a : b);

/** The verdict over several: fail if any fails, else untested if any is, else the worst. */
export const worstGrade = (grades: readonly Grade[]): Grade => grades.reduce<Grade>(worse, "A");

/** The worst reason first: by grade, then by what the measure says of the part. */
export function worstFirst(reasons: readonly Reason[]): Reason[] {
  const grave = (r: Reason) => MEASURES.indexOf(r.measure);
  return [...reasons].sort(
    (a, b) => GRADES.indexOf(b.grade) - GRADES.indexOf(a.grade) || grave(a) - grave(b),
  );
}

class Judge {
  readonly reasons: Reason[] = [];

  atMost(measure: Measure, value: number | null, ladder: Ladder, note = ""): void {
    this.ladder(measure, value, ladder, note, (v, limit) => v <= limit);
  }

  atLeast(measure: Measure, value: number | null, ladder: Ladder, note = ""): void {
    this.ladder(measure, value, ladder, note, (v, limit) => v >= limit);
  }

  /** A required measure with no steps between good and fail. */
  need(measure: Measure, value: Reason["value"], bad: boolean, limit: Reason["limit"], note = ""): void {
    if (value === null) this.missing(measure, note);
    else if (bad) this.reasons.push({ measure, value, limit, grade: "fail", note: "" });
  }

  /** A measure that fails when bad and is not required. */
  watch(measure: Measure, value: Reason["value"], bad: boolean, limit: Reason["limit"]): void {
    if (value !== null && bad) this.reasons.push({ measure, value, limit, grade: "fail", note: "" });
  }

  missing(measure: Measure, note: string): void {
    this.reasons.push({ measure, value: null, limit: null, grade: "untested", note: note || "no-evidence" });
  }

  verdict(): Verdict {
    return { grade: worstGrade(this.reasons.map((r) => r.grade)), reasons: this.reasons };
  }

  private ladder(
    measure: Measure,
    value: number | null,
    l: Ladder,
    note: string,
    keeps: (v: number, limit: number) => boolean,
  ): void {
    if (value === null) this.missing(measure, note);
    else if (keeps(value, l.A)) return;
    else if (keeps(value, l.B)) this.reasons.push({ measure, value, limit: l.A, grade: "B", note: "" });
    else if (keeps(value, l.C)) this.reasons.push({ measure, value, limit: l.B, grade: "C", note: "" });
    else this.reasons.push({ measure, value, limit: l.C, grade: "fail", note: "" });
  }
}

function whyNoDeadZone(m: StickMeasures): string {
  if (m.restOffset === null) return "rest-too-short";
  return (m.releases ?? 0) < RELEASES_NEEDED ? "few-releases" : "few-octants";
}

/** Why a count of no jumps says nothing: the hand was too quick for the link, or the link for any hand. */
const SLOW_TURNS_PER_S = 0.5;
function whyNoJumps(m: StickMeasures, evidence: StickEvidence, seen: SmallestSeen): string {
  if (evidence.outerProblem !== null) return evidence.outerProblem;
  const { jumps } = seen;
  const turns = evidence.outer?.turnsPerSecond ?? null;
  if (m.jumps === null || !jumps || turns === null) return "";
  if (jumps.value >= WHOLE_TRAVEL) return "circle-longer";
  return (turns * jumps.bound) / jumps.value < SLOW_TURNS_PER_S ? "sampled-too-slowly" : "move-slower";
}

/**
 * Something that happened while nobody used the control: with hands off it is a fault; else it is in doubt, and
 * no better than grade C until hands off again has told.
 */
function judgeIdle(judge: Judge, idle: Idle | null): void {
  if (!idle || idle.count === 0) return;
  judge.reasons.push({
    measure: "idle",
    value: idle.count,
    limit: 0,
    grade: idle.confirmed ? "fail" : "C",
    note: idle.confirmed ? "" : "once-while-idle",
  });
}

/** Grades a stick against the limits. */
export function gradeStick(
  m: StickMeasures,
  evidence: StickEvidence,
  limits: Limits["stick"],
  seen: SmallestSeen = {},
): Verdict {
  const judge = new Judge();
  const edge = evidence.outerProblem ?? "";
  // measured, and withheld all the same: the recording is too coarse for it
  const coarse = (measure: Measure, note: string) => (seen[measure] ? "too-coarse" : note);
  judge.atMost("restOffset", m.restOffset, limits.restOffset, coarse("restOffset", "rest-too-short"));
  judge.atMost("restNoise", m.restNoise, limits.restNoise, coarse("restNoise", "rest-too-short"));
  judge.need("restSpikes", m.restSpikes, (m.restSpikes ?? 0) > 0, 0, coarse("restSpikes", "rest-too-short"));
  judge.atMost("safeDeadZone", m.safeDeadZone, limits.safeDeadZone, coarse("safeDeadZone", whyNoDeadZone(m)));
  judge.atLeast("reachMin", m.reachMin, limits.reachMin, coarse("reachMin", edge));
  judge.atMost(
    "circularityError",
    m.circularityError,
    limits.circularityError,
    coarse("circularityError", edge),
  );
  judge.need("jumps", m.jumps?.count ?? null, (m.jumps?.count ?? 0) > 0, 0, whyNoJumps(m, evidence, seen));
  judge.need("deadHalves", m.deadHalves, (m.deadHalves?.length ?? 0) > 0, 0, edge || "not-asked");
  judge.watch("stuckReleases", m.stuckReleases, (m.stuckReleases ?? 0) > 0, 0);
  judge.watch("noAnswer", m.noAnswer, m.noAnswer === true, 0);
  judgeIdle(judge, m.idle);
  return judge.verdict();
}

/** Grades a trigger against the limits. */
export function gradeTrigger(
  m: TriggerMeasures,
  limits: Limits["trigger"],
  seen: SmallestSeen = {},
): Verdict {
  const judge = new Judge();
  // measured, and withheld all the same: the recording is too coarse for it
  const coarse = (measure: Measure, note: string) => (seen[measure] ? "pull-slower" : note);
  const noPull = m.restValue === null ? "rest-too-short" : "few-pulls";
  judge.atMost("restValue", m.restValue, limits.restValue, seen.restValue ? "too-coarse" : "rest-too-short");
  judge.atLeast("fullPull", m.fullPull, limits.fullPull, coarse("fullPull", noPull));
  judge.atMost("backtrack", m.backtrack, limits.backtrack, coarse("backtrack", noPull));
  if (m.holdSag !== null) judge.atMost("holdSag", m.holdSag, limits.holdSag);
  judge.atMost(
    "largestStep",
    m.largestStep,
    limits.largestStep,
    coarse("largestStep", m.fullPull === null ? noPull : "no-slow-pull"),
  );
  judge.watch("noAnswer", m.noAnswer, m.noAnswer === true, 0);
  judgeIdle(judge, m.idle);
  return judge.verdict();
}

/** Grades a button; a test that has not decided is untested. */
export function gradeButton(m: ButtonMeasures, firedOnce = false): Verdict {
  const judge = new Judge();
  const decide = (measure: Measure, decision: string | null) => {
    if (decision === "continue")
      judge.reasons.push({ measure, value: decision, limit: "good", grade: "untested", note: "undecided" });
    else judge.need(measure, decision, decision === "bad", "good", "no-cues");
  };
  decide("decision", m.decision);
  if (m.rim) decide("rim.decision", m.rim.decision);
  judge.need("stuckAtRest", m.stuckAtRest, m.stuckAtRest === true, "none", "rest-too-short");
  judge.watch("extra", m.extra, (m.extra ?? 0) > 0, 0);
  judge.watch("chatter", m.chatter, (m.chatter ?? 0) > 0, 0);
  judge.watch("firesWith", m.firesWith, (m.firesWith?.length ?? 0) > 0, "none");
  if (firedOnce && m.firesWith?.length === 0) judge.missing("firesWith", "fired-once");
  judgeIdle(judge, m.idle);
  return judge.verdict();
}
