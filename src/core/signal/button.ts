import { clopperPearsonUpper } from "../math/binomial";
import { type Prepared, type Run, gather, restRuns, runsFor, sum } from "./rows";
import { type Idle, idleButton, PRESSED } from "./idle";
import { badChance } from "./risk";
import { type Decision, type MissTest, sprt } from "./sprt";

export type PressFigures = {
  cues: number;
  registered: number;
  missed: number;
  missRateUpper95: number;
  decision: Decision;
  /** the chance that the button is bad after these presses (signal/risk.ts); null in older analyses */
  releaseRisk: number | null;
};

/** Every measure of a button; null where the recording holds no evidence. */
export type ButtonMeasures = {
  cues: number | null;
  registered: number | null;
  missed: number | null;
  extra: number | null;
  chatter: number | null;
  firesWith: string[] | null;
  stuckAtRest: boolean | null;
  missRateUpper95: number | null;
  decision: Decision | null;
  releaseRisk: number | null;
  rim: PressFigures | null;
  idle: Idle | null;
};

export type Press = { start: number; end: number };
/** A cue with the start of the press that answered it, in ms; null when none did. */
export type CuedPress = { cue: number; press: Press | null };

/** How a press answered its cue: ms until it came and for how long it was held, at most 2 s; null when none came. */
export const answerTo = (cue: number, press: Press | null): [number, number] | null =>
  press && [Math.round(press.start - cue), Math.round(Math.min(2000, press.end - press.start))];

const EARLY_MS = 150;
const LATE_MS = 450;
const CHATTER_MS = 40;
const FIRES_TIMES = 2;
const FIRES_EARLY_MS = 30; // bridged contacts may be sampled a row apart

/** All presses in a column: from the row at which it became pressed to the row at which it was let go. */
export function findPresses(t: Float64Array, v: Float64Array): Press[] {
  const presses: Press[] = [];
  let open: Press | undefined;
  for (let i = 1; i < v.length; i++) {
    const now = v[i]! > PRESSED;
    if (now === v[i - 1]! > PRESSED) continue;
    if (now) presses.push((open = { start: t[i]!, end: Infinity }));
    else if (open) {
      open.end = t[i]!;
      open = undefined;
    } else presses.push({ start: -Infinity, end: t[i]! }); // held from before the first row
  }
  return presses;
}

type Sorted = { cued: CuedPress[]; extra: number };

/**
 * The presses that rim cues asked for, in their order within each run: a full test goes round the four sides.
 */
export type RimPress = { side: number; answered: boolean };

/**
 * Gives each press to its cue. Cues with under 450 ms of recording left are dropped, and so are their
 * presses.
 */
function answerCues(
  t: Float64Array,
  cues: readonly number[],
  presses: readonly Press[],
  runs: readonly Run[],
): Sorted {
  const end = t[t.length - 1]!;
  const cued = cues.map((cue): CuedPress => ({ cue, press: null }));
  const spans = runs.map((r) => [t[r.from]!, t[r.to - 1]!] as const);
  let extra = 0;
  for (const press of presses) {
    const nearest = nearestCue(cued, press.start);
    if (nearest && nearest.press === null) nearest.press = press;
    else if (nearest || spans.some(([a, b]) => press.start >= a && press.start <= b)) extra++;
  }
  return { cued: cued.filter((c) => end - c.cue >= LATE_MS), extra };
}

function nearestCue(cued: readonly CuedPress[], start: number): CuedPress | null {
  let lo = 0;
  let hi = cued.length;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (cued[mid]!.cue < start) lo = mid + 1;
    else hi = mid;
  }
  let best: CuedPress | null = null;
  for (const c of [cued[lo - 1], cued[lo]]) {
    if (!c) continue;
    const late = start - c.cue;
    if (late < -EARLY_MS || late > LATE_MS) continue;
    if (best === null || Math.abs(late) < Math.abs(start - best.cue)) best = c;
  }
  return best;
}

function cueTimes(p: Prepared, runs: readonly Run[]): number[] {
  const { t, cue } = p.recording;
  const out: number[] = [];
  for (const run of runs) for (let i = run.from; i < run.to; i++) if (cue[i] === 1) out.push(t[i]!);
  return out;
}

