import type { StickResult } from "./analyse";
import type { Limits } from "../grade/limits";

/** Whether a calibration would bring a stick within its limits, and what it cannot cure. */
export type CalibrationOutlook =
  | { verdict: "not-needed" }
  | { verdict: "cures"; before: string[] }
  | { verdict: "helps"; cured: string[]; left: string[] }
  | { verdict: "no-cure"; left: string[] }
  | { verdict: "unknown" };

const CALIBRATED = ["restOffset", "reachMin", "circularityError", "safeDeadZone"] as const;

/**
 * From the figures that measures.md predicts after calibration, against the limits of grade C: wear (noise,
 * leaps, jumps, scatter after release, dead halves) is out of its reach.
 */
export function calibrationOutlook(r: StickResult, limits: Limits["stick"]): CalibrationOutlook {
  const failing = r.reasons.filter((x) => x.grade === "fail" || x.grade === "C").map((x) => x.measure);
  if (failing.length === 0) return { verdict: "not-needed" };
  if (!r.calibration) return { verdict: "unknown" };
  const { after } = r.calibration;
  const scatter = (r.returnWorst ?? 0) + (r.restNoise ?? 0);
  const keeps: Record<string, boolean> = {
    restOffset: after.restOffset <= limits.restOffset.B,
    reachMin: after.reachMin !== null && after.reachMin >= limits.reachMin.B,
    circularityError: after.circularityError !== null && after.circularityError <= limits.circularityError.B,
    // a dead zone about the true centre must still hold the scatter of the releases
    safeDeadZone: scatter <= limits.safeDeadZone.B,
  };
  const cured = failing.filter((m) => (CALIBRATED as readonly string[]).includes(m) && keeps[m]);
  const left = failing.filter((m) => !cured.includes(m));
  if (left.length === 0) return { verdict: "cures", before: cured };
  return cured.length ? { verdict: "helps", cured, left } : { verdict: "no-cure", left };
}
