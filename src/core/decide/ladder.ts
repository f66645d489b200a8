import { type Result, ok, refuse } from "../base/result";
import { type LadderProblem, opening, openingMinutes } from "../policy/problem";
import { type ActNow, isExplained, type Rung } from "../policy/rung";
import { QUICK, solvePolicy } from "../policy/solve";
import { EPS, endOf, layOut, move } from "./ladder-states";
import { fill } from "./ladder-values";
import { search } from "./ladder-search";

/** Solves a ladder: the rungs, the best first, as far as somebody walks down. Method: docs/advice.md. */

export type Ladder = {
  value: number;
  root: Rung;
  /**
   * the best that begins with an attempt, also where ending at once brings more; null when that was settled
   * by its bound alone
   */
  trying: number | null;
  /** no way of going on brings more; equal to `value` where everything was worked out */
  upper: number;
  /** the best acts now, the best first */
  acts: ActNow[];
  states: number;
  looked: number;
};

export type LadderRefusal = { code: "too-large"; states: number };

const MOST_STATES = 12_000_000;

/** Below this many states all are worked out; above it, bounds say where to look. */
const SMALL = 150_000;

/**
 * Solves the problem: exactly where attempts are independent, and else as `solvePolicy` says. Costs and chances must be non-negative, `success + breaks` at most 1, giving up
 * once broken bring no more than giving up, and opening deeper not raise what giving up brings by more than
 * it costs. Refuses above 12 million states.
 */
export function solveLadder(p: LadderProblem, limits = QUICK): Result<Ladder, LadderRefusal> {
  return isExplained(p) ? ok(explained(p, limits)) : independent(p);
}

/** With the causes known: attempts and checks on one list, each of them moving the odds of the others. */
function explained(p: LadderProblem, limits: typeof QUICK): Ladder {
  const { value, upper, root, acts, looked } = solvePolicy(p, limits);
  const going = acts.find((a) => a.do !== "end");
  return { value, upper, root, acts, trying: going?.value ?? null, states: looked, looked };
}

function independent(p: LadderProblem): Result<Ladder, LadderRefusal> {
  const l = layOut(p);
  if (!(l.size <= MOST_STATES)) return refuse({ code: "too-large", states: l.size });
  const { value, looked } = l.size > SMALL && l.joint.length === 0 ? search(p, l) : fill(p, l);
  const digitsOf = (index: number) =>
    Int32Array.from(l.faults, (d) => Math.floor(index / d.stride) % d.count);

  const times = (chance: number, v: number) => (chance === 0 ? 0 : chance * v);
  /** The best attempt from a state, by what was worked out for where it leads. */
  const bestTry = (index: number) => {
    const depth = index % l.depths;
    const jm = Math.floor(index / l.depths) % l.jointMasks;
    const digits = digitsOf(index);
    let best: { attempt: number; win: number; lose: number; value: number } | null = null;
    for (const a of l.live) {
      const to = move(p, l, a, digits, jm);
      if (!to) continue;
      const t = p.attempts[a]!;
      const base = index + Math.max(0, t.depth - depth);
      const q =
        times(t.success, value[base + to.win]!) +
        t.breaks * p.giveUpBroken +
        times(1 - t.success - t.breaks, value[base + to.lose]!) -
        t.cost -
        opening(p, depth, t.depth);
      if (q > (best?.value ?? -Infinity))
        best = { attempt: a, win: base + to.win, lose: base + to.lose, value: q };
    }
    return best;
  };
  const stopAt = (index: number) => Math.max(endOf(p, l, digitsOf(index)).sale, p.giveUp[index % l.depths]!);
  const rung = (index: number): Rung => {
    const depth = index % l.depths;
    const end = endOf(p, l, digitsOf(index));
    const stop = stopAt(index);
    const pick = bestTry(index);
    if (pick === null || pick.value <= stop + EPS)
      return end.sale >= p.giveUp[depth]!
        ? { do: "sell", value: end.sale, cap: end.cap, share: end.share, comeback: 1 - end.kept }
        : { do: "give-up", value: p.giveUp[depth]! };
    const { attempt, win, lose } = pick;
    const t = p.attempts[attempt]!;
    return {
      do: "try",
      attempt,
      value: pick.value,
      cost: t.cost + opening(p, depth, t.depth),
      minutes: t.minutes + openingMinutes(p, depth, t.depth),
      success: t.success,
      worked: () => rung(win),
      failed: () => rung(lose),
    };
  };
  const root = rung(p.openedTo);
  const tried = bestTry(p.openedTo);
  return ok({
    value: value[p.openedTo]!,
    root,
    trying: tried?.value ?? null,
    upper: value[p.openedTo]!,
    acts: [
      ...(tried ? [{ do: "try" as const, index: tried.attempt, value: tried.value }] : []),
      { do: "end" as const, index: -1, value: stopAt(p.openedTo) },
    ].sort((a, b) => b.value - a.value),
    states: l.size,
    looked,
  });
}
