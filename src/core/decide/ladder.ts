import { ok, refuse, type Result } from "../base/result";

/**
 * The order and choice of attempts, with a stop rule, that has the highest expected margin: exact dynamic
 * programming over what is known of each fault (which of its attempts failed, or by which kind of attempt it
 * was cured), how deep the unit is open, and which joint attempts were made. What was spent before is not in
 * it. Money in minor units, as real numbers.
 */

/** Grade that a cure leaves room for: 0 is A, 1 is B, 2 is C. */
export type Cap = 0 | 1 | 2;

export type LadderAttempt = {
  id: string;
  /** indexes of the faults that it cures together when it works; one or several */
  cures: readonly number[];
  /** parts and its own minutes, without the strip-down */
  cost: number;
  minutes: number;
  /** how deep the unit must be open for it, an index into `depths` */
  depth: number;
  /** chance that it works, and that it breaks the unit; together at most 1 */
  success: number;
  breaks: number;
  cap: Cap;
  /** chance that a unit sold after this cure comes back for it */
  comeback: number;
  /** attempts at the same faults, or joint ones, that make no sense any more after this one */
  spends?: readonly number[];
};
export type LadderFault = {
  id: string;
  /**
   * if the unit may be sold with it: which share of the price is left, and the chance that it comes back for
   * it
   */
  leave: { share: number; comeback: number } | null;
};

/** What a sale leaves of its price: fees, carriage and tax taken off. */
export type SaleTerms = { feeShare: number; fixed: number; tax: { share: number; above: number } };

export type LadderProblem = {
  faults: readonly LadderFault[];
  attempts: readonly LadderAttempt[];
  /** strip-down from closed to each depth, ascending; the first is closed and costs nothing */
  depths: readonly { cost: number; minutes: number }[];
  openedTo: number;
  /** going price by grade */
  price: readonly [number, number, number];
  /** what else limits the grade */
  cap: Cap;
  sale: SaleTerms;
  /** what a unit that comes back costs, and how often one does for no reason of ours */
  comebackCost: number;
  comeback: number;
  /** what giving up brings at each depth, and once something broke */
  giveUp: readonly number[];
  giveUpBroken: number;
};

export const taking = (price: number, t: SaleTerms): number =>
  price - t.feeShare * price - t.fixed - t.tax.share * Math.max(0, price - t.tax.above);

/** A place on the ladder: what to try, or where it ends. */
export type Rung =
  | {
      do: "try";
      attempt: number;
      value: number;
      cost: number;
      minutes: number;
      worked: () => Rung;
      failed: () => Rung;
    }
  | { do: "sell"; value: number; cap: Cap; share: number; comeback: number }
  | { do: "give-up"; value: number };

export type Ladder = {
  value: number;
  root: Rung;
  /**
   * the best that begins with an attempt, also where ending at once brings more; null when that was settled
   * by its bound alone
   */
  trying: number | null;
  states: number;
  looked: number;
};
export type LadderRefusal = { code: "too-large"; states: number };

const MOST_STATES = 12_000_000;
const EPS = 1e-9;

/**
 * Attempts that can never pay: even the best sale after it, against giving up, does not bring back its cost.
 * Exact.
 */
function worthTrying(p: LadderProblem): boolean[] {
  const least = Math.min(...p.giveUp);
  return p.attempts.map((a) => {
    const best = taking(p.price[Math.max(a.cap, p.cap) as Cap], p.sale) - p.comeback * p.comebackCost;
    return a.success * (best - least) > a.cost;
  });
}

/**
 * What is known of one fault, as digits: below `masks` the set of its own failed attempts, above it the kind
 * of cure.
 */
type Digits = {
  own: number[];
  stride: number;
  masks: number;
  count: number;
  classes: { cap: Cap; comeback: number }[];
  /** how deep the unit is open at the least when the digit is so */
  depth: Int8Array;
};

type Layout = {
  live: number[];
  joint: number[];
  bit: Int32Array;
  faults: Digits[];
  depths: number;
  jointMasks: number;
  size: number;
};

