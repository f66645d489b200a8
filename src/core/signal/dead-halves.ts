import { weightedQuantile } from "../math/quantile";
import { type Prepared, type Run, durationOf, gather } from "./rows";

export const HALVES = ["right", "left", "up", "down"] as const;
export type Half = (typeof HALVES)[number];

const ANSWERS = 0.25;
const ASKED = 0.6;
const ASKED_AGAIN_BELOW = 0.5; // hysteresis: noise about 0.6 is one push, not many
const ASKED_TIMES = 2;
const NO_ANSWER_MS = 5000;

const excursion = (half: Half, x: number, y: number) => {
  if (half === "right") return x;
  if (half === "left") return -x;
  if (half === "up") return -y;
  return y;
};

/**
 * Halves that were asked for and did not answer; null when the circles cannot tell. Source: docs/measures.md.
 */
export function deadHalves(
  p: Prepared,
  x: Float64Array,
  y: Float64Array,
  circle: readonly Run[],
  moving: readonly Run[],
): Half[] | null {
  if (circle.length === 0) return null;
  const w = gather(p.weights, moving);
  const xs = gather(x, moving);
  const ys = gather(y, moving);
  const asked = new Map(HALVES.map((half) => [half, timesBeyond(half, x, y, circle) >= ASKED_TIMES]));
  const dead: Half[] = [];
  let unknown = false;
  for (const half of HALVES) {
    const e = xs.map((v, i) => Math.max(0, excursion(half, v, ys[i]!)));
    if (weightedQuantile(e, w, 0.99) >= ANSWERS) continue;
    const others = HALVES.filter((h) => h !== half && asked.get(h)).length;
    if (others >= 2) dead.push(half);
    else unknown = true;
  }
  return unknown && dead.length === 0 ? null : dead;
}

function timesBeyond(half: Half, x: Float64Array, y: Float64Array, runs: readonly Run[]): number {
  let times = 0;
  for (const run of runs) {
    let beyond = false;
    for (let i = run.from; i < run.to; i++) {
      const e = excursion(half, x[i]!, y[i]!);
      if (!beyond && e > ASKED) {
        beyond = true;
        times++;
      } else if (beyond && e < ASKED_AGAIN_BELOW) beyond = false;
    }
  }
  return times;
}

/**
 * Whether a run of at least 5 s moved its control nowhere; null when no run was that long and nothing moved.
 */
export function noAnswer(p: Prepared, runs: readonly Run[], amount: (i: number) => number): boolean | null {
  let judged: boolean | null = null;
  for (const run of runs) {
    let moved = false;
    for (let i = run.from; i < run.to && !moved; i++) moved = amount(i) > ANSWERS;
    if (moved) judged ??= false;
    else if (durationOf(p, run) >= NO_ANSWER_MS) return true;
  }
  return judged;
}
