import type { LadderProblem } from "../policy/problem";
import { EPS, type Layout, type Values, endOf, flatLayout, flatMoves, layOut } from "./ladder-states";
import { fill } from "./ladder-values";

/** The values of a large ladder's states, looked for only where a bound says that looking may pay. */

/**
 * Two faults alone, exactly, every other one cured; each of `others` still costs its cheapest attempt before
 * a sale. Only without joint attempts, whose bits would not fit.
 */
function pairBound(
  p: LadderProblem,
  l: Layout,
  f: number,
  g: number,
  others: readonly number[],
): Float64Array {
  const at = [f, g];
  const cheapest = (h: number) => Math.min(...l.faults[h]!.own.map((a) => p.attempts[a]!.cost));
  const toPay = others.reduce((sum, h) => sum + (l.faults[h]!.own.length ? cheapest(h) : 0), 0);
  const kept = l.live.filter((a) => at.includes(p.attempts[a]!.cures[0]!));
  const sub: LadderProblem = {
    ...p,
    faults: at.map((i) => p.faults[i]!),
    attempts: kept.map((a) => {
      const t = p.attempts[a]!;
      return {
        ...t,
        cures: [at.indexOf(t.cures[0]!)],
        spends: (t.spends ?? []).map((x) => kept.indexOf(x)).filter((x) => x >= 0),
      };
    }),
    sale: { ...p.sale, fixed: p.sale.fixed + toPay },
  };
  return fill(
    sub,
    layOut(
      sub,
      kept.map(() => true),
    ),
  ).value;
}

/**
 * The same values, looking only where a bound says that looking may pay: for large problems without joint
 * attempts. A state holds its upper bound until its value is known; what was never met stays NaN.
 */
class Search {
  readonly value: Float64Array;
  looked = 0;
  private readonly n: number;
  private readonly known: Uint8Array;
  private readonly m: ReturnType<typeof flatMoves>;
  private readonly flat: ReturnType<typeof flatLayout>;
  private readonly rows: Int32Array;
  private readonly digits: Int32Array;
  private readonly tables = new Map<number, Float64Array>();
  /** by level of the search: each attempt's bound, and the attempts by falling bound */
  private readonly uppers: Float64Array;
  private readonly orders: Int32Array;

  constructor(
    private readonly p: LadderProblem,
    private readonly l: Layout,
  ) {
    this.n = l.faults.length;
    this.value = new Float64Array(l.size).fill(Number.NaN);
    this.known = new Uint8Array(l.size);
    this.m = flatMoves(p, l);
    this.flat = flatLayout(p, l);
    this.rows = Int32Array.from(l.faults, (d) => d.count);
    this.digits = new Int32Array(this.n);
    this.uppers = new Float64Array((this.m.count + 1) * this.m.count);
    this.orders = new Int32Array((this.m.count + 1) * this.m.count);
  }

  run(): void {
    this.look(this.p.openedTo, this.p.openedTo, 0);
    const { value, known } = this;
    for (let i = 0; i < value.length; i++) if (known[i] === 0) value[i] = Number.NaN; // a bound is no value
  }

  private tableOf(f: number, g: number, others: number): Float64Array {
    const { p, l, n } = this;
    const key = ((f * n + g) << n) | others;
    let table = this.tables.get(key);
    if (!table) {
      const still = l.faults.map((_, h) => h).filter((h) => others & (1 << h) && p.faults[h]!.leave === null);
      table = pairBound(p, l, f, g, still);
      this.tables.set(key, table);
    }
    return table;
  }

  /** The least of the pairs' bounds, each times the chance that the other faults can be cured at all. */
  private boundAt(index: number, depth: number): number {
    const { value, digits, n, flat } = this;
    const had = value[index]!;
    if (!Number.isNaN(had)) return had;
    let open = 0;
    for (let f = 0; f < n; f++) if (digits[f]! < flat.masks[f]!) open |= 1 << f;
    const upper =
      open === 0
        ? Math.max(endOf(this.p, this.l, digits).sale, flat.giveUp[depth]!)
        : this.leastOfPairs(open, depth);
    value[index] = upper;
    return upper;
  }

