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
  private readonly orders = new Map<number, Order>();
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
    const paid = open.map((f, x) => this.leastOpening(s, f, masks[x]!));
    const curable = open.map((f, x) => this.curable(f, masks[x]!));
    const most = new Float64Array(count);
    for (let h = 0; h < count; h++) {
      let least = Infinity;
      for (let x = 0; x < open.length; x++) {
        let gain = gainBy(gains[x]!, masks[x]!, h) - paid[x]!;
        if (gain > 0) for (let y = 0; y < open.length; y++) if (y !== x) gain *= curable[y]![h]!;
        if (gain < least) least = gain;
      }
      most[h] = stop + Math.max(0, least);
    }
    return most;
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

  /** Chance that a fault can be cured at all by what is left, by explanation; 1 where a joint attempt may. */
  private curable(f: number, mask: number): Float64Array {
    const own = this.own[f]!;
    const chances = new Float64Array(this.count).fill(1);
    if (own.some((a) => this.p.attempts[a]!.cures.length > 1)) return chances;
    for (let h = 0; h < this.count; h++) {
      let none = 1;
      for (let k = 0; k < own.length; k++) if (!(mask & (1 << k))) none *= 1 - this.works[own[k]!]![h]!;
      chances[h] = 1 - none;
    }
    return chances;
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
  private gains(f: number, cured: number, cap: Cap, depth: number): Order {
    // depths at which giving up brings the same are alike
    const alike = this.p.giveUp.indexOf(this.p.giveUp[depth]!);
    const key =
      ((f * 4 + cap) * this.p.depths.length + alike) * 2 ** this.p.faults.length + (cured & ~(1 << f));
    const had = this.orders.get(key);
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
    const size = own.length;
    const order: Order = {
      size,
      at: new Uint8Array(size * count),
      brings: new Float64Array(size * count),
      ends: new Float64Array(size * count),
    };
    for (let h = 0; h < count; h++) {
      const rest = others.reduce((s, g) => s + this.cheapestOf(g)[h]!, 0);
      const ranked = own
        .map((a, k) => {
          const t = p.attempts[a]!;
          const w = this.works[a]![h]!;
          const brings = w * Math.max(0, won[k]! - rest) + t.breaks * broken - t.cost;
          return { k, brings, ends: w + t.breaks };
        })
        .sort((x, y) => rate(y) - rate(x) || x.k - y.k);
      ranked.forEach((x, i) => {
        order.at[h * size + i] = x.k;
        order.brings[h * size + i] = x.brings;
        order.ends[h * size + i] = x.ends;
      });
    }
    this.orders.set(key, order);
    return order;
  }
}

/**
 * Attempts at one fault under each explanation, in the order that brings most. Each ends it with some chance, and brings
 * so much on average when it is made; of independent ones the best order is by what they bring for each chance of
 * ending, and what costs more than it brings is left (an exchange of two neighbours shows it).
 */
type Order = { size: number; at: Uint8Array; brings: Float64Array; ends: Float64Array };
const rate = ({ brings, ends }: { brings: number; ends: number }): number =>
  brings <= 0 ? -Infinity : brings / ends;

/** What the attempts that are left bring under an explanation. */
function gainBy(o: Order, mask: number, h: number): number {
  let gain = 0;
  let still = 1;
  for (let i = h * o.size; i < (h + 1) * o.size; i++) {
    if (mask & (1 << o.at[i]!)) continue;
    if (o.brings[i]! <= 0) break;
    gain += still * o.brings[i]!;
    still *= 1 - o.ends[i]!;
  }
  return gain;
}

export const sum = (mass: Float64Array): number => {
  let total = 0;
  for (const m of mass) total += m;
  return total;
};
