import { type Cap, type LadderProblem, opening, sold } from "./problem";
import { capIn, curedIn, NOT_MADE, type Sale, saleOf, type State } from "./state";

/**
 * `Bounds`: what a state can bring at most: as if it were told now, for nothing, which explanation is true. Under one explanation
 * attempts are independent; then no policy brings more than giving up, and, times the chance that all other faults can be
 * cured at all, what one fault alone would gain by its best order with every other cured by its cheapest attempt.
 */
/** What a state is, whatever is known of its causes; money in minor units. */
export type Spot = {
  cured: number;
  sale: Sale;
  giveUp: number;
  /** what ending brings */
  stop: number;
  /** the most that any policy brings, by explanation */
  most: Float64Array;
};

export class Bounds {
  private readonly spots = new Map<string, Spot>();
  private readonly count: number;
  /** by fault: the attempts that may cure it */
  private readonly own: number[][];
  private readonly works: readonly (readonly number[])[];
  private readonly tables = new Map<number, Float64Array>();
  private readonly curables = new Map<number, Float64Array>();
  private readonly cheapest = new Map<number, Float64Array>();

  constructor(private readonly p: LadderProblem) {
    this.count = p.explanations!.length;
    this.own = p.faults.map((_, f) => p.attempts.flatMap((a, i) => (a.cures.includes(f) ? [i] : [])));
    this.works = p.attempts.map((a) => a.works ?? new Array<number>(this.count).fill(a.success));
  }

  /** What is true of a state whatever is known of its causes. */
  at(s: State): Spot {
    const had = this.spots.get(s.key);
    if (had) return had;
    const cured = curedIn(this.p, s);
    const sale = saleOf(this.p, s, cured);
    const giveUp = this.p.giveUp[s.depth]!;
    const spot: Spot = {
      cured,
      sale,
      giveUp,
      stop: Math.max(sale.value, giveUp),
      most: this.mostOf(s, cured, sale.value),
    };
    this.spots.set(s.key, spot);
    return spot;
  }

  /** An upper bound of what the state brings, for a mass over the explanations that need not add up to 1. */
  of(s: State, mass: Float64Array): number {
    const { most } = this.at(s);
    let total = 0;
    for (let h = 0; h < mass.length; h++) total += mass[h]! * most[h]!;
    return total;
  }

  /** The most that the state brings under each explanation. */
  private mostOf(s: State, cured: number, sale: number): Float64Array {
    const { p, count } = this;
    const stop = p.giveUp[s.depth]!;
    const cap = capIn(p, s);
    const open = p.faults.flatMap((f, i) => (cured & (1 << i) || f.leave ? [] : [i]));
    if (open.length === 0)
      return new Float64Array(count).fill(Math.max(stop, sold(p, cap, 1, 1 - p.comeback), sale));
    const masks = open.map((f) => this.maskOf(s, f));
    const gains = open.map((f) => this.gains(f, cured, cap, s.depth));
    const curable = open.map((f) => this.curable(f));
    const paid = open.map((f, x) => this.leastOpening(s, f, masks[x]!));
    return Float64Array.from({ length: count }, (_, h) => {
      let least = Infinity;
      for (let x = 0; x < open.length; x++) {
        let gain = gains[x]![masks[x]! * count + h]! - paid[x]!;
        if (gain > 0)
          for (let y = 0; y < open.length; y++) if (y !== x) gain *= curable[y]![masks[y]! * count + h]!;
        if (gain < least) least = gain;
      }
      return stop + Math.max(0, least);
    });
  }

  /** The attempts at a fault that cannot be made any more, as bits. */
  private maskOf(s: State, f: number): number {
    let mask = 0;
    this.own[f]!.forEach((a, k) => {
      if (s.tried[a] !== NOT_MADE) mask |= 1 << k;
    });
    return mask;
  }

  private leastOpening(s: State, f: number, mask: number): number {
    let least = Infinity;
    this.own[f]!.forEach((a, k) => {
      if (!(mask & (1 << k))) least = Math.min(least, opening(this.p, s.depth, this.p.attempts[a]!.depth));
    });
    return least === Infinity ? 0 : least;
  }

  /** Chance that a fault can be cured at all by what is left, by mask and explanation. */
  private curable(f: number): Float64Array {
    const had = this.curables.get(f);
    if (had) return had;
    const { count } = this;
    const own = this.own[f]!;
    const table = new Float64Array(2 ** own.length * count);
    const joint = own.some((a) => this.p.attempts[a]!.cures.length > 1);
    for (let mask = 0; mask < 2 ** own.length; mask++)
      for (let h = 0; h < count; h++)
        table[mask * count + h] = joint
          ? 1
          : 1 - own.reduce((none, a, k) => (mask & (1 << k) ? none : none * (1 - this.works[a]![h]!)), 1);
    this.curables.set(f, table);
    return table;
  }

  /** The cheapest attempt that may cure a fault under each explanation; nothing where a joint one may. */
  private cheapestOf(f: number): Float64Array {
    const had = this.cheapest.get(f);
    if (had) return had;
    const own = this.own[f]!;
    const free = own.some((a) => this.p.attempts[a]!.cures.length > 1);
    const table = Float64Array.from({ length: this.count }, (_, h) => {
      if (free) return 0;
      const costs = own.filter((a) => this.works[a]![h]! > 0).map((a) => this.p.attempts[a]!.cost);
      return costs.length ? Math.min(...costs) : 0;
    });
    this.cheapest.set(f, table);
    return table;
  }

  /** What curing one fault gains over giving up under each explanation, the others cured by their cheapest. */
  private gains(f: number, cured: number, cap: Cap, depth: number): Float64Array {
    const key =
      ((f * 4 + cap) * this.p.depths.length + depth) * 2 ** this.p.faults.length + (cured & ~(1 << f));
    const had = this.tables.get(key);
    if (had) return had;
    const { p, count } = this;
    const own = this.own[f]!;
    const stop = p.giveUp[depth]!;
    const others = p.faults.flatMap((x, g) => (g === f || x.leave || cured & (1 << g) ? [] : [g]));
    const broken = p.giveUpBroken - stop;
    const won = own.map((a) => {
      const t = p.attempts[a]!;
      const kept = (1 - (t.cures.length > 1 ? 0 : t.comeback)) * (1 - p.comeback);
      return sold(p, Math.max(cap, t.cap) as Cap, 1, kept) - stop;
    });
    const table = new Float64Array(2 ** own.length * count);
    for (let h = 0; h < count; h++) {
      const rest = others.reduce((s, g) => s + this.cheapestOf(g)[h]!, 0);
      for (let mask = 2 ** own.length - 1; mask >= 0; mask--) {
        let best = 0;
        own.forEach((a, k) => {
          if (mask & (1 << k)) return;
          const t = p.attempts[a]!;
          const w = this.works[a]![h]!;
          const next = table[(mask | (1 << k)) * count + h]!;
          const q = w * Math.max(0, won[k]! - rest) + t.breaks * broken + (1 - w - t.breaks) * next - t.cost;
          if (q > best) best = q;
        });
        table[mask * count + h] = best;
      }
    }
    this.tables.set(key, table);
    return table;
  }
}

export const sum = (mass: Float64Array): number => {
  let total = 0;
  for (const m of mass) total += m;
  return total;
};
