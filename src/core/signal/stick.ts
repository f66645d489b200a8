import { calibrate, type Calibration } from "./calibration";
import { crossTalk } from "./cross-talk";
import { type Half, deadHalves, noAnswer } from "./dead-halves";
import { type Jumps, findJumps } from "./jumps";
import {
  DIRECTIONS,
  SECTORS,
  type Outer,
  type OuterProblem,
  type Reach,
  circularityError,
  measureOuter,
  outerProblem,
  reachMinOf,
  reachOf,
} from "./outer";
import { findReleases, releaseFigures } from "./releases";
import { type Idle, idleStick } from "./idle";
import { type Point, type Rest, measureRest } from "./rest";
import { type Prepared, type Run, changesIn, gather, quantumOf, restRuns, runsFor, sum } from "./rows";

/**
 * Every measure of a stick; null where the recording holds no evidence. Lengths are shares of full travel.
 */
export type StickMeasures = {
  restOffset: number | null;
  restCentre: Point | null;
  restNoise: number | null;
  /** the noise of each axis by itself; what was analysed before it was told has none */
  restNoiseBy?: Point | null;
  restSpikes: number | null;
  releases: number | null;
  /** how many of the eight directions it was let go from; one that hangs from above only must not pass */
  octants: number | null;
  returnWorst: number | null;
  returnSpread: number | null;
  stuckReleases: number | null;
  safeDeadZone: number | null;
  reach: Reach | null;
  reachMin: number | null;
  circularityError: number | null;
  coverage: number | null;
  profile: (number | null)[] | null;
  deadHalves: Half[] | null;
  noAnswer: boolean | null;
  jumps: Jumps | null;
  crossTalkDeg: { x: number | null; y: number | null } | null;
  calibration: Calibration | null;
  idle: Idle | null;
};

/** One-sided 95 % doubts of the measures, each in its own unit. */
export type StickDoubt = {
  restOffset: number;
  restNoise: number;
  safeDeadZone: number;
  reachMin: number;
  circularityError: number;
  /** seconds with hands off, in which a leap could have shown */
  restSeconds: number;
};

/** What stands behind the measures: why some are null, and what the live page and the plots draw. */
export type StickEvidence = {
  outer: Outer | null;
  outerProblem: OuterProblem | "no-circle" | null;
  settled: Point[];
  /** where it was let go before each of the settled places */
  letGoAt: Point[];
  doubt: StickDoubt | null;
};

export const RELEASES_NEEDED = 8;

const finite = (v: number | undefined): number | null => (v === undefined || !Number.isFinite(v) ? null : v);

/** Measures one stick from its columns. Source: docs/measures.md, "Sticks". */
export function measureStick(
  p: Prepared,
  id: string,
  x: Float64Array,
  y: Float64Array,
): { measures: StickMeasures; evidence: StickEvidence } {
  const restRows = restRuns(p, id);
  const rest = restRows && measureRest(p, x, y, restRows);
  const flickRuns = runsFor(p, id, "flick");
  const flick = findReleases(p, x, y, flickRuns);
  const released = releaseFigures(flick, rest?.centre ?? null);

  const circle = runsFor(p, id, "circle");
  const moving = runsFor(p, id, "circle", "sweep");
  const dead = deadHalves(p, x, y, circle, moving);
  const outer = circle.length ? measureOuter(p, x, y, circle) : null;
  const problem = outer === null ? "no-circle" : outerProblem(outer, (dead?.length ?? 0) > 0);
  const edge = problem === null ? outer : null;
  const reach = edge && reachOf(edge.profile, dead ?? []);

  const found =
    moving.length && problem !== "too-fast"
      ? findJumps(p, x, y, moving, rest ?? { centre: [0, 0], noise: 0 })
      : null;
  const sweep = runsFor(p, id, "sweep");
  const enough =
    rest !== null && (released?.releases ?? 0) >= RELEASES_NEEDED && flick.from.size === DIRECTIONS.length;
  return {
    measures: {
      restOffset: rest?.offset ?? null,
      restCentre: rest?.centre ?? null,
      restNoise: rest?.noise ?? null,
      restNoiseBy: rest?.noiseBy ?? null,
      restSpikes: rest?.spikes ?? null,
      releases: flickRuns.length ? (released?.releases ?? flick.settled.length) : null,
      octants: flickRuns.length ? flick.from.size : null,
      returnWorst: finite(released?.worst),
      returnSpread: finite(released?.spread),
      stuckReleases: released?.stuck ?? null,
      safeDeadZone: enough ? Math.max(rest.radius995, ...flick.settled.map((s) => Math.hypot(...s))) : null,
      reach,
      reachMin: reach && reachMinOf(reach),
      circularityError: edge && circularityError(edge.profile),
      coverage: outer?.coverage ?? null,
      profile: edge && edge.profile,
      deadHalves: dead,
      noAnswer: noAnswer(p, circle, (i) => Math.hypot(x[i]!, y[i]!)),
      jumps: found !== null && ((found.count ?? 0) > 0 || problem === null) ? found : null,
      crossTalkDeg: sweep.length ? crossTalk(p, x, y, sweep) : null,
      calibration: rest && reach && calibrate(p, x, y, circle, rest, reach),
      idle: idleStick(p, id, x, y, rest),
    },
    evidence: {
      outer,
      outerProblem: problem,
      settled: flick.settled,
      letGoAt: flick.letGoAt,
      doubt: rest && restRows && doubtOf(p, x, y, rest, restRows),
    },
  };
}

const Z95 = 1.6449;
const P95_TO_SIGMA = 2.4477; // of the distance of two normal deviates
const MEDIAN_TO_SIGMA = 1.1774;
const MEDIAN_COSTS = 1.2533; // the spread of a median over that of a mean
const SECTOR_ROWS = 3;
const LEAST_LOOKS_PER_S = 10; // a value that does not change was looked at all the same

/**
 * What each measure may be off by: half a step of the converter, and what noise leaves after as many looks as
 * the values changed. Normal approximations of the median, of a 95th percentile and of a mean of sectors.
 */
function doubtOf(
  p: Prepared,
  x: Float64Array,
  y: Float64Array,
  rest: Rest,
  restRows: readonly Run[],
): StickDoubt {
  const step = Math.max(quantumOf(x), quantumOf(y)) / 2;
  const sigma = rest.noise / P95_TO_SIGMA;
  const restSeconds = sum(gather(p.weights, restRows)) / 1000;
  const looks = Math.max(1, restSeconds * LEAST_LOOKS_PER_S, changesIn([x, y], restRows));
  return {
    restOffset: step + (Z95 * MEDIAN_COSTS * rest.median) / MEDIAN_TO_SIGMA / Math.sqrt(looks),
    restNoise: step + (Z95 * rest.noise) / Math.sqrt(2 * looks),
    safeDeadZone: step + Z95 * sigma,
    reachMin: step + (Z95 * sigma) / Math.sqrt(SECTOR_ROWS),
    circularityError: step + (Z95 * sigma) / Math.sqrt(SECTORS),
    restSeconds,
  };
}

/** The rows of the rest runs of a stick, for a plot. */
export function restCloud(p: Prepared, id: string, x: Float64Array, y: Float64Array): Point[] {
  const runs = restRuns(p, id) ?? [];
  const xs = gather(x, runs);
  const ys = gather(y, runs);
  return Array.from(xs, (v, i): Point => [v, ys[i]!]);
}