const figures = (cued: readonly CuedPress[], test: MissTest | undefined): PressFigures | null => {
  const cues = cued.length;
  if (cues === 0) return null;
  const missed = cued.filter((c) => c.press === null).length;
  return {
    cues,
    registered: cues - missed,
    missed,
    missRateUpper95: clopperPearsonUpper(missed, cues, 0.95),
    decision: sprt(cues, missed, test),
    releaseRisk: badChance({ presses: cues, missed }),
  };
};

export type ButtonColumns = { id: string; presses: readonly Press[] };

/** How many of the cued presses another control registered with; those that did at all. */
function jointPresses(
  id: string,
  cued: readonly CuedPress[],
  all: readonly ButtonColumns[],
): Map<string, number> {
  const own = cued.flatMap((c) => (c.press ? [c.press] : []));
  const joint = new Map<string, number>();
  for (const other of all) {
    if (other.id === id || other.presses.length === 0) continue;
    const during = own.filter((press) =>
      other.presses.some((o) => o.start >= press.start - FIRES_EARLY_MS && o.start <= press.end),
    ).length;
    if (during > 0) joint.set(other.id, during);
  }
  return joint;
}

/**
 * Measures one button from its column. `all` holds the presses of every button and trigger of the recording.
 * Source: docs/measures.md, "Buttons".
 */
export function measureButton(
  p: Prepared,
  id: string,
  v: Float64Array,
  all: readonly ButtonColumns[],
  test?: MissTest,
): { measures: ButtonMeasures; cued: CuedPress[]; rim: RimPress[]; firedOnce: boolean } {
  const { t } = p.recording;
  const presses = all.find((b) => b.id === id)!.presses;
  const restRows = restRuns(p, id);
  const restWeights = restRows && gather(p.weights, restRows);
  const heldMs =
    restRows && sum(gather(v, restRows).map((value, i) => (value > PRESSED ? restWeights![i]! : 0)));

  const middle = runsFor(p, id, "press");
  const edge = runsFor(p, id, "press-edge");
  const both = [...middle, ...edge];
  const inRuns = (press: Press) =>
    both.some((r) => press.start >= t[r.from]! && press.start <= t[r.to - 1]! + LATE_MS);
  const chattering = presses.filter(
    (press, i) => i > 0 && press.start - presses[i - 1]!.end < CHATTER_MS && inRuns(press),
  );
  const clean = presses.filter((press) => !chattering.includes(press) && press.start !== -Infinity);
  const atMiddle = answerCues(t, cueTimes(p, middle), clean, middle);
  const atEdge = answerCues(t, cueTimes(p, edge), clean, edge);
  const press = figures(atMiddle.cued, test);
  const rim = figures(atEdge.cued, test);
  const asked = press !== null || rim !== null;
  const joint = jointPresses(id, [...atMiddle.cued, ...atEdge.cued], all);
  const firesWith = [...joint].filter(([, times]) => times >= FIRES_TIMES).map(([other]) => other);
  const idle = idleButton(p, id, v, clean);
  const byItself = idle?.confirmed ? idle.count : 0;
  return {
    measures: {
      cues: press?.cues ?? null,
      registered: press?.registered ?? null,
      missed: press?.missed ?? null,
      extra: asked || byItself > 0 ? atMiddle.extra + atEdge.extra + byItself : null,
      chatter: asked ? chattering.length : null,
      firesWith: asked ? firesWith.sort() : null,
      stuckAtRest: heldMs === null ? null : heldMs > sum(restWeights!) / 2,
      missRateUpper95: press?.missRateUpper95 ?? null,
      decision: press?.decision ?? null,
      releaseRisk: press?.releaseRisk ?? null,
      rim,
      idle,
    },
    cued: atMiddle.cued,
    rim: rimPresses(p, edge, atEdge.cued),
    // once may be the thumb's; it is no finding, and no pass either
    firedOnce: firesWith.length < joint.size,
  };
}

function rimPresses(p: Prepared, runs: readonly Run[], cued: readonly CuedPress[]): RimPress[] {
  return runs.flatMap((run) =>
    cueTimes(p, [run]).flatMap((cue, side): RimPress[] => {
      const found = cued.find((c) => c.cue === cue);
      return found ? [{ side: side % 4, answered: found.press !== null }] : [];
    }),
  );
}
