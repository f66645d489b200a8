import { type Result, ok, refuse } from "../base/result";
import type { Cap, LadderProblem } from "./ladder-problem";
import { EPS, endOf, layOut, move, opening, openingMinutes } from "./ladder-states";
import { fill } from "./ladder-values";
import { search } from "./ladder-search";

/** Solves a ladder: the rungs, the best first, as far as somebody walks down. Method: docs/decide.md. */

/** A place on the ladder: what to try, or where it ends. */
export type Rung =
  | {
      do: "try";
      attempt: number;
      value: number;
      cost: number;
      minutes: number;
      worked: () => Rung;
      failed: () => Rung;
    }
  | { do: "sell"; value: number; cap: Cap; share: number; comeback: number }
  | { do: "give-up"; value: number };

export type Ladder = {
  value: number;
  root: Rung;
  /**
   * the best that begins with an attempt, also where ending at once brings more; null when that was settled
   * by its bound alone
   */
  trying: number | null;
  states: number;
  looked: number;
};

export type LadderRefusal = { code: "too-large"; states: number };

const MOST_STATES = 12_000_000;

/** Below this many states all are worked out; above it, bounds say where to look. */
const SMALL = 150_000;

/**
 * Solves the problem exactly. Costs and chances must be non-negative, `success + breaks` at most 1, giving up
 * once broken bring no more than giving up, and opening deeper not raise what giving up brings by more than
 * it costs. Refuses above 12 million states.
 */
export function solveLadder(p: LadderProblem): Result<Ladder, LadderRefusal> {
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
  const rung = (index: number): Rung => {
    const depth = index % l.depths;
    const end = endOf(p, l, digitsOf(index));
    const stop = Math.max(end.sale, p.giveUp[depth]!);
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
      worked: () => rung(win),
      failed: () => rung(lose),
    };
  };
  return ok({
    value: value[p.openedTo]!,
    root: rung(p.openedTo),
    trying: bestTry(p.openedTo)?.value ?? null,
    states: l.size,
    looked,
  });
}
