import { weightedMedian, weightedQuantile } from "../math/quantile";
import { type Prepared, type Run, rowsIn } from "./rows";

export const SECTORS = 72;
const SECTOR_DEG = 360 / SECTORS;
const SECTOR_NEEDS = 3;
const TURNING_RADIUS = 0.5; // nearer the middle the angle says little
const TURN_HYSTERESIS_DEG = 30;
const SPEED_WINDOW_MS = 100; // over a window, so that noise does not look like speed
const NEAR_MIDDLE = 0.3;
const COVERAGE_NEEDED = 0.9;
const TURNS_NEEDED = 2;
const MAX_TURNS_PER_S = 2;

export const DIRECTIONS = [
  "right",
  "upRight",
  "up",
  "upLeft",
  "left",
  "downLeft",
  "down",
  "downRight",
] as const;
export type Direction = (typeof DIRECTIONS)[number];
/** Which of the eight sectors of 45 degrees about the directions a place lies in. y is down. */
export const directionOf = (x: number, y: number): Direction => {
  const turn = Math.atan2(-y, x) / (2 * Math.PI);
  const n = DIRECTIONS.length;
  return DIRECTIONS[Math.round(turn * n + n) % n]!;
};
export type Reach = Record<Direction, number | null>;

/** The edge of the stick's travel as recorded, whether or not the recording can carry a verdict. */
export type Outer = {
  /** R(k) per sector of 5 degrees, counter-clockwise from right, up is up; null where not covered */
  profile: (number | null)[];
  coverage: number;
  /** whole and part turns made each way */
  turns: { left: number; right: number };
  /** median, in turns per second; null when the stick never turned */
  turnsPerSecond: number | null;
};

export type OuterProblem = "coverage" | "turns" | "too-fast";

/** Degrees counter-clockwise from right, with up as up although +y points down. */
const degrees = (x: number, y: number) => {
  const a = (Math.atan2(-y, x) * 180) / Math.PI;
  return a < 0 ? a + 360 : a;
};

export function measureOuter(p: Prepared, x: Float64Array, y: Float64Array, runs: readonly Run[]): Outer {
  const n = rowsIn(runs);
  const sector = new Uint8Array(n);
  const r = new Float64Array(n);
  const w = new Float64Array(n);
  const counts = new Uint32Array(SECTORS);
  const turning = new TurnCounter();
  let at = 0;
  for (const run of runs) {
    turning.breakOff();
    for (let i = run.from; i < run.to; i++, at++) {
      const deg = degrees(x[i]!, y[i]!);
      const k = Math.min(SECTORS - 1, Math.floor(deg / SECTOR_DEG));
      sector[at] = k;
      r[at] = Math.hypot(x[i]!, y[i]!);
      w[at] = p.weights[i]!;
      counts[k]!++;
      if (r[at]! >= TURNING_RADIUS) turning.add(p.recording.t[i]!, deg, p.weights[i]!);
      else turning.breakOff();
    }
  }
  leaveOutRest(sector, r, w);
  const profile = sectorQuantiles(sector, r, w, counts);
  return {
    profile,
    coverage: profile.filter((v) => v !== null).length / SECTORS,
    turns: turning.turns(),
    turnsPerSecond: turning.medianSpeed(),
  };
}

/**
 * A stick that lies still before or after its circles rests in one sector when it rests off centre, and would
 * drown the edge there. What lies near the middle counts only where nothing of the sector lies farther out.
 */
function leaveOutRest(sector: Uint8Array, r: Float64Array, w: Float64Array): void {
  const farther = new Uint32Array(SECTORS);
  for (let i = 0; i < r.length; i++) if (r[i]! >= NEAR_MIDDLE) farther[sector[i]!]!++;
  for (let i = 0; i < r.length; i++)
    if (r[i]! < NEAR_MIDDLE && farther[sector[i]!]! >= SECTOR_NEEDS) w[i] = 0;
}

function sectorQuantiles(
  sector: Uint8Array,
  r: Float64Array,
  w: Float64Array,
  counts: Uint32Array,
): (number | null)[] {
  const starts = new Uint32Array(SECTORS + 1);
  for (let k = 0; k < SECTORS; k++) starts[k + 1] = starts[k]! + counts[k]!;
  const next = starts.slice(0, SECTORS);
  const rs = new Float64Array(r.length);
  const ws = new Float64Array(r.length);
  for (let i = 0; i < r.length; i++) {
    const at = next[sector[i]!]!++;
    rs[at] = r[i]!;
    ws[at] = w[i]!;
  }
  return Array.from(counts, (count, k) =>
    count < SECTOR_NEEDS
      ? null
      : weightedQuantile(rs.subarray(starts[k], starts[k + 1]), ws.subarray(starts[k], starts[k + 1]), 0.9),
  );
}

