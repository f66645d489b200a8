import type { InputMap } from "../input/input";
import type { Recording } from "../recording/recording";
import { columnsOf } from "../analyse/analyse";
import { answerTo, findPresses, measureButton } from "../signal/button";
import { HALVES, deadHalves } from "../signal/dead-halves";
import { type Direction, DIRECTIONS, measureOuter, outerProblem } from "../signal/outer";
import { findJumps } from "../signal/jumps";
import { findReleases } from "../signal/releases";
import { badChance, type Presses } from "../signal/risk";
import { type Prepared, prepare, runsFor } from "../signal/rows";
import { type MissTest, sprt } from "../signal/sprt";
import { findPulls, type Pull } from "../signal/trigger";
import type { GuideStep } from "./plan";

/** What a step still waits for; the words live in src/text. */
export type Waiting =
  | { code: "hands-off"; secondsLeft: number }
  | { code: "keep-circling"; coverage: number; left: number; right: number }
  | { code: "too-fast"; turnsPerSecond: number }
  | { code: "too-quick-for-link"; smallest: number }
  | { code: "sweep-missing"; halves: readonly string[] }
  | { code: "let-go-sweep" }
  | { code: "flicks"; done: number; needed: number; lacks: readonly Direction[] }
  | { code: "pulls"; done: number; needed: number }
  | { code: "presses"; cues: number; missed: number }
  | { code: "move-it" };

export type Progress = {
  done: boolean;
  fraction: number;
  waiting: Waiting;
  /** nothing has answered: ask the person once whether it was moved */
  silent?: boolean;
  /** the step cannot succeed as recorded and starts again */
  restart?: boolean;
  /** done, but so quickly that a leap might have hidden: worth another try, not worth many */
  coarse?: boolean;
  /** presses on the rim so far: asked and missed at the top, right, bottom, left */
  rim?: { asked: number[]; missed: number[] };
  /** the edge as far as the circles have drawn it, by sectors of 5 degrees counter-clockwise from right */
  edge?: readonly (number | null)[];
  /** how often the stick was let go from each of the eight directions, counter-clockwise from right */
  letGo?: readonly number[];
  /** the highest value of each pull so far */
  heights?: readonly number[];
  /** each cue of this attempt: ms until its press and how long it was held; null where none came */
  answers?: ([number, number] | null)[];
};

const REST_MS = 2450;
const SILENT_MS = 5200;
const DEAD_HALF_MS = 6000;
const TURNS_ASKED = 2.1;
const SWEEP_MS = 3000;
const SWEPT = 0.6;
const PULLS = 3;
const SLOW_PULLS = 2;
const MAX_CUES = 60;
const MAX_PROOF_CUES = 150; // a good button that missed three times is told from a bad one by then
const TEST_PRESSES = 15;
const PROOF_PRESSES = 21;
const PER_MISS = 12;
const LEAP_BOUND = 0.15;

const STILL: Waiting = { code: "move-it" };

/** How sure a press step must be that its button is good, and what was known before it. */
export type StepAim = { chance: number; before: Presses; pooled: boolean };

/**
 * How far a step has come, from its own rows (`r` starts where the step began) and the trigger's rest value.
 * Uses the same measures as the analysis, so that a step is done exactly when it carries a verdict.
 */
export function stepProgress(
  r: Recording,
  { step, control, ms = REST_MS }: GuideStep,
  map: InputMap,
  restValue: number,
  test: MissTest,
  aim: StepAim | null = null,
): Progress {
  const elapsed = r.length ? r.t[r.length - 1]! - r.t[0]! : 0;
  if (step === "rest") {
    const left = Math.max(0, ms - elapsed);
    return {
      done: left === 0,
      fraction: 1 - left / ms,
      waiting: { code: "hands-off", secondsLeft: left / 1000 },
    };
  }
  const mapped = map.controls.find((c) => c.id === control);
  const columns = mapped && columnsOf(r, mapped);
  if (!columns || r.length < 2) return { done: false, fraction: 0, waiting: STILL };
  const p = prepare(r, 0);
  if ("x" in columns) {
    if (step === "circle") return circleProgress(p, control, columns.x, columns.y, elapsed);
    if (step === "sweep") return sweepProgress(columns.x, columns.y, elapsed);
    return flickProgress(p, control, columns.x, columns.y);
  }
  if (step === "pull") return pullProgress(p, control, columns.v, restValue, elapsed);
  return pressProgress(p, control, columns.v, step, test, aim);
}