function layOut(p: LadderProblem, worth = worthTrying(p)): Layout {
  const live = p.attempts.map((_, i) => i).filter((i) => worth[i]);
  const joint = live.filter((i) => p.attempts[i]!.cures.length > 1);
  const bit = new Int32Array(p.attempts.length).fill(-1);
  joint.forEach((a, i) => (bit[a] = i));
  const spent = new Set(live.flatMap((i) => p.attempts[i]!.spends ?? []));
  const jointMasks = 2 ** joint.length;
  let stride = p.depths.length * jointMasks;
  const faults = p.faults.map((_, f): Digits => {
    const own = live.filter((i) => p.attempts[i]!.cures.length === 1 && p.attempts[i]!.cures[0] === f);
    own.forEach((a, i) => (bit[a] = i));
    const classes: (Digits["classes"][number] & { depth: number })[] = [];
    const add = (cap: Cap, comeback: number, depth: number) => {
      const like = classes.find((c) => c.cap === cap && c.comeback === comeback);
      if (like) like.depth = Math.min(like.depth, depth);
      else classes.push({ cap, comeback, depth });
    };
    for (const a of [...own, ...joint.filter((i) => p.attempts[i]!.cures.includes(f))]) {
      const t = p.attempts[a]!;
      add(t.cap, t.comeback, t.depth);
      if (t.cures.length > 1) add(t.cap, 0, t.depth);
    }
    const masks = 2 ** own.length;
    const depth = Int8Array.from({ length: masks + classes.length }, (_, d) =>
      d >= masks
        ? classes[d - masks]!.depth
        : Math.max(
            0,
            ...own.filter((a, k) => d & (1 << k) && !spent.has(a)).map((a) => p.attempts[a]!.depth),
          ),
    );
    const digits = { own, stride, masks, count: masks + classes.length, classes, depth };
    stride *= digits.count;
    return digits;
  });
  return { live, joint, bit, faults, depths: p.depths.length, jointMasks, size: stride };
}

/** The sets of own and joint attempts that one attempt uses up, as bits. */
function spending(p: LadderProblem, l: Layout, a: number, f: number): { own: number; joint: number } {
  let own = 0;
  let joint = 0;
  for (const s of [a, ...(p.attempts[a]!.spends ?? [])]) {
    if (l.bit[s]! < 0) continue;
    if (p.attempts[s]!.cures.length > 1) joint |= 1 << l.bit[s]!;
    else if (p.attempts[s]!.cures[0] === f) own |= 1 << l.bit[s]!;
  }
  return { own, joint };
}

const opening = (p: LadderProblem, from: number, to: number) =>
  to > from ? p.depths[to]!.cost - p.depths[from]!.cost : 0;
const openingMinutes = (p: LadderProblem, from: number, to: number) =>
  to > from ? p.depths[to]!.minutes - p.depths[from]!.minutes : 0;
const sold = (p: LadderProblem, cap: number, share: number, kept: number) =>
  taking(p.price[cap as Cap] * share, p.sale) - (1 - kept) * p.comebackCost;

/**
 * What one fault alone would bring if every other were cured for nothing in the best way: an upper bound of
 * every state with that fault so. By (digit, joint mask, depth); infinite where the fault is cured.
 */