/** Follows the angle, adds up turning each way with a hysteresis, and notes the speed over short windows. */
class TurnCounter {
  private left = 0;
  private right = 0;
  private angle = NaN;
  private turnStart = NaN;
  private extreme = NaN;
  private way = 0;
  private readonly times: number[] = [];
  private readonly angles: number[] = [];
  private tail = 0;
  private readonly speeds: number[] = [];
  private readonly speedWeights: number[] = [];

  add(t: number, deg: number, weight: number): void {
    if (Number.isNaN(this.angle)) this.begin(deg);
    else {
      let step = (deg - this.angle) % 360;
      if (step > 180) step -= 360;
      if (step < -180) step += 360;
      this.angle += step;
      this.follow();
    }
    this.times.push(t);
    this.angles.push(this.angle);
    while (t - this.times[this.tail + 1]! >= SPEED_WINDOW_MS) this.tail++;
    const dt = t - this.times[this.tail]!;
    if (dt < SPEED_WINDOW_MS) return;
    this.speeds.push(Math.abs(this.angle - this.angles[this.tail]!) / 360 / (dt / 1000));
    this.speedWeights.push(weight);
  }

  /** The stick left the edge, or the run ended: what follows is a new stretch. */
  breakOff(): void {
    if (Number.isNaN(this.angle)) return;
    this.close();
    this.angle = NaN;
    this.times.length = 0;
    this.angles.length = 0;
    this.tail = 0;
  }

  turns(): { left: number; right: number } {
    this.breakOff();
    return { left: this.left / 360, right: this.right / 360 };
  }

  medianSpeed(): number | null {
    if (this.speeds.length === 0) return null;
    return weightedMedian(Float64Array.from(this.speeds), Float64Array.from(this.speedWeights));
  }

  private begin(deg: number): void {
    this.angle = this.turnStart = this.extreme = deg;
    this.way = 0;
  }

  private follow(): void {
    if (this.way === 0) {
      if (Math.abs(this.angle - this.turnStart) >= TURN_HYSTERESIS_DEG) {
        this.way = Math.sign(this.angle - this.turnStart);
        this.extreme = this.angle;
      }
    } else if ((this.angle - this.extreme) * this.way > 0) this.extreme = this.angle;
    else if ((this.extreme - this.angle) * this.way >= TURN_HYSTERESIS_DEG) {
      this.close();
      this.turnStart = this.extreme;
      this.way = -this.way;
      this.extreme = this.angle;
    }
  }

  private close(): void {
    const turned = this.way === 0 ? 0 : Math.abs(this.extreme - this.turnStart);
    if (this.way > 0) this.left += turned;
    else this.right += turned;
  }
}

/** Why the edge cannot be judged from this recording; a dead half explains missing coverage and turns. */
export function outerProblem(outer: Outer, hasDeadHalf: boolean): OuterProblem | null {
  if (outer.turnsPerSecond !== null && outer.turnsPerSecond > MAX_TURNS_PER_S) return "too-fast";
  if (hasDeadHalf) return null;
  if (outer.coverage < COVERAGE_NEEDED) return "coverage";
  const forgiven = SECTOR_DEG / 360; // sampling cuts both ends of a turn
  return Math.min(outer.turns.left, outer.turns.right) < TURNS_NEEDED - forgiven ? "turns" : null;
}

export function circularityError(profile: readonly (number | null)[]): number | null {
  const covered = profile.filter((v) => v !== null);
  return covered.length === 0 ? null : covered.reduce((s, v) => s + Math.abs(v - 1), 0) / covered.length;
}

/** R at the eight directions: the mean over the two sectors that meet there; 0 toward a dead half. */
export function reachOf(profile: readonly (number | null)[], dead: readonly string[]): Reach {
  const at = (i: number): number | null => {
    const centre = i * (SECTORS / DIRECTIONS.length);
    const near = [profile[(centre + SECTORS - 1) % SECTORS]!, profile[centre]!].filter((v) => v !== null);
    return near.length === 0 ? null : near.reduce((s, v) => s + v, 0) / near.length;
  };
  return Object.fromEntries(DIRECTIONS.map((d, i) => [d, dead.includes(d) ? 0 : at(i)])) as Reach;
}

export function reachMinOf(reach: Reach): number | null {
  const straight = [reach.right, reach.up, reach.left, reach.down];
  return straight.includes(null) ? null : Math.min(...(straight as number[]));
}
