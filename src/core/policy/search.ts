import { Bounds, type Spot, sum } from "./bounds";
import { type Cap, type LadderProblem, opening, sold } from "./problem";
import { afterCheck, afterTry, keyOf, type State } from "./state";

/**
 * The value of a state of a unit by looking ahead: what is known is a mass over the explanations, which each outcome of an
 * attempt or a check narrows. Values and bounds go with the mass, which need not add up to 1.
 */

export const EPS = 1e-9;

export type SearchLimits = {
  /** acts that may be weighed, for each number of checks that are allowed on the way */
  acts: number;
  /** what is rarer than this is only ended, and what is rarer than the second no longer checked */
  rare: number;
  checkedFrom: number;
  /** of the checks at a state, so many are followed further: those that bring most if none came after them */
  followed: number;
};
/** Looks at everything: for small problems. */
export const WHOLE: SearchLimits = { acts: Infinity, rare: 0, checkedFrom: 0, followed: Infinity };

export type Branch = { state: State; mass: Float64Array };
/** What can be done next: an attempt's branches are "worked" and "failed", a check's are its outcomes. */
export type Act = { do: "try" | "check"; index: number; paid: number; branches: Branch[]; upper: number };
type Known = { value: number; act: Act | null; looks: number };

export class Search {
  private readonly bounds: Bounds;
  private readonly known = new Map<string, Known>();
  private readonly works: Float64Array[];
  /** the most that selling brings once an attempt has worked */
  private readonly bestSale: readonly number[];
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
    this.works = p.attempts.map((a) =>
      Float64Array.from({ length: count }, (_, h) => a.works?.[h] ?? a.success),
    );
    this.bestSale = p.attempts.map((a) =>
      Math.max(...p.giveUp, sold(p, Math.max(p.cap, a.cap) as Cap, 1, 1 - p.comeback)),
    );
    this.left = limits.acts;
  }

  /** Begins a new round of so many acts. */
  refill(): void {
    this.left = this.limits.acts;
    this.isWhole = true;
  }

  private isRare(total: number): boolean {
    return total <= this.limits.rare;
  }

  /** The value with at most so many checks on the way, and the act that brings it; null for an ending. */
  best({ state, mass }: Branch, looks: number): Known {
    const total = sum(mass);
    const stop = this.spotOf(state).stop * total;
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
      const [first] = this.acts(at, 0, ending.value + EPS);
      if (!first || first.upper <= ending.value + EPS) return ending;
      const value = this.valueOf(first, 0);
      return value > ending.value + EPS ? { value, act: first, looks: 0 } : ending;
    }
    let found = ending;
    const acts = this.followed(this.acts(at, looks, ending.value + EPS), looks);
    this.left -= acts.length;
    for (const act of acts) {
      if (act.upper <= found.value + EPS) break;
      const value = this.valueOf(act, looks);
      if (value > found.value + EPS) found = { value, act, looks };
    }
    return found;
  }

  /** Of many checks, when others may come after them, only the few that bring most by themselves. */
  private followed(acts: Act[], looks: number): Act[] {
    const checks = acts.filter((a) => a.do === "check");
    if (looks < 2 || checks.length <= this.limits.followed) return acts;
    const alone = new Map(checks.map((a) => [a, this.valueOf(a, 1)]));
    const kept = new Set(checks.sort((a, b) => alone.get(b)! - alone.get(a)!).slice(0, this.limits.followed));
    return acts.filter((a) => a.do === "try" || kept.has(a));
  }

  /** What an act brings when the best is done after it. */
  valueOf(act: Act, looks: number): number {
    const after = act.do === "check" ? looks - 1 : looks;
    return act.branches.reduce((v, b) => v + this.best(b, after).value, -act.paid);
  }

  /** Every act from here with an upper bound of what it brings, the most promising first. */
  acts(at: Branch, looks: number, least = -Infinity): Act[] {
    const { cured, most } = this.spotOf(at.state);
    const whole = this.bounds.of(at.state, at.mass);
    const tries = this.p.attempts.flatMap((_, i) =>
      this.roughly(at, i, { whole, most }) <= least ? [] : (this.tryAt(at, i, cured) ?? []),
    );
    const checks = looks > 0 ? (this.p.checks ?? []).flatMap((_, i) => this.checkAt(at, i, cured) ?? []) : [];
    return [...tries, ...checks].sort((a, b) => b.upper - a.upper || a.index - b.index);
  }

  /**
   * A bound of an attempt that is cheap to have: where it works nothing but the best sale is left, and where it does not
   * the state brings no more than it did before.
   */
  private roughly(
    { mass }: Branch,
    a: number,
    { whole, most }: { whole: number; most: Float64Array },
  ): number {
    const { cost } = this.p.attempts[a]!;
    const works = this.works[a]!;
    const best = this.bestSale[a]!;
    let upper = whole;
    let total = 0;
    for (let h = 0; h < mass.length; h++) {
      total += mass[h]!;
      upper += mass[h]! * works[h]! * Math.max(0, best - most[h]!);
    }
    return upper - total * cost;
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
      sum(mass) *
      (t.cost + opening(p, state.depth, t.depth) - (t.breaks > 0 ? t.breaks * p.giveUpBroken : 0));
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

  spotOf = (s: State): Spot => this.bounds.at(s);

  upper(at: Branch): number {
    return this.bounds.of(at.state, at.mass);
  }
}