function soloBound(p: LadderProblem, l: Layout, f: number): Float64Array {
  const d = l.faults[f]!;
  const table = new Float64Array(d.count * l.jointMasks * l.depths).fill(Infinity);
  const all = [...d.own, ...l.joint.filter((a) => p.attempts[a]!.cures.includes(f))];
  const spends = all.map((a) => spending(p, l, a, f));
  const leave = p.faults[f]!.leave;
  const left = leave ? sold(p, p.cap, leave.share, (1 - leave.comeback) * (1 - p.comeback)) : -Infinity;
  for (let mask = d.masks - 1; mask >= 0; mask--)
    for (let jm = l.jointMasks - 1; jm >= 0; jm--)
      for (let depth = l.depths - 1; depth >= 0; depth--) {
        let best = Math.max(p.giveUp[depth]!, left);
        for (let i = 0; i < all.length; i++) {
          const t = p.attempts[all[i]!]!;
          const isJoint = t.cures.length > 1;
          if ((isJoint ? jm : mask) & (1 << l.bit[all[i]!]!)) continue;
          const d2 = Math.max(depth, t.depth);
          const kept = (1 - (isJoint ? 0 : t.comeback)) * (1 - p.comeback); // a joint cure's comeback may count elsewhere
          const won = Math.max(p.giveUp[d2]!, sold(p, Math.max(p.cap, t.cap), 1, kept));
          const next = ((mask | spends[i]!.own) * l.jointMasks + (jm | spends[i]!.joint)) * l.depths + d2;
          const q =
            t.success * won +
            t.breaks * p.giveUpBroken +
            (1 - t.success - t.breaks) * table[next]! -
            t.cost -
            opening(p, depth, t.depth);
          if (q > best) best = q;
        }
        table[(mask * l.jointMasks + jm) * l.depths + depth] = best;
      }
  return table;
}

/**
 * Chance that a fault can be cured at all by what is left to try, by digit; 1 where it is cured, may be left,
 * or a joint attempt could do it.
 */
function curable(p: LadderProblem, l: Layout, f: number): Float64Array {
  const d = l.faults[f]!;
  const free = p.faults[f]!.leave !== null || l.joint.some((a) => p.attempts[a]!.cures.includes(f));
  return Float64Array.from({ length: d.count }, (_, digit) => {
    if (free || digit >= d.masks) return 1;
    return (
      1 - d.own.reduce((none, a, k) => (digit & (1 << k) ? none : none * (1 - p.attempts[a]!.success)), 1)
    );
  });
}

type End = { sale: number; cap: Cap; share: number; kept: number };

/** What selling as it is brings; minus infinity where a fault neither is cured nor may be left. */
function endOf(p: LadderProblem, l: Layout, digits: Int32Array): End {
  let cap: number = p.cap;
  let share = 1;
  let kept = 1 - p.comeback;
  for (let f = 0; f < l.faults.length; f++) {
    const d = l.faults[f]!;
    if (digits[f]! >= d.masks) {
      const c = d.classes[digits[f]! - d.masks]!;
      if (c.cap > cap) cap = c.cap;
      kept *= 1 - c.comeback;
    } else {
      const leave = p.faults[f]!.leave;
      if (!leave) return { sale: -Infinity, cap: cap as Cap, share, kept };
      share *= leave.share;
      kept *= 1 - leave.comeback;
    }
  }
  return { sale: sold(p, cap, share, kept), cap: cap as Cap, share, kept };
}

/** One attempt from a state: where it leads, as offsets of the index. Null where it cannot be made there. */
function move(
  p: LadderProblem,
  l: Layout,
  a: number,
  digits: Int32Array,
  jm: number,
): { win: number; lose: number } | null {
  const t = p.attempts[a]!;
  if (t.cures.length > 1 && jm & (1 << l.bit[a]!)) return null;
  let win = 0;
  let lose = 0;
  let joint = jm;
  let first = true;
  for (const f of t.cures) {
    const d = l.faults[f]!;
    const now = digits[f]!;
    if (now >= d.masks) continue;
    if (t.cures.length === 1 && now & (1 << l.bit[a]!)) return null;
    const s = spending(p, l, a, f);
    joint |= s.joint;
    const comeback = first ? t.comeback : 0;
    const cls = d.classes.findIndex((c) => c.cap === t.cap && c.comeback === comeback);
    win += (d.masks + cls - now) * d.stride;
    lose += ((now | s.own) - now) * d.stride;
    first = false;
  }
  if (first) return null;
  const change = (joint - jm) * l.depths;
  return { win: win + change, lose: lose + change };
}

