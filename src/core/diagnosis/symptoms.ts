import type { ControlResult } from "../analyse/analyse";
import type { CheckResult } from "../bench/result";
import type { Outcome } from "./priors";

/** From measures and answers to what was seen of each control and function, in the words of the diagnosis. */

const CENTRED = 0.05;
const failing = (r: ControlResult) =>
  new Set<string>(r.reasons.filter((x) => x.grade === "fail").map((x) => x.measure));

/** The pattern of a control's failure; "works" when it passed, null when the recording cannot tell. */
export function outcomeOf(r: ControlResult): Outcome | null {
  const bad = failing(r);
  if (bad.size === 0) return r.grade === "A" || r.grade === "B" ? "works" : null;
  const centred = r.kind === "stick" && r.restCentre !== null && Math.hypot(...r.restCentre) < CENTRED;
  const silent = r.kind === "button" && (r.registered ?? 0) === 0;
  return patternOf(r.kind, bad, { centred, silent });
}

/**
 * The pattern that some failing measures of one control make together.
 * @param about `centred`: where a stick rests on average is its middle; `silent`: of all presses none came through
 */
export function patternOf(
  kind: string,
  bad: ReadonlySet<string>,
  { centred, silent }: { centred: boolean; silent: boolean },
): Outcome {
  if (bad.has("noAnswer")) return "dead";
  if (kind === "stick") {
    if (bad.has("deadHalves")) return "dead-half";
    if (bad.has("jumps")) return "jumps";
    if (bad.has("restSpikes") || bad.has("restNoise")) return "noise";
    // where it first rested is no fault, where it rests after use is: it does not come back, its centre holds
    if (bad.has("restOffset") && !(centred && bad.has("safeDeadZone"))) return "offset";
    if (bad.has("stuckReleases") || bad.has("safeDeadZone")) return "scatter";
    return "short-reach";
  }
  if (kind === "trigger") {
    if (bad.has("largestStep") || bad.has("backtrack")) return "jumps";
    return bad.has("restValue") ? "offset" : "short-reach";
  }
  if (bad.has("stuckAtRest")) return "stuck";
  if (bad.has("firesWith")) return "bridged";
  if (bad.has("decision")) return silent ? "dead" : "misses";
  return bad.has("rim.decision") ? "rim-misses" : "misses";
}

/** Light presses that miss while normal or hard ones do not: a contact that yields to force. */
export const yieldsToForce = (light: Outcome | null, harder: Outcome | null): boolean =>
  light !== null && light !== "works" && harder === "works";

/** A function's answer; null where it was not tested or is not there. */
export const outcomeOfCheck = (result: CheckResult): Outcome | null => {
  if (result === "pass") return "works";
  if (result === "fail") return "dead";
  return null;
};

/**
 * What was seen at different times without anything being changed between: if it differs, it comes and goes.
 */
export function together(outcomes: readonly Outcome[]): Outcome | null {
  const last = outcomes.at(-1);
  if (last === undefined) return null;
  const works = outcomes.includes("works");
  return works && outcomes.some((o) => o !== "works") ? "intermittent" : last;
}
