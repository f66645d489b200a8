import type { Grade } from "../grade/grade";
import type { CheckResult } from "../bench/result";
import type { TestPurpose } from "../record/standing";
import type { ProtocolStep } from "./protocol";

/** What is recorded about a unit, as far as a protocol's steps look at it. Dates as ISO text. */
export type ProtocolFacts = {
  checks: readonly { functionId: string; result: CheckResult; at: string }[];
  readings: readonly {
    kind: string;
    subject: string;
    result: { verdict: Exclude<CheckResult, "not-fitted"> };
    at: string;
  }[];
  recordings: readonly { purpose: TestPurpose; grade: Grade; startedAt: string }[];
  /** only what was measured later counts: the last mend for a proof, null otherwise */
  since: string | null;
};

/** How a step stands. A blank is "not tested" and never a pass. */
export function stateOfStep(step: ProtocolStep, facts: ProtocolFacts): CheckResult {
  const counts = (at: string) => facts.since === null || at > facts.since;
  if (step.functionId !== null) {
    const check = facts.checks.find((c) => c.functionId === step.functionId);
    return check && (check.result === "not-fitted" || counts(check.at)) ? check.result : "not-tested";
  }
  if (step.method === "guided" || step.method === "quick") {
    const purpose = step.method === "guided" ? "full" : "quick";
    const test = facts.recordings.find((r) => r.purpose === purpose && counts(r.startedAt));
    if (!test || test.grade === "untested") return test && purpose === "quick" ? "pass" : "not-tested";
    return test.grade === "fail" ? "fail" : "pass";
  }
  const reading = facts.readings.find(
    (r) => r.kind === step.method && r.subject === step.subject && counts(r.at),
  );
  return reading?.result.verdict ?? "not-tested";
}

/** The next step that wants doing: the first one not tested that is not optional. */
export const nextStep = (steps: readonly ProtocolStep[], facts: ProtocolFacts): ProtocolStep | null =>
  steps.find((s) => !s.optional && stateOfStep(s, facts) === "not-tested") ?? null;