/** The own attempts of every fault, flat, for the loop where the time goes. */
function flatMoves(p: LadderProblem, l: Layout) {
  const moves = l.faults.flatMap((d, f) =>
    d.own.map((a) => ({ f, a, d, t: p.attempts[a]!, s: spending(p, l, a, f) })),
  );
  const cls = (d: Digits, t: LadderAttempt) =>
    d.classes.findIndex((c) => c.cap === t.cap && c.comeback === t.comeback);
  return {
    count: moves.length,
    fault: Int32Array.from(moves, (m) => m.f),
    bit: Int32Array.from(moves, (m) => 1 << l.bit[m.a]!),
    own: Int32Array.from(moves, (m) => m.s.own),
    joint: Int32Array.from(moves, (m) => m.s.joint),
    cured: Int32Array.from(moves, (m) => m.d.masks + cls(m.d, m.t)),
    depth: Int32Array.from(moves, (m) => m.t.depth),
    success: Float64Array.from(moves, (m) => m.t.success),
    lost: Float64Array.from(moves, (m) => 1 - m.t.success - m.t.breaks),
    /** what it costs, less what is got for a unit that it breaks */
    cost: Float64Array.from(moves, (m) => m.t.cost - m.t.breaks * p.giveUpBroken),
  };
}

/**
 * Every state from the last to the first: whatever an attempt leads to has a higher index and is there
 * already.
 */
