import { Bounds } from "./bounds";
import { type Cap, type LadderProblem, sold } from "./problem";

/** Where a unit stands on the way whatever is known of its causes: what was tried, and how deep it is open. */

/** What became of an attempt. */
export const NOT_MADE = 0;
export const FAILED = 1;
export const WORKED = 2;
/** used up by another attempt */
const SPENT = 3;

export type Sale = { value: number; cap: Cap; share: number; kept: number };

export type Spot = {
  tried: Uint8Array;
  /** `tried` as digits of base 4: the first of them, and the others */
  low: number;
  high: number;
  depth: number;
  /** cured faults, as bits */
  cured: number;
  /** the worst grade that the cures left room for */
  cap: Cap;
  /** selling as it is; minus infinity where a fault neither is cured nor may be left */
  sale: Sale;
  giveUp: number;
  /** what ending brings */
  stop: number;
  /** the most that any policy brings, by explanation */
  most: Float64Array;
  /** where attempts lead from here; worked out when first asked */
  tries: Map<number, TryFrom>;
  deeper: Map<number, Spot>;
};
type TryFrom = { worked: Spot; failed: Spot };

/** So many digits of base 4 fit in a number exactly. */
const DIGITS = 24;
const PLACES = Array.from({ length: DIGITS }, (_, i) => 4 ** i);

/** All spots of a problem, each made once. */
export class Spots {
  /** by what became of the first attempts as digits of base 4, then by the others and the depth */
  private readonly all = new Map<number, Map<number, Spot>>();
  readonly start: Spot;
  readonly bounds: Bounds;

  constructor(private readonly p: LadderProblem) {
    this.bounds = new Bounds(p);
    this.start = this.at(new Uint8Array(p.attempts.length), 0, 0, p.openedTo);
  }

  private had(low: number, high: number, depth: number): Spot | undefined {
    return this.all.get(low)?.get(high * this.p.depths.length + depth);
  }

  /** The spot after more was tried: each attempt that was not made yet, with what became of it. */
  private after(
    from: Spot,
    became: readonly (readonly [attempt: number, is: number])[],
    depth: number,
  ): Spot {
    let { low, high } = from;
    for (const [a, is] of became)
      if (a < DIGITS) low += is * PLACES[a]!;
      else high += is * PLACES[a - DIGITS]!;
    const had = this.had(low, high, depth);
    if (had) return had;
    const tried = from.tried.slice();
    for (const [a, is] of became) tried[a] = is;
    return this.at(tried, low, high, depth);
  }

  private at(tried: Uint8Array, low: number, high: number, depth: number): Spot {
    const { p } = this;
    const had = this.had(low, high, depth);
    if (had) return had;
    let cured = 0;
    let { cap } = p;
    let kept = 1 - p.comeback;
    for (let a = 0; a < tried.length; a++) {
      if (tried[a] !== WORKED) continue;
      const t = p.attempts[a]!;
      for (const f of t.cures) cured |= 1 << f;
      if (t.cap > cap) cap = t.cap;
      kept *= 1 - t.comeback;
    }
    const sale = this.saleOf(cured, cap, kept);
    const giveUp = p.giveUp[depth]!;
    const stop = Math.max(sale.value, giveUp);
    const here = { tried, low, high, depth, cured, cap, sale, giveUp, stop };
    const spot: Spot = {
      ...here,
      most: this.bounds.mostOf(here),
      tries: new Map<number, TryFrom>(),
      deeper: new Map<number, Spot>(),
    };
    let row = this.all.get(low);
    if (!row) this.all.set(low, (row = new Map<number, Spot>()));
    row.set(high * p.depths.length + depth, spot);
    return spot;
  }

  private saleOf(cured: number, cap: Cap, whole: number): Sale {
    const { p } = this;
    let share = 1;
    let kept = whole;
    for (const [f, { leave }] of p.faults.entries()) {
      if (cured & (1 << f)) continue;
      if (!leave) return { value: -Infinity, cap, share, kept };
      share *= leave.share;
      kept *= 1 - leave.comeback;
    }
    return { value: sold(p, cap, share, kept), cap, share, kept };
  }

  mayTry(spot: Spot, a: number): boolean {
    return spot.tried[a] === NOT_MADE && !this.p.attempts[a]!.cures.every((f) => spot.cured & (1 << f));
  }

  /** Where an attempt leads. */
  tryFrom(spot: Spot, a: number): TryFrom {
    const had = spot.tries.get(a);
    if (had) return had;
    const t = this.p.attempts[a]!;
    const depth = Math.max(spot.depth, t.depth);
    const spent = (t.spends ?? [])
      .filter((other) => other !== a && spot.tried[other] === NOT_MADE)
      .map((other) => [other, SPENT] as const);
    const from = {
      worked: this.after(spot, [...spent, [a, WORKED]], depth),
      failed: this.after(spot, [...spent, [a, FAILED]], depth),
    };
    spot.tries.set(a, from);
    return from;
  }

  /** The same, opened so deep. */
  opened(spot: Spot, depth: number): Spot {
    if (depth <= spot.depth) return spot;
    let deep = spot.deeper.get(depth);
    if (!deep) spot.deeper.set(depth, (deep = this.at(spot.tried, spot.low, spot.high, depth)));
    return deep;
  }

  /** Whether a check still tells something here. */
  mayCheck(spot: Spot, c: number): boolean {
    const check = this.p.checks![c]!;
    return (
      !check.faults.every((f) => spot.cured & (1 << f)) &&
      !check.voided.some((a) => spot.tried[a] === FAILED || spot.tried[a] === WORKED)
    );
  }
}
