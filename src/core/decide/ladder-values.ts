import type { LadderProblem } from "../policy/problem";
import {
  EPS,
  type Layout,
  type Values,
  endOf,
  flatLayout,
  flatMoves,
  move,
  soloBound,
} from "./ladder-states";

/** The value of every state of a ladder, two ways: all of them, or only where a bound says that looking may pay. */

/**
 * Every state from the last to the first: whatever an attempt leads to has a higher index and is there
 * already. States with the same digits are one block, walked by joint mask and depth.
 */
class Fill {
  readonly value: Float64Array;
  looked = 0;
  private readonly m: ReturnType<typeof flatMoves>;
  private readonly flat: ReturnType<typeof flatLayout>;
  private readonly solo: Float64Array[];
  private readonly sellable: Uint8Array[];
  private readonly digits: Int32Array;
  /** the attempts that can be made in this block, and where they lead; -1: not looked up yet */
  private readonly usable: Int32Array;
  private readonly win: Int32Array;
  private readonly lose: Int32Array;
  private prepared = 0;
  /** by fault, the chance that all the others can be cured at all */
  private readonly others: Float64Array;

  constructor(
    private readonly p: LadderProblem,
    private readonly l: Layout,
  ) {
    this.value = new Float64Array(l.size);
    this.flat = flatLayout(p, l);
    this.m = flatMoves(p, l);
    this.solo = l.faults.map((_, f) => soloBound(p, l, f));
    this.sellable = l.faults.map((d, f) =>
      Uint8Array.from({ length: d.count }, (_, x) => Number(x >= d.masks || p.faults[f]!.leave !== null)),
    );
    this.digits = Int32Array.from(l.faults, (d) => d.count - 1);
    this.usable = new Int32Array(this.m.count);
    this.win = new Int32Array(this.m.count);
    this.lose = new Int32Array(this.m.count);
    this.others = new Float64Array(l.faults.length);
  }

  run(): void {
    const { l } = this;
    for (let block = l.size / (l.jointMasks * l.depths) - 1; block >= 0; block--) {
      this.block(block);
      this.countDown();
    }
  }

  /** How deep the unit is open at the least when the digits are so. */
  private leastDepth(): number {
    let least = 0;
    for (let f = 0; f < this.digits.length; f++) {
      const at = this.l.faults[f]!.depth[this.digits[f]!]!;
      if (at > least) least = at;
    }
    return least;
  }

  private openFaults(): number {
    let open = 0;
    for (let f = 0; f < this.digits.length; f++) if (this.digits[f]! < this.flat.masks[f]!) open++;
    return open;
  }

  private saleHere(): number {
    for (let f = 0; f < this.digits.length; f++)
      if (this.sellable[f]![this.digits[f]!] === 0) return -Infinity;
    return endOf(this.p, this.l, this.digits).sale;
  }

  private chancesOfOthers(): void {
    const { digits, others } = this;
    const { curables } = this.flat;
    for (let f = 0; f < digits.length; f++) {
      let chance = 1;
      for (let g = 0; g < digits.length; g++) if (g !== f) chance *= curables[g]![digits[g]!]!;
      others[f] = chance;
    }
  }

  private block(block: number): void {
    const { l, value } = this;
    const first = block * l.jointMasks * l.depths;
    const least = this.leastDepth();
    const open = this.openFaults();
    const sale = this.saleHere();
    this.chancesOfOthers();
    this.prepared = open === 0 ? 0 : -1;
    for (let jm = l.jointMasks - 1; jm >= 0; jm--)
      for (let depth = l.depths - 1; depth >= least; depth--) {
        const index = first + jm * l.depths + depth;
        const stop = this.flat.giveUp[depth]!;
        let best = sale > stop ? sale : stop;
        if (open > 0 && this.upper(jm, depth, stop) > best + EPS) {
          this.looked++;
          best = this.bestJoint(index, jm, depth, this.bestOwn(index, jm, depth, best));
        }
        value[index] = best;
      }
  }

  /** The least of what each open fault alone would bring, times the chance that the others can be cured. */
  private upper(jm: number, depth: number, stop: number): number {
    const { digits, l, others } = this;
    let upper = Infinity;
    for (let f = 0; f < digits.length; f++) {
      if (digits[f]! >= this.flat.masks[f]!) continue;
      const alone = this.solo[f]![(digits[f]! * l.jointMasks + jm) * l.depths + depth]!;
      const u = stop + others[f]! * (alone - stop);
      if (u < upper) upper = u;
    }
    return upper;
  }

  private prepare(): void {
    const { m, digits, flat } = this;
    this.prepared = 0;
    for (let k = 0; k < m.count; k++) {
      const f = m.fault[k]!;
      const now = digits[f]!;
      if (now >= flat.masks[f]! || (now & m.bit[k]!) !== 0) continue;
      this.usable[this.prepared] = k;
      this.win[this.prepared] = (m.cured[k]! - now) * flat.strides[f]!;
      this.lose[this.prepared] = ((now | m.own[k]!) - now) * flat.strides[f]!;
      this.prepared++;
    }
  }

  private bestOwn(index: number, jm: number, depth: number, least: number): number {
    if (this.prepared < 0) this.prepare();
    const { m, value, usable, win, lose } = this;
    const { openings } = this.flat;
    const { depths } = this.l;
    let best = least;
    for (let i = 0; i < this.prepared; i++) {
      const k = usable[i]!;
      const d2 = m.depth[k]! > depth ? m.depth[k]! : depth;
      const base = index + d2 - depth + ((jm | m.joint[k]!) - jm) * depths;
      const q =
        m.success[k]! * value[base + win[i]!]! +
        m.lost[k]! * value[base + lose[i]!]! -
        m.cost[k]! -
        openings[depth * depths + d2]!;
      if (q > best) best = q;
    }
    return best;
  }

  private bestJoint(index: number, jm: number, depth: number, least: number): number {
    const { p, l, value, digits } = this;
    let best = least;
    for (const a of l.joint) {
      const t = p.attempts[a]!;
      const to = move(p, l, a, digits, jm);
      if (!to) continue;
      const d2 = t.depth > depth ? t.depth : depth;
      const base = index + d2 - depth;
      const q =
        t.success * value[base + to.win]! +
        t.breaks * p.giveUpBroken +
        (1 - t.success - t.breaks) * value[base + to.lose]! -
        t.cost -
        this.flat.openings[depth * l.depths + d2]!;
      if (q > best) best = q;
    }
    return best;
  }

  private countDown(): void {
    const { digits, l } = this;
    for (let f = 0; f < digits.length; f++) {
      if (digits[f]! > 0) {
        digits[f]!--;
        return;
      }
      digits[f] = l.faults[f]!.count - 1;
    }
  }
}

export function fill(p: LadderProblem, l: Layout): Values {
  const way = new Fill(p, l);
  way.run();
  return way;
}
