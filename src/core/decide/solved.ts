import type { Built, Option } from "./build";
import { type Ladder, solveLadder } from "./ladder";
import type { LadderProblem } from "../policy/problem";
import { isExplained } from "../policy/rung";
import { QUICK } from "../policy/solve";

/** A unit's ladder, solved with all of its routes or, where they are too many, with the best few of each fault. */

/** The part of a problem that keeps only some attempts. */
export function only(built: Built, keep: (o: Option, i: number) => boolean): LadderProblem {
  const kept = built.options.map((o, i) => (keep(o, i) ? i : -1)).filter((i) => i >= 0);
  const still = (of: readonly number[]) => of.map((s) => kept.indexOf(s)).filter((s) => s >= 0);
  const { checks } = built.problem;
  return {
    ...built.problem,
    ...(checks ? { checks: checks.map((c) => ({ ...c, voided: still(c.voided) })) } : {}),
    attempts: kept.map((i) => {
      const a = built.problem.attempts[i]!;
      return { ...a, spends: still(a.spends ?? []) };
    }),
  };
}

/** Where causes are known, bounds are kept for every set of routes at a fault. */
const MOST_EXPLAINED = 7;

/** The best few routes of each fault by what they would bring alone. */
function bestFew(built: Built, most: number): Built {
  const rank = (i: number) => {
    const a = built.problem.attempts[i]!;
    return a.success - a.cost / Math.max(1, built.problem.price[0]);
  };
  const kept = new Set(
    built.places.flatMap((p) =>
      built.options
        .map((_, i) => i)
        .filter((i) => built.options[i]!.places[0] === p.place)
        .sort((a, b) => rank(b) - rank(a))
        .slice(0, p.twin ? Math.min(2, most) : most),
    ),
  );
  return keeping(built, kept);
}

export const keeping = (built: Built, kept: ReadonlySet<number>): Built => ({
  ...built,
  options: built.options.filter((_, i) => kept.has(i)),
  problem: only(built, (_, i) => kept.has(i)),
});

/** The same without anything to look at first: what a standing way of mending would do. */
export const unchecked = (built: Built): Built =>
  built.problem.checks ? { ...built, problem: { ...built.problem, checks: [] } } : built;

/**
 * Solves with every route, or with the best few of each fault where all of them are too many; says how many
 * were set aside.
 */
export function solved(
  built: Built,
  start = Infinity,
  limits = QUICK,
): { built: Built; ladder: Ladder; setAside: number } {
  const most = isExplained(built.problem) ? MOST_EXPLAINED : Infinity;
  for (const few of [most, 6, 5, 4, 3, 2, 1].filter((m) => m <= start)) {
    const now = few < Infinity ? bestFew(built, few) : built;
    const ladder = solveLadder(now.problem, limits);
    if (ladder.ok)
      return { built: now, ladder: ladder.value, setAside: built.options.length - now.options.length };
  }
  // not even one route a fault fits: there are more faults than a ladder can hold, so ending is all that is
  // left
  const bare = only(built, () => false);
  const few = { ...bare, faults: bare.faults.slice(0, 1).map((f) => ({ ...f, leave: null })) };
  const ladder = solveLadder(few);
  if (!ladder.ok) throw new Error("a ladder without attempts always fits");
  return {
    built: { ...built, options: [], problem: few },
    ladder: ladder.value,
    setAside: built.options.length,
  };
}