function circleProgress(
  p: Prepared,
  control: string,
  x: Float64Array,
  y: Float64Array,
  elapsed: number,
): Progress {
  const runs = runsFor(p, control, "circle");
  const outer = measureOuter(p, x, y, runs);
  const { coverage, turns, turnsPerSecond } = outer;
  const edge = outer.profile;
  const fraction =
    Math.min(coverage / 0.9, 1) * 0.5 + (Math.min(2, turns.left) + Math.min(2, turns.right)) / 8;
  const waiting: Waiting = { code: "keep-circling", coverage, left: turns.left, right: turns.right };
  const moved = Math.max(...x.map((v, i) => Math.hypot(v, y[i]!)));
  if (moved <= 0.25) return { done: false, fraction: 0, waiting: STILL, silent: elapsed >= SILENT_MS };
  const dead = elapsed >= DEAD_HALF_MS && (deadHalves(p, x, y, runs, runs)?.length ?? 0) > 0;
  const problem = outerProblem(outer, dead);
  if (problem === "too-fast")
    return {
      done: false,
      fraction,
      waiting: { code: "too-fast", turnsPerSecond: turnsPerSecond ?? 0 },
      restart: Math.min(turns.left, turns.right) >= 2,
      edge,
    };
  // a little more than the least, so that the recording still carries its verdict when it is sampled more
  // coarsely
  const done = problem === null && (dead || Math.min(turns.left, turns.right) >= TURNS_ASKED);
  if (!done) return { done, fraction: Math.min(0.98, fraction), waiting, edge };
  const { smallestSeen } = findJumps(p, x, y, runs, { centre: [0, 0], noise: 0 });
  const coarse = !dead && smallestSeen > LEAP_BOUND;
  return coarse
    ? { done, coarse, fraction: 1, waiting: { code: "too-quick-for-link", smallest: smallestSeen }, edge }
    : { done, fraction: 1, waiting, edge };
}

function sweepProgress(x: Float64Array, y: Float64Array, elapsed: number): Progress {
  const far = {
    right: Math.max(...x),
    left: -Math.min(...x),
    up: -Math.min(...y),
    down: Math.max(...y),
  };
  const missing = HALVES.filter((half) => far[half] < SWEPT);
  const radius = Math.hypot(x.at(-1)!, y.at(-1)!);
  // a half that never answers must not hold the test: the circle has already shown it
  const enough = missing.length === 0 || elapsed >= 3 * SWEEP_MS;
  return {
    done: enough && radius < 0.3 && elapsed >= SWEEP_MS,
    fraction: Math.min(0.98, (4 - missing.length) / 4),
    waiting: missing.length ? { code: "sweep-missing", halves: missing } : { code: "let-go-sweep" },
  };
}

/** Sixteen releases, two out of each direction: one that hangs in 4 of 10 then passes 3 times in 10,000. */
const RELEASES_ASKED = 16;
export const AN_OCTANT = 2;
const RELEASES_MOST = 24;

