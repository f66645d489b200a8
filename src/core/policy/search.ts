import { sum } from "./bounds";
import { type Cap, type LadderProblem, opening, sold } from "./problem";
import { type Spot, Spots } from "./spots";

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
  /** of the acts now, at least so many are worked out to the end */
  listed: number;
};
/** Looks at everything: for small problems. */
export const WHOLE: SearchLimits = { acts: Infinity, rare: 0, checkedFrom: 0, followed: Infinity, listed: 4 };

/** A spot with what is known there; `asked` holds the outcome of each check, from 1, as digits of base 4. */
export type Branch = { spot: Spot; asked: number; mass: Float64Array };
/** What can be done next: an attempt's branches are "worked" and "failed", a check's are its outcomes. */
export type Act = { do: "try" | "check"; index: number; paid: number; branches: Branch[]; upper: number };
const AT_A_ROUGH_LOOK = 2;
/** More checks than this are never asked in a row. */
const LOOKS = 64;
type Known = { value: number; act: Act | null; looks: number };

export class Search {
  private readonly spots: Spots;
  private readonly known = new Map<Spot, Map<number, Known>>();
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
    this.spots = new Spots(p);
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
  best(at: Branch, looks: number): Known {
    const total = sum(at.mass);
    const stop = at.spot.stop * total;
    const most = total < this.limits.checkedFrom ? 0 : looks;
    if (this.isRare(total)) return { value: stop, act: null, looks: most };
    let known = this.known.get(at.spot);
    if (!known) this.known.set(at.spot, (known = new Map<number, Known>()));
    const key = at.asked * LOOKS + most;
    const had = known.get(key);
    if (had) return had;
    let found: Known = { value: stop, act: null, looks: most };
    if (upperOf(at) > stop + EPS) {
      this.looked++;
      found = this.lookInto(at, most, found);
    }
    known.set(key, found);
    return found;
  }

  private lookInto(at: Branch, looks: number, ending: Known): Known {
    if (this.left <= 0) {
      this.isWhole = false;
      // no checks any more, and then only the likeliest way down
      if (looks > 0) return this.best(at, 0);
      const first = this.likeliest(at, ending.value + EPS);
      if (!first) return ending;
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

  /** The most promising attempt from here, of the few that are so at a rough look: one act, and not all of them. */
  private likeliest(at: Branch, least: number): Act | null {
    const whole = upperOf(at);
    const few: { a: number; upper: number }[] = [];
    for (let a = 0; a < this.p.attempts.length; a++) {
      if (!this.spots.mayTry(at.spot, a)) continue;
      const upper = this.roughly(at, a, whole);
      if (upper <= least || (few.length === AT_A_ROUGH_LOOK && upper <= few.at(-1)!.upper)) continue;
      few.push({ a, upper });
      few.sort((x, y) => y.upper - x.upper);
      few.length = Math.min(few.length, AT_A_ROUGH_LOOK);
    }
    let first: Act | null = null;
    for (const { a } of few) {
      const act = this.tryAt(at, a);
      if (act.upper > (first?.upper ?? least)) first = act;
    }
    return first;
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
    const whole = upperOf(at);
    const tries = this.p.attempts.flatMap((_, a) =>
      this.spots.mayTry(at.spot, a) && this.roughly(at, a, whole) > least ? this.tryAt(at, a) : [],
    );
    const checks = looks > 0 ? (this.p.checks ?? []).flatMap((_, i) => this.checkAt(at, i) ?? []) : [];
    return [...tries, ...checks].sort((a, b) => b.upper - a.upper || a.index - b.index);
  }

  /**
   * A bound of an attempt that is cheap to have: where it works nothing but the best sale is left, and where it does not
   * the state brings no more than it did before.
   */
  private roughly({ spot: { most }, mass }: Branch, a: number, whole: number): number {
    const { cost } = this.p.attempts[a]!;
    const works = this.works[a]!;
    const best = this.bestSale[a]!;
    let upper = whole;
    let total = 0;
    for (let h = 0; h < mass.length; h++) {
      const m = mass[h]!;
      total += m;
      if (best > most[h]!) upper += m * works[h]! * (best - most[h]!);
    }
    return upper - total * cost;
  }

  private tryAt({ spot, asked, mass }: Branch, attempt: number): Act {
    const { p } = this;
    const { worked, failed } = this.spots.tryFrom(spot, attempt);
    const t = p.attempts[attempt]!;
    const works = this.works[attempt]!;
    const [won, lost] = [new Float64Array(mass.length), new Float64Array(mass.length)];
    let total = 0;
    for (let h = 0; h < mass.length; h++) {
      total += mass[h]!;
      won[h] = mass[h]! * works[h]!;
      lost[h] = mass[h]! * Math.max(0, 1 - works[h]! - t.breaks);
    }
    const broken = t.breaks > 0 ? t.breaks * p.giveUpBroken : 0;
    const paid = total * (t.cost + opening(p, spot.depth, t.depth) - broken);
    return bounded("try", attempt, paid, [
      { spot: worked, asked, mass: won },
      { spot: failed, asked, mass: lost },
    ]);
  }

  private checkAt({ spot, asked, mass }: Branch, c: number): Act | null {
    const place = 4 ** c;
    if (Math.floor(asked / place) % 4 !== 0 || !this.spots.mayCheck(spot, c)) return null;
    const check = this.p.checks![c]!;
    const paid = sum(mass) * (check.cost + opening(this.p, spot.depth, check.depth));
    const deep = this.spots.opened(spot, check.depth);
    const branches = check.outcomes.map((chances, o) => ({
      spot: deep,
      asked: asked + (o + 1) * place,
      mass: mass.map((m, h) => m * chances[h]!),
    }));
    return bounded("check", c, paid, branches);
  }

  start(): Branch {
    return { spot: this.spots.start, asked: 0, mass: Float64Array.from(this.p.explanations!) };
  }
}

/** The most that a state brings, for a mass over the explanations that need not add up to 1. */
export function upperOf({ spot: { most }, mass }: Branch): number {
  let total = 0;
  for (let h = 0; h < mass.length; h++) total += mass[h]! * most[h]!;
  return total;
}

function bounded(what: Act["do"], index: number, paid: number, branches: Branch[]): Act {
  let upper = -paid;
  for (const b of branches) upper += upperOf(b);
  return { do: what, index, paid, branches, upper };
}