  private leastOfPairs(open: number, depth: number): number {
    const { n, digits, rows } = this;
    const { depths } = this.l;
    const stop = this.flat.giveUp[depth]!;
    let upper = Infinity;
    for (let f = 0; f < n; f++)
      for (let g = f + 1; g < n; g++) {
        const both = (1 << f) | (1 << g);
        if ((open & both) === 0) continue;
        const set = open & ~both;
        const table = this.tableOf(f, g, set);
        const u =
          stop +
          this.curableAll(set) * (table[(digits[g]! * rows[f]! + digits[f]!) * depths + depth]! - stop);
        if (u < upper) upper = u;
      }
    return upper;
  }

  private curableAll(set: number): number {
    const { curables } = this.flat;
    let chance = 1;
    for (let h = 0; h < this.n; h++) if (set & (1 << h)) chance *= curables[h]![this.digits[h]!]!;
    return chance;
  }

  private look(index: number, depth: number, level: number): number {
    const { value, known } = this;
    if (known[index] === 1) return value[index]!;
    this.looked++;
    let best = Math.max(endOf(this.p, this.l, this.digits).sale, this.flat.giveUp[depth]!);
    const row = level * this.m.count;
    const count = this.boundAt(index, depth) > best + EPS ? this.promising(index, depth, row, best) : 0;
    for (let i = 0; i < count; i++) {
      const k = this.orders[row + i]!;
      if (this.uppers[row + k]! <= best + EPS) break;
      const q = this.tried(k, index, depth, level, best);
      if (q > best) best = q;
    }
    value[index] = best;
    known[index] = 1;
    return best;
  }

  /** Lists the attempts whose bound is above the best, highest first, from a row on; gives how many. */
  private promising(index: number, depth: number, row: number, best: number): number {
    const { m, digits, orders, uppers } = this;
    const { masks, strides, openings } = this.flat;
    const { depths } = this.l;
    let count = 0;
    for (let k = 0; k < m.count; k++) {
      const f = m.fault[k]!;
      const now = digits[f]!;
      if (now >= masks[f]! || (now & m.bit[k]!) !== 0) continue;
      const d2 = m.depth[k]! > depth ? m.depth[k]! : depth;
      const base = index + d2 - depth;
      const next = now | m.own[k]!;
      digits[f] = m.cured[k]!;
      const won = this.boundAt(base + (m.cured[k]! - now) * strides[f]!, d2);
      digits[f] = next;
      const lost = this.boundAt(base + (next - now) * strides[f]!, d2);
      digits[f] = now;
      const u = m.success[k]! * won + m.lost[k]! * lost - m.cost[k]! - openings[depth * depths + d2]!;
      if (u <= best + EPS) continue;
      let at = count++;
      while (at > 0 && uppers[row + orders[row + at - 1]!]! < u) {
        orders[row + at] = orders[row + at - 1]!;
        at--;
      }
      orders[row + at] = k;
      uppers[row + k] = u;
    }
    return count;
  }

  /** What an attempt brings, or a bound of it that is not above the best. */
  private tried(k: number, index: number, depth: number, level: number, best: number): number {
    const { m, digits } = this;
    const { strides, openings } = this.flat;
    const f = m.fault[k]!;
    const now = digits[f]!;
    const next = now | m.own[k]!;
    const d2 = m.depth[k]! > depth ? m.depth[k]! : depth;
    const win = index + d2 - depth + (m.cured[k]! - now) * strides[f]!;
    const lose = index + d2 - depth + (next - now) * strides[f]!;
    const paid = m.cost[k]! + openings[depth * this.l.depths + d2]!;
    digits[f] = m.cured[k]!;
    const won = this.look(win, d2, level + 1);
    digits[f] = next;
    let q = m.success[k]! * won + m.lost[k]! * this.boundAt(lose, d2) - paid;
    // with the value of success known, the failure's bound may settle it already
    if (q > best + EPS) q = m.success[k]! * won + m.lost[k]! * this.look(lose, d2, level + 1) - paid;
    digits[f] = now;
    return q;
  }
}

export function search(p: LadderProblem, l: Layout): Values {
  const way = new Search(p, l);
  way.run();
  return way;
}