function fill(p: LadderProblem, l: Layout): { value: Float64Array; looked: number } {
  const n = l.faults.length;
  const depths = l.depths;
  const inner = l.jointMasks * depths;
  const value = new Float64Array(l.size);
  const curables = l.faults.map((_, f) => curable(p, l, f));
  const solo = l.faults.map((_, f) => soloBound(p, l, f));
  const sellable = l.faults.map((d, f) =>
    Uint8Array.from({ length: d.count }, (_, x) => Number(x >= d.masks || p.faults[f]!.leave !== null)),
  );
  const m = flatMoves(p, l);
  const giveUp = Float64Array.from(p.giveUp);
  const openings = Float64Array.from({ length: depths * depths }, (_, i) =>
    opening(p, Math.floor(i / depths), i % depths),
  );
  const masks = Int32Array.from(l.faults, (d) => d.masks);
  const strides = Int32Array.from(l.faults, (d) => d.stride);
  const digits = Int32Array.from(l.faults, (d) => d.count - 1);
  // the attempts that can be made in this block, and where they lead
  const usable = new Int32Array(m.count);
  const win = new Int32Array(m.count);
  const lose = new Int32Array(m.count);
  const others = new Float64Array(n);
  let looked = 0;

  for (let block = l.size / inner - 1; block >= 0; block--) {
    let least = 0;
    let sells = true;
    let open = 0;
    for (let f = 0; f < n; f++) {
      const now = digits[f]!;
      const at = l.faults[f]!.depth[now]!;
      if (at > least) least = at;
      if (sellable[f]![now] === 0) sells = false;
      if (now < masks[f]!) open++;
    }
    const sale = sells ? endOf(p, l, digits).sale : -Infinity;
    for (let f = 0; f < n; f++) {
      let chance = 1;
      for (let g = 0; g < n; g++) if (g !== f) chance *= curables[g]![digits[g]!]!;
      others[f] = chance;
    }
    let prepared = open === 0 ? 0 : -1;
    for (let jm = l.jointMasks - 1; jm >= 0; jm--)
      for (let depth = depths - 1; depth >= least; depth--) {
        const index = block * inner + jm * depths + depth;
        const stop = giveUp[depth]!;
        let best = sale > stop ? sale : stop;
        let upper = Infinity;
        for (let f = 0; f < n; f++) {
          if (digits[f]! >= masks[f]!) continue;
          const alone = solo[f]![(digits[f]! * l.jointMasks + jm) * depths + depth]!;
          const u = stop + others[f]! * (alone - stop);
          if (u < upper) upper = u;
        }
        if (open > 0 && upper > best + EPS) {
          looked++;
          if (prepared < 0) {
            prepared = 0;
            for (let k = 0; k < m.count; k++) {
              const f = m.fault[k]!;
              const now = digits[f]!;
              if (now >= masks[f]! || (now & m.bit[k]!) !== 0) continue;
              usable[prepared] = k;
              win[prepared] = (m.cured[k]! - now) * strides[f]!;
              lose[prepared] = ((now | m.own[k]!) - now) * strides[f]!;
              prepared++;
            }
          }
          for (let i = 0; i < prepared; i++) {
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
              openings[depth * depths + d2]!;
            if (q > best) best = q;
          }
        }
        value[index] = best;
      }
    for (let f = 0; f < n; f++) {
      if (digits[f]! > 0) {
        digits[f]!--;
        break;
      }
      digits[f] = l.faults[f]!.count - 1;
    }
  }
  return { value, looked };
}

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
function search(p: LadderProblem, l: Layout): { value: Float64Array; looked: number } {
  const n = l.faults.length;
  const depths = l.depths;
  const value = new Float64Array(l.size).fill(Number.NaN);
  const known = new Uint8Array(l.size);
  const m = flatMoves(p, l);
  const masks = Int32Array.from(l.faults, (d) => d.masks);
  const strides = Int32Array.from(l.faults, (d) => d.stride);
  const rows = Int32Array.from(l.faults, (d) => d.count);
  const giveUp = Float64Array.from(p.giveUp);
  const openings = Float64Array.from({ length: depths * depths }, (_, i) =>
    opening(p, Math.floor(i / depths), i % depths),
  );
  const curables = l.faults.map((_, f) => curable(p, l, f));
  const digits = new Int32Array(n);
  const tables = new Map<number, Float64Array>();
  const uppers = new Float64Array((m.count + 1) * m.count);
  const orders = new Int32Array((m.count + 1) * m.count);
  let looked = 0;

  const tableOf = (f: number, g: number, others: number): Float64Array => {
    const key = ((f * n + g) << n) | others;
    let table = tables.get(key);
    if (!table) {
      const still = l.faults.map((_, h) => h).filter((h) => others & (1 << h) && p.faults[h]!.leave === null);
      table = pairBound(p, l, f, g, still);
      tables.set(key, table);
    }
    return table;
  };

  /** The least of the pairs' bounds, each times the chance that the other faults can be cured at all. */
  const boundAt = (index: number, depth: number): number => {
    const had = value[index]!;
    if (!Number.isNaN(had)) return had;
    let open = 0;
    for (let f = 0; f < n; f++) if (digits[f]! < masks[f]!) open |= 1 << f;
    const stop = giveUp[depth]!;
    let upper = Infinity;
    if (open === 0) upper = Math.max(endOf(p, l, digits).sale, stop);
    else
      for (let f = 0; f < n; f++)
        for (let g = f + 1; g < n; g++) {
          const both = (1 << f) | (1 << g);
          if ((open & both) === 0) continue;
          const set = open & ~both;
          let other = 1;
          for (let h = 0; h < n; h++) if (set & (1 << h)) other *= curables[h]![digits[h]!]!;
          const u =
            stop +
            other * (tableOf(f, g, set)[(digits[g]! * rows[f]! + digits[f]!) * depths + depth]! - stop);
          if (u < upper) upper = u;
        }
    value[index] = upper;
    return upper;
  };

  const look = (index: number, depth: number, level: number): number => {
    if (known[index] === 1) return value[index]!;
    looked++;
    let best = Math.max(endOf(p, l, digits).sale, giveUp[depth]!);
    const row = level * m.count;
    let count = 0;
    if (boundAt(index, depth) > best + EPS)
      for (let k = 0; k < m.count; k++) {
        const f = m.fault[k]!;
        const now = digits[f]!;
        if (now >= masks[f]! || (now & m.bit[k]!) !== 0) continue;
        const d2 = m.depth[k]! > depth ? m.depth[k]! : depth;
        const base = index + d2 - depth;
        const next = now | m.own[k]!;
        digits[f] = m.cured[k]!;
        const won = boundAt(base + (m.cured[k]! - now) * strides[f]!, d2);
        digits[f] = next;
        const lost = boundAt(base + (next - now) * strides[f]!, d2);
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
    for (let i = 0; i < count; i++) {
      const k = orders[row + i]!;
      if (uppers[row + k]! <= best + EPS) break;
      const f = m.fault[k]!;
      const now = digits[f]!;
      const next = now | m.own[k]!;
      const d2 = m.depth[k]! > depth ? m.depth[k]! : depth;
      const win = index + d2 - depth + (m.cured[k]! - now) * strides[f]!;
      const lose = index + d2 - depth + (next - now) * strides[f]!;
      const paid = m.cost[k]! + openings[depth * depths + d2]!;
      digits[f] = m.cured[k]!;
      const won = look(win, d2, level + 1);
      digits[f] = next;
      let q = m.success[k]! * won + m.lost[k]! * boundAt(lose, d2) - paid;
      // with the value of success known, the failure's bound may settle it already
      if (q > best + EPS) q = m.success[k]! * won + m.lost[k]! * look(lose, d2, level + 1) - paid;
      digits[f] = now;
      if (q > best) best = q;
    }
    value[index] = best;
    known[index] = 1;
    return best;
  };
  look(p.openedTo, p.openedTo, 0);
  for (let i = 0; i < value.length; i++) if (known[i] === 0) value[i] = Number.NaN; // a bound is no value
  return { value, looked };
}

/** Below this many states all are worked out; above it, bounds say where to look. */
const SMALL = 150_000;

/**
 * Solves the problem exactly. Costs and chances must be non-negative, `success + breaks` at most 1, giving up
 * once broken bring no more than giving up, and opening deeper not raise what giving up brings by more than
 * it costs. Refuses above 12 million states.
 */
export function solveLadder(p: LadderProblem): Result<Ladder, LadderRefusal> {
  const l = layOut(p);
  if (!(l.size <= MOST_STATES)) return refuse({ code: "too-large", states: l.size });
  const { value, looked } = l.size > SMALL && l.joint.length === 0 ? search(p, l) : fill(p, l);
  const digitsOf = (index: number) =>
    Int32Array.from(l.faults, (d) => Math.floor(index / d.stride) % d.count);

  const times = (chance: number, v: number) => (chance === 0 ? 0 : chance * v);
  /** The best attempt from a state, by what was worked out for where it leads. */
  const bestTry = (index: number) => {
    const depth = index % l.depths;
    const jm = Math.floor(index / l.depths) % l.jointMasks;
    const digits = digitsOf(index);
    let best: { attempt: number; win: number; lose: number; value: number } | null = null;
    for (const a of l.live) {
      const to = move(p, l, a, digits, jm);
      if (!to) continue;
      const t = p.attempts[a]!;
      const base = index + Math.max(0, t.depth - depth);
      const q =
        times(t.success, value[base + to.win]!) +
        t.breaks * p.giveUpBroken +
        times(1 - t.success - t.breaks, value[base + to.lose]!) -
        t.cost -
        opening(p, depth, t.depth);
      if (q > (best?.value ?? -Infinity))
        best = { attempt: a, win: base + to.win, lose: base + to.lose, value: q };
    }
    return best;
  };
  const rung = (index: number): Rung => {
    const depth = index % l.depths;
    const end = endOf(p, l, digitsOf(index));
    const stop = Math.max(end.sale, p.giveUp[depth]!);
    const pick = bestTry(index);
    if (pick === null || pick.value <= stop + EPS)
      return end.sale >= p.giveUp[depth]!
        ? { do: "sell", value: end.sale, cap: end.cap, share: end.share, comeback: 1 - end.kept }
        : { do: "give-up", value: p.giveUp[depth]! };
    const { attempt, win, lose } = pick;
    const t = p.attempts[attempt]!;
    return {
      do: "try",
      attempt,
      value: pick.value,
      cost: t.cost + opening(p, depth, t.depth),
      minutes: t.minutes + openingMinutes(p, depth, t.depth),
      worked: () => rung(win),
      failed: () => rung(lose),
    };
  };
  return ok({
    value: value[p.openedTo]!,
    root: rung(p.openedTo),
    trying: bestTry(p.openedTo)?.value ?? null,
    states: l.size,
    looked,
  });
}