function flickProgress(p: Prepared, control: string, x: Float64Array, y: Float64Array): Progress {
  const { settled, neverLetGo, from } = findReleases(p, x, y, runsFor(p, control, "flick"));
  const done = settled.length + neverLetGo;
  const seen = (d: Direction) => Math.min(AN_OCTANT, from.get(d) ?? 0);
  const lacks = DIRECTIONS.filter((d) => seen(d) < AN_OCTANT);
  // a side that does not answer is never let go from: the circles have shown it, and the step must end
  const enough = done >= RELEASES_ASKED && (lacks.length === 0 || done >= RELEASES_MOST);
  return {
    done: enough,
    fraction: Math.min(1, DIRECTIONS.reduce((n, d) => n + seen(d), 0) / RELEASES_ASKED),
    waiting: { code: "flicks", done, needed: RELEASES_ASKED, lacks },
    letGo: DIRECTIONS.map((d) => from.get(d) ?? 0),
  };
}

/** One held pull that ends below the others: the hand's half pull, or the trigger. More pulls tell. */
const SHORTER = 0.05;
const someStopShort = (held: readonly Pull[]): boolean => {
  const heights = held.map((pull) => pull.highest);
  return Math.max(...heights) - Math.min(...heights) > SHORTER;
};

function pullProgress(
  p: Prepared,
  control: string,
  v: Float64Array,
  rest: number,
  elapsed: number,
): Progress {
  const pulls = findPulls(p.recording.t, v, runsFor(p, control, "pull"), rest);
  const slow = pulls.filter((pull) => pull.slow).length;
  const held = pulls.filter((pull) => pull.held);
  const needed = someStopShort(held) ? 2 * PULLS : PULLS;
  const silent = v.every((value) => Math.abs(value - rest) <= 0.25) && elapsed >= SILENT_MS;
  return {
    // a trigger that never stays at its end must not hold the test: it is untested, and says so
    done: (held.length >= needed && slow >= SLOW_PULLS) || pulls.length >= 4 * PULLS,
    fraction: Math.min(held.length / needed, slow / SLOW_PULLS, 1),
    waiting: { code: "pulls", done: Math.min(held.length, needed - PULLS + slow + 1), needed },
    silent,
    heights: pulls.map((pull) => pull.highest),
  };
}

function pressProgress(
  p: Prepared,
  control: string,
  v: Float64Array,
  step: string,
  test: MissTest,
  aim: StepAim | null,
): Progress {
  const { measures, rim, cued } = measureButton(
    p,
    control,
    v,
    [{ id: control, presses: findPresses(p.recording.t, v) }],
    test,
  );
  const bySide = (some: typeof rim) => [0, 1, 2, 3].map((side) => some.filter((r) => r.side === side).length);
  const figuresOf = () => {
    if (step === "press-edge") return measures.rim;
    if (measures.cues === null) return null;
    return measures as { cues: number; missed: number; registered: number; decision: string };
  };
  const figures = figuresOf();
  const cues = figures?.cues ?? 0;
  const missed = figures?.missed ?? 0;
  const chance = aim && badChance({ presses: aim.before.presses + cues, missed: aim.before.missed + missed });
  const sure = figures?.decision === "bad" || aim === null || chance! < aim.chance;
  const all = aim && { cues: aim.before.presses + cues, missed: aim.before.missed + missed };
  const known = aim?.pooled === true && all !== null && sprt(all.cues, all.missed, test) !== "continue";
  const decided =
    figures !== null &&
    (((known || figures.decision !== "continue") && sure) || cues >= (aim ? MAX_PROOF_CUES : MAX_CUES));
  const likely = (aim && aim.before.presses === 0 ? PROOF_PRESSES : TEST_PRESSES) + PER_MISS * missed;
  return {
    done: decided,
    fraction: decided ? 1 : Math.min(0.98, cues / likely),
    waiting: { code: "presses", cues, missed },
    silent: decided && figures.registered === 0,
    answers: cued.map(({ cue, press }) => answerTo(cue, press)),
    ...(step === "press-edge"
      ? { rim: { asked: bySide(rim), missed: bySide(rim.filter((r) => !r.answered)) } }
      : {}),
  };
}
