import { Bounds, sum } from "./bounds";
import { type LadderProblem, opening } from "./problem";
import { afterCheck, afterTry, curedIn, keyOf, saleOf, type State } from "./state";

/**
 * The value of a state of a unit by looking ahead: what is known is a mass over the explanations, which each outcome of an
 * attempt or a check narrows. Values and bounds go with the mass, which need not add up to 1.
 */

export const EPS = 1e-9;

export type SearchLimits = {
  /** states that may be looked into, for each number of checks that are allowed on the way */
  nodes: number;
  /** what is rarer than this is only ended, and what is rarer than the second no longer checked */
  rare: number;
  checkedFrom: number;
};
/** Looks at everything: for small problems. */
export const WHOLE: SearchLimits = { nodes: Infinity, rare: 0, checkedFrom: 0 };

export type Branch = { state: State; mass: Float64Array };
/** What can be done next: an attempt's branches are "worked" and "failed", a check's are its outcomes. */
export type Act = { do: "try" | "check"; index: number; paid: number; branches: Branch[]; upper: number };
type Known = { value: number; act: Act | null; looks: number };

export class Search {
  private readonly bounds: Bounds;
  private readonly known = new Map<string, Known>();
  private readonly works: Float64Array[];
  private left: number;
  /** whether everything that may pay was looked into */
  isWhole = true;
  looked = 0;

  constructor(
    private readonly p: LadderProblem,
    private readonly limits: SearchLimits,
  ) {
    this.bounds = new Bounds(p);
    const count = p.explanations!.length;
    this.works = p.attempts.map((a) => Float64Array.from({ length: count }, (_, h) => a.works?.[h] ?? a.success));
    this.left = limits.nodes;
  }

  /** Begins a new round of so many states. */
  refill(): void {
    this.left = this.limits.nodes;
    this.isWhole = true;
  }

  /** What ending now brings: the better of selling as it is, where that may be, and giving up. */
  private ending(s: State, total: number): number {
    return Math.max(this.p.giveUp[s.depth]!, saleOf(this.p, s, curedIn(this.p, s)).value) * total;
  }

  private isRare(total: number): boolean {
    return total <= this.limits.rare;
  }

  /** The value with at most so many checks on the way, and the act that brings it; null for an ending. */
  best({ state, mass }: Branch, looks: number): Known {
    const total = sum(mass);
    const stop = this.ending(state, total);
    const most = total < this.limits.checkedFrom ? 0 : looks;
    if (this.isRare(total)) return { value: stop, act: null, looks: most };
    const key = `${most} ${keyOf(state)}`;
    const had = this.known.get(key);
    if (had) return had;
    let found: Known = { value: stop, act: null, looks: most };
    if (this.bounds.of(state, mass) > stop + EPS) {
      this.looked++;
      found = this.lookInto({ state, mass }, most, found);
    }
    this.known.set(key, found);
    return found;
  }

  private lookInto(at: Branch, looks: number, ending: Known): Known {
    if (this.left <= 0) {
      this.isWhole = false;
      // no checks any more, and then only the likeliest way down
      if (looks > 0) return this.best(at, 0);
      const [first] = this.acts(at, 0);
      if (!first || first.upper <= ending.value + EPS) return ending;
      const value = this.valueOf(first, 0);
      return value > ending.value + EPS ? { value, act: first, looks: 0 } : ending;
    }
    this.left--;
    let found = ending;
    for (const act of this.acts(at, looks)) {
      if (act.upper <= found.value + EPS) break;
      const value = this.valueOf(act, looks);
      if (value > found.value + EPS) found = { value, act, looks };
    }
    return found;
  }

  /** What an act brings when the best is done after it. */
  valueOf(act: Act, looks: number): number {
    const after = act.do === "check" ? looks - 1 : looks;
    return act.branches.reduce((v, b) => v + this.best(b, after).value, -act.paid);
  }

  /** Every act from here with an upper bound of what it brings, the most promising first. */
  acts(at: Branch, looks: number): Act[] {
    const cured = curedIn(this.p, at.state);
    const tries = this.p.attempts.flatMap((_, i) => this.tryAt(at, i, cured) ?? []);
    const checks = looks > 0 ? (this.p.checks ?? []).flatMap((_, i) => this.checkAt(at, i, cured) ?? []) : [];
    return [...tries, ...checks].sort((a, b) => b.upper - a.upper || a.index - b.index);
  }

  private tryAt({ state, mass }: Branch, a: number, cured: number): Act | null {
    const after = afterTry(this.p, state, a, cured);
    if (!after) return null;
    const { p } = this;
    const t = p.attempts[a]!;
    const works = this.works[a]!;
    const [won, lost] = [new Float64Array(mass.length), new Float64Array(mass.length)];
    for (let h = 0; h < mass.length; h++) {
      won[h] = mass[h]! * works[h]!;
      lost[h] = mass[h]! * Math.max(0, 1 - works[h]! - t.breaks);
    }
    const paid =
      sum(mass) * (t.cost + opening(p, state.depth, t.depth) - (t.breaks > 0 ? t.breaks * p.giveUpBroken : 0));
    return this.bounded("try", a, paid, [
      { state: after.worked, mass: won },
      { state: after.failed, mass: lost },
    ]);
  }

  private checkAt({ state, mass }: Branch, c: number, cured: number): Act | null {
    const after = afterCheck(this.p, state, c, cured);
    if (!after) return null;
    const check = this.p.checks![c]!;
    const paid = sum(mass) * (check.cost + opening(this.p, state.depth, check.depth));
    return this.bounded(
      "check",
      c,
      paid,
      after.map((s, o) => ({ state: s, mass: mass.map((m, h) => m * check.outcomes[o]![h]!) })),
    );
  }

  private bounded(what: Act["do"], index: number, paid: number, branches: Branch[]): Act {
    const upper = branches.reduce((v, b) => v + this.bounds.of(b.state, b.mass), -paid);
    return { do: what, index, paid, branches, upper };
  }

  upper(at: Branch): number {
    return this.bounds.of(at.state, at.mass);
  }
}
