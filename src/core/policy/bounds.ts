import { type Cap, type LadderProblem, opening, sold } from "./problem";

/**
 * `Bounds`: what a state can bring at most: as if it were told now, for nothing, which explanation is true. Under one explanation
 * attempts are independent; then no policy brings more than giving up, and, times the chance that all other faults can be
 * cured at all, what one fault alone would gain by its best order with every other cured by its cheapest attempt.
 */
/** What a bound hangs on. */
type Here = {
  tried: Uint8Array;
  depth: number;
  cured: number;
  cap: Cap;
  giveUp: number;
  sale: { value: number };
};

export class Bounds {
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

  /** The most that the state brings under each explanation. */
  mostOf(s: Here): Float64Array {
    const { p, count } = this;
    const { cured, cap, giveUp: stop } = s;
    const open = p.faults.flatMap((f, i) => (cured & (1 << i) || f.leave ? [] : [i]));
    if (open.length === 0)
      return new Float64Array(count).fill(Math.max(stop, sold(p, cap, 1, 1 - p.comeback), s.sale.value));
    const masks = open.map((f) => this.maskOf(s.tried, f));
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
  private maskOf(tried: Uint8Array, f: number): number {
    let mask = 0;
    this.own[f]!.forEach((a, k) => {
      if (tried[a] !== 0) mask |= 1 << k;
    });
    return mask;
  }

  private leastOpening(s: Here, f: number, mask: number): number {
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
      for (let h = 0; h < count; h++) table[mask * count + h] = joint ? 1 : 1 - this.noneOf(own, mask, h);
    this.curables.set(f, table);
    return table;
  }

  /** Chance that none of what is left works. */
  private noneOf(own: readonly number[], mask: number, h: number): number {
    let none = 1;
    for (let k = 0; k < own.length; k++) if (!(mask & (1 << k))) none *= 1 - this.works[own[k]!]![h]!;
    return none;
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
    // depths at which giving up brings the same are alike
    const alike = this.p.giveUp.indexOf(this.p.giveUp[depth]!);
    const key =
      ((f * 4 + cap) * this.p.depths.length + alike) * 2 ** this.p.faults.length + (cured & ~(1 << f));
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
