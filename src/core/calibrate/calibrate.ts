import type { Limits } from "../grade/limits";
import type { Reason } from "../grade/grade";
import { ok, refuse, type Result } from "../base/result";
import type { StickResult } from "../analyse/analyse";
import { type Calibration, calibrateAxis } from "../signal/calibration";
import type { Point } from "../signal/rest";

/** What a unit's memory keeps for a stick: centre and ends of travel of the raw reading, per axis, -1..1. */
export type StickTable = { centre: Point; low: Point; high: Point };
export const PLAIN_TABLE: StickTable = { centre: [0, 0], low: [-1, -1], high: [1, 1] };

/**
 * A unit that can be calibrated. A simulated one and a real one answer alike; each call may fail when the
 * unit is gone.
 */
export interface CalibrationPort {
  readonly name: string;
  read(stick: string): Promise<StickTable>;
  /** takes effect at once and is lost at the next power-off */
  write(stick: string, table: StickTable): Promise<void>;
  /** keeps what was written */
  save(): Promise<void>;
  powerCycle(): Promise<void>;
}

/** Wear shows in these; no table moves them. */
const WEAR: readonly string[] = [
  "restNoise",
  "restSpikes",
  "stuckReleases",
  "jumps",
  "deadHalves",
  "noAnswer",
];

export type CalibrationProblem =
  | { code: "worn"; reasons: Reason[]; scatter: { value: number; limit: number } | null }
  | { code: "not-measured" };

/**
 * Whether a stick may be calibrated from a recording: measured, and noise, leaps, and scatter after release
 * within the limits of grade C. Scatter is the farthest return plus the noise at rest: what a dead zone about
 * the new centre must still hold.
 */
export function mayCalibrate(
  r: StickResult,
  limits: Limits["stick"],
): Result<Calibration, CalibrationProblem> {
  const reasons = r.reasons.filter((x) => x.grade === "fail" && WEAR.includes(x.measure));
  const value = (r.returnWorst ?? 0) + (r.restNoise ?? 0);
  const scatter = value > limits.safeDeadZone.C ? { value, limit: limits.safeDeadZone.C } : null;
  if (reasons.length || scatter) return refuse({ code: "worn", reasons, scatter });
  if (!r.calibration || r.restNoise === null || r.returnWorst === null)
    return refuse({ code: "not-measured" });
  return ok(r.calibration);
}

/** From what the unit reports to what its sensor reads, under a table. */
const rawOf = (v: number, c: number, low: number, high: number): number =>
  v >= 0 ? c + v * (high - c) : c + v * (c - low);

/**
 * The table to write: the recording was made under `now`, so its figures are taken back to raw readings
 * first. Centre alone keeps the old ends; then the range. Rounded to what the unit's memory keeps.
 */
export function nextTable(
  now: StickTable,
  measured: Calibration,
  part: "centre" | "range",
  stepsPerUnit: number,
): StickTable {
  const raw = (p: Point): Point => [
    rawOf(p[0], now.centre[0], now.low[0], now.high[0]),
    rawOf(p[1], now.centre[1], now.low[1], now.high[1]),
  ];
  const rounded = (p: Point): Point => [
    Math.round(p[0] * stepsPerUnit) / stepsPerUnit,
    Math.round(p[1] * stepsPerUnit) / stepsPerUnit,
  ];
  if (part === "centre") return { centre: rounded(raw(measured.centre)), low: now.low, high: now.high };
  return { centre: now.centre, low: rounded(raw(measured.low)), high: rounded(raw(measured.high)) };
}

/** What a unit with this table reports for a raw reading. */
export const reported = ([x, y]: Point, t: StickTable): Point => [
  calibrateAxis(x, t.centre[0], t.low[0], t.high[0]),
  calibrateAxis(y, t.centre[1], t.low[1], t.high[1]),
];

/** Whether two tables are the same in the unit's memory. */
export const sameTable = (a: StickTable, b: StickTable, stepsPerUnit: number): boolean =>
  (["centre", "low", "high"] as const).every((k) =>
    [0, 1].every((i) => Math.abs(a[k][i]! - b[k][i]!) <= 0.6 / stepsPerUnit),
  );
