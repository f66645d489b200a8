import type { ButtonMeasures } from "../signal/button";
import type { StickDoubt, StickMeasures } from "../signal/stick";
import type { TriggerDoubt, TriggerMeasures } from "../signal/trigger";
import type { Ladder, Limits } from "./limits";
import type { Measure } from "./measures";

/**
 * The smallest defect that a recording would have shown with 95 % probability, and the largest that may stay
 * unseen; beyond it the measure is withheld. In the measure's own unit: a share of travel, a share of the
 * times, or leaps a second at rest. Source: docs/measures.md, "What a recording could not have shown".
 */
export type Seen = { value: number; bound: number };
export type SmallestSeen = Partial<Record<Measure, Seen>>;

const RATE_BOUND = 0.2;
const LEAP_BOUND = 0.15;
const LEAP_NOISE_TIMES = 4;
const REST_LEAPS_PER_SECOND = 2;
const UNSEEN = 0.05;

/** The share of times that shows at least once in n, with 95 % probability. */
const smallestRate = (n: number): number => 1 - UNSEEN ** (1 / Math.max(1, n));

const over = (l: Ladder, doubt: number): Seen => ({ value: l.A + doubt, bound: l.C });
const under = (l: Ladder, doubt: number): Seen => ({ value: l.A - doubt, bound: l.C });
const rate = (n: number): Seen => ({ value: smallestRate(n), bound: RATE_BOUND });

/** Whether a defect could be larger than the bound and still not have shown. */
const isTooCoarse = (seen: SmallestSeen, measure: Measure): boolean => {
  const one = seen[measure];
  if (!one) return false;
  return AT_LEAST.has(measure) ? one.value < one.bound : one.value > one.bound;
};
const AT_LEAST: ReadonlySet<Measure> = new Set(["reachMin", "fullPull"]);

export function stickSeen(m: StickMeasures, doubt: StickDoubt | null, l: Limits["stick"]): SmallestSeen {
  const seen: SmallestSeen = {};
  if (doubt && m.restOffset !== null) {
    seen.restOffset = over(l.restOffset, doubt.restOffset);
    seen.restNoise = over(l.restNoise, doubt.restNoise);
    seen.restSpikes = { value: -Math.log(UNSEEN) / doubt.restSeconds, bound: REST_LEAPS_PER_SECOND };
    if (m.safeDeadZone !== null) seen.safeDeadZone = over(l.safeDeadZone, doubt.safeDeadZone);
    if (m.reachMin !== null) seen.reachMin = under(l.reachMin, doubt.reachMin);
    if (m.circularityError !== null) seen.circularityError = over(l.circularityError, doubt.circularityError);
  }
  if (m.jumps)
    seen.jumps = {
      value: m.jumps.smallestSeen,
      bound: Math.max(LEAP_BOUND, LEAP_NOISE_TIMES * (m.restNoise ?? 0)),
    };
  if (m.stuckReleases !== null && m.releases) seen.stuckReleases = rate(m.releases);
  return seen;
}

export function triggerSeen(
  m: TriggerMeasures,
  doubt: TriggerDoubt | null,
  l: Limits["trigger"],
): SmallestSeen {
  if (!doubt || m.fullPull === null) return {};
  return {
    restValue: over(l.restValue, doubt.restValue),
    fullPull: under(l.fullPull, doubt.fullPull),
    backtrack: over(l.backtrack, doubt.backtrack),
    holdSag: over(l.holdSag, doubt.holdSag),
    ...(m.largestStep === null ? {} : { largestStep: over(l.largestStep, doubt.largestStep) }),
  };
}

export function buttonSeen(m: ButtonMeasures): SmallestSeen {
  const presses = (m.cues ?? 0) + (m.rim?.cues ?? 0);
  if (presses === 0) return {};
  return {
    ...(m.missRateUpper95 === null ? {} : { decision: { value: m.missRateUpper95, bound: RATE_BOUND } }),
    ...(m.rim ? { "rim.decision": { value: m.rim.missRateUpper95, bound: RATE_BOUND } } : {}),
    extra: rate(presses),
    chatter: rate(presses),
    // two make a finding; one leaves the button untested (grade.ts), so that none goes by unseen
    firesWith: rate(presses),
  };
}

/** A count that the recording could not carry is no pass; what it did show stands. */
const counted = (seen: SmallestSeen, measure: Measure, value: number | null): number | null =>
  value === 0 && isTooCoarse(seen, measure) ? null : value;

/**
 * The same of a figure: a fail that was seen stands, and one that would pass does so only when its own doubt
 * does not reach beyond grade C.
 */
const shown = (seen: SmallestSeen, measure: Measure, value: number | null, l: Ladder): number | null => {
  const one = seen[measure];
  if (value === null || !one) return value;
  const sign = AT_LEAST.has(measure) ? -1 : 1;
  const beyond = (v: number, limit: number) => sign * v > sign * limit;
  if (beyond(value, l.C)) return value;
  const doubt = sign * (one.value - l.A);
  const mayFail = !beyond(value, l.B) && beyond(value + sign * doubt, l.C);
  return isTooCoarse(seen, measure) || mayFail ? null : value;
};

export function withheldStick(m: StickMeasures, seen: SmallestSeen, l: Limits["stick"]): StickMeasures {
  return {
    ...m,
    restOffset: shown(seen, "restOffset", m.restOffset, l.restOffset),
    restNoise: shown(seen, "restNoise", m.restNoise, l.restNoise),
    restSpikes: counted(seen, "restSpikes", m.restSpikes),
    safeDeadZone: shown(seen, "safeDeadZone", m.safeDeadZone, l.safeDeadZone),
    reachMin: shown(seen, "reachMin", m.reachMin, l.reachMin),
    circularityError: shown(seen, "circularityError", m.circularityError, l.circularityError),
    stuckReleases: counted(seen, "stuckReleases", m.stuckReleases),
    jumps: m.jumps && { ...m.jumps, count: counted(seen, "jumps", m.jumps.count) },
  };
}

export function withheldTrigger(
  m: TriggerMeasures,
  seen: SmallestSeen,
  l: Limits["trigger"],
): TriggerMeasures {
  return {
    ...m,
    restValue: shown(seen, "restValue", m.restValue, l.restValue),
    fullPull: shown(seen, "fullPull", m.fullPull, l.fullPull),
    backtrack: shown(seen, "backtrack", m.backtrack, l.backtrack),
    holdSag: shown(seen, "holdSag", m.holdSag, l.holdSag),
    largestStep: shown(seen, "largestStep", m.largestStep, l.largestStep),
  };
}

export function withheldButton(m: ButtonMeasures, seen: SmallestSeen): ButtonMeasures {
  const joint = (m.firesWith?.length ?? 0) === 0 && isTooCoarse(seen, "firesWith");
  return {
    ...m,
    extra: counted(seen, "extra", m.extra),
    chatter: counted(seen, "chatter", m.chatter),
    firesWith: joint ? null : m.firesWith,
  };
}
