import { calibrate, type Calibration } from "./calibration";
import { crossTalk } from "./cross-talk";
import { type Half, deadHalves, noAnswer } from "./dead-halves";
import { type Jumps, findJumps } from "./jumps";
import {
  DIRECTIONS,
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
import { type Point, measureRest } from "./rest";
import { type Prepared, gather, restRuns, runsFor } from "./rows";

/**
 * Every measure of a stick; null where the recording holds no evidence. Lengths are shares of full travel.
 */
export type StickMeasures = {
  restOffset: number | null;
  restCentre: Point | null;
  restNoise: number | null;
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
};

/** What stands behind the measures: why some are null, and what the live page and the plots draw. */
export type StickEvidence = {
  outer: Outer | null;
  outerProblem: OuterProblem | "no-circle" | null;
  settled: Point[];
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
      jumps: found !== null && (found.count > 0 || problem === null) ? found : null,
      crossTalkDeg: sweep.length ? crossTalk(p, x, y, sweep) : null,
      calibration: rest && reach && calibrate(p, x, y, circle, rest, reach),
    },
    evidence: { outer, outerProblem: problem, settled: flick.settled },
  };
}

/** The rows of the rest runs of a stick, for a plot. */
export function restCloud(p: Prepared, id: string, x: Float64Array, y: Float64Array): Point[] {
  const runs = restRuns(p, id) ?? [];
  const xs = gather(x, runs);
  const ys = gather(y, runs);
  return Array.from(xs, (v, i): Point => [v, ys[i]!]);
}
