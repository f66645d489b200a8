import { type Cap, type LadderAttempt, type LadderProblem, opening, sold, taking } from "../policy/problem";

/** What is known of a unit on the way, as a number, and where an attempt leads from it. */

export const EPS = 1e-9;

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

export type Layout = {
  live: number[];
  joint: number[];
  bit: Int32Array;
  faults: Digits[];
  depths: number;
  jointMasks: number;
  size: number;
};

export function layOut(p: LadderProblem, worth = worthTrying(p)): Layout {
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

/**
 * What one fault alone would bring if every other were cured for nothing in the best way: an upper bound of
 * every state with that fault so. By (digit, joint mask, depth); infinite where the fault is cured.
 */
export function soloBound(p: LadderProblem, l: Layout, f: number): Float64Array {
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
          const won = Math.max(p.giveUp[d2]!, sold(p, Math.max(p.cap, t.cap) as Cap, 1, kept));
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
export function endOf(p: LadderProblem, l: Layout, digits: Int32Array): End {
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
  return { sale: sold(p, cap as Cap, share, kept), cap: cap as Cap, share, kept };
}

/** One attempt from a state: where it leads, as offsets of the index. Null where it cannot be made there. */
export function move(
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
export function flatMoves(p: LadderProblem, l: Layout) {
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

/** What every way through the states reads, laid out flat. */
export function flatLayout(p: LadderProblem, l: Layout) {
  const { depths } = l;
  return {
    masks: Int32Array.from(l.faults, (d) => d.masks),
    strides: Int32Array.from(l.faults, (d) => d.stride),
    giveUp: Float64Array.from(p.giveUp),
    /** what opening from one depth to another costs, by from * depths + to */
    openings: Float64Array.from({ length: depths * depths }, (_, i) =>
      opening(p, Math.floor(i / depths), i % depths),
    ),
    curables: l.faults.map((_, f) => curable(p, l, f)),
  };
}

/** The value of each state by its index, NaN where none was needed, and how many were looked into. */
export type Values = { value: Float64Array; looked: number };
