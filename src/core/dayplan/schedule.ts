import { seeded } from "../math/random";
import { bounds } from "./bound";
import type { DayPlan, DayProblem, Placed } from "./problem";

/**
 * Method: a parallel schedule-generation scheme (Kolisch 1996) places, at each moment, the task of highest
 * priority that can start, for each free person; priorities start from rules (longest tail, earliest due,
 * both) and are bettered by a seeded local search over one key an order and a task. First-come is the same
 * scheme with the orders' arrival as priority, and always a candidate, so that the answer is never worse in
 * either figure.
 */

type Compiled = {
  n: number;
  minutes: Int32Array;
  isWait: Uint8Array;
  skill: Int32Array;
  station: Int32Array;
  setup: Int32Array;
  order: Int32Array;
  after: number[][];
  next: number[][];
  ready: Int32Array;
  /** longest way from the task's end to its order's end */
  tail: Int32Array;
  due: Float64Array;
  received: Float64Array;
  pinAt: Map<number, { person: number; start: number }>;
  /** a wait begins right after it */
  opensWait: Uint8Array;
};

function compile(p: DayProblem): Compiled {
  const n = p.tasks.length;
  const index = new Map(p.tasks.map((t, i) => [t.id, i]));
  const orders = new Map(p.orders.map((o, i) => [o.id, i]));
  const stations = new Map(p.stations.map((s, i) => [s.id, i]));
  const setups = new Map<string, number>();
  const setupId = (s: string | null) =>
    s === null ? -1 : (setups.get(s) ?? (setups.set(s, setups.size), setups.size - 1));
  const after = p.tasks.map((t) => t.after.flatMap((a) => index.get(a) ?? []));
  const next: number[][] = p.tasks.map(() => []);
  after.forEach((list, i) => list.forEach((a) => next[a]!.push(i)));
  const minutes = Int32Array.from(p.tasks, (t) => t.minutes);
  const tail = new Int32Array(n).fill(-1);
  const tailOf = (i: number): number => {
    if (tail[i]! < 0) tail[i] = next[i]!.reduce((most, k) => Math.max(most, minutes[k]! + tailOf(k)), 0);
    return tail[i]!;
  };
  for (let i = 0; i < n; i++) tailOf(i);
  const order = Int32Array.from(p.tasks, (t) => orders.get(t.order)!);
  return {
    n,
    minutes,
    isWait: Uint8Array.from(p.tasks, (t) => (t.kind === "wait" ? 1 : 0)),
    skill: Int32Array.from(p.tasks, (t) => t.skill),
    station: Int32Array.from(p.tasks, (t) => (t.station === null ? -1 : (stations.get(t.station) ?? -1))),
    setup: Int32Array.from(p.tasks, (t) => setupId(t.setup)),
    order,
    after,
    next,
    ready: Int32Array.from(p.orders, (o) => Math.max(0, o.readyAt)),
    tail,
    due: Float64Array.from(p.orders, (o) => o.due ?? Infinity),
    received: Float64Array.from(p.orders, (o) => o.received),
    pinAt: new Map(
      p.pins.flatMap((x) => {
        const t = index.get(x.task);
        const person = p.people.findIndex((w) => w.id === x.person);
        return t === undefined || person < 0 ? [] : [[t, { person, start: Math.max(0, x.start) }] as const];
      }),
    ),
    opensWait: Uint8Array.from(p.tasks, (_, i) =>
      next[i]!.some((k) => p.tasks[k]!.kind === "wait") ? 1 : 0,
    ),
  };
}

type Keys = { order: Float64Array; task: Float64Array; setupBonus: number };

/** A schedule while it is made: who and what is free from when, and what may begin. */
class Placing {
  private readonly left: Int32Array;
  private readonly readyAt: Int32Array;
  private readonly startOf: Int32Array;
  private readonly endOf: Int32Array;
  private readonly by: Int32Array;
  private readonly setupOf: Int32Array;
  private readonly freeAt: Int32Array;
  private readonly stationFree: Int32Array;
  /** the setup that each station stands in, -1 for none */
  private readonly stands: Int32Array;
  private readonly events = new Set<number>([0]);
  private readonly open: number[] = [];
  /** the least skilled first: the others are wanted for what only they can do */
  private readonly people: number[];
  private makespan = 0;

  constructor(
    private readonly p: DayProblem,
    private readonly c: Compiled,
    private readonly keys: Keys,
  ) {
    this.left = Int32Array.from(c.after, (a) => a.length);
    this.readyAt = Int32Array.from(c.order, (o) => c.ready[o]!);
    this.startOf = new Int32Array(c.n).fill(-1);
    this.endOf = new Int32Array(c.n).fill(-1);
    this.by = new Int32Array(c.n).fill(-1);
    this.setupOf = new Int32Array(c.n);
    this.freeAt = new Int32Array(p.people.length);
    this.stationFree = new Int32Array(p.stations.length);
    this.stands = new Int32Array(p.stations.length).fill(-1);
    this.people = p.people.map((_, i) => i).sort((x, y) => p.people[x]!.skill - p.people[y]!.skill);
    for (const w of p.people) for (const [from] of w.windows) this.events.add(Math.max(0, from));
    for (const { start } of c.pinAt.values()) this.events.add(start);
    for (let i = 0; i < c.n; i++) if (this.left[i] === 0) this.arrive(i);
  }

  private end(i: number, t: number): void {
    this.endOf[i] = t;
    this.makespan = Math.max(this.makespan, t);
    for (const k of this.c.next[i]!) {
      this.readyAt[k] = Math.max(this.readyAt[k]!, t);
      if (--this.left[k]! === 0) this.arrive(k);
    }
  }

  private arrive(i: number): void {
    const ready = this.readyAt[i]!;
    if (this.c.isWait[i]) {
      this.startOf[i] = ready;
      this.end(i, ready + this.c.minutes[i]!);
      return;
    }
    this.open.push(i);
    this.events.add(ready);
  }

  private lengthAt(i: number): number {
    const { c, p } = this;
    const s = c.station[i]!;
    const needs = s >= 0 && c.setup[i]! >= 0 && this.stands[s] !== c.setup[i];
    return c.minutes[i]! + (needs ? p.stations[s]!.setupMinutes : 0);
  }

  /** Whether a pin of another task holds this person or this task's station in that time. */
  private held(i: number, person: number, t: number, to: number): boolean {
    const { c } = this;
    for (const [k, pin] of c.pinAt) {
      if (k === i || this.startOf[k]! >= 0) continue;
      const meets = pin.start < to && t < pin.start + c.minutes[k]!;
      if (meets && (pin.person === person || (c.station[k]! >= 0 && c.station[k] === c.station[i])))
        return true;
    }
    return false;
  }

  private windowEnd(person: number, t: number): number {
    for (const [from, to] of this.p.people[person]!.windows) if (from <= t && t < to) return to;
    return -1;
  }

  /** Whether one can begin a task now and end it before they leave. */
  private fits(i: number, person: number, t: number, until: number): boolean {
    const { c } = this;
    if (this.readyAt[i]! > t || c.skill[i]! > this.p.people[person]!.skill) return false;
    const s = c.station[i]!;
    if (s >= 0 && this.stationFree[s]! > t) return false;
    const pin = c.pinAt.get(i);
    if (pin && (pin.person !== person || t < pin.start)) return false;
    const to = t + this.lengthAt(i);
    return to <= until && !(c.pinAt.size && this.held(i, person, t, to));
  }

  private keyOf(i: number): number {
    const { c, keys } = this;
    const s = c.station[i]!;
    const stands = s >= 0 && c.setup[i]! >= 0 && this.stands[s] === c.setup[i];
    const key = keys.order[c.order[i]!]! + keys.task[i]! + (stands ? keys.setupBonus : 0);
    return c.pinAt.has(i) ? key + PINNED_FIRST : key;
  }

  /** The open task of the highest key that one can begin now, as its place in the list; -1 for none. */
  private bestFor(person: number, t: number): number {
    const until = this.freeAt[person]! > t ? -1 : this.windowEnd(person, t);
    if (until < 0) return -1;
    let best = -1;
    let bestKey = -Infinity;
    for (let q = 0; q < this.open.length; q++) {
      const i = this.open[q]!;
      if (!this.fits(i, person, t, until)) continue;
      const key = this.keyOf(i);
      if (key > bestKey) {
        bestKey = key;
        best = q;
      }
    }
    return best;
  }

  private begin(q: number, person: number, t: number): void {
    const { c, open } = this;
    const i = open[q]!;
    open[q] = open[open.length - 1]!;
    open.pop();
    const length = this.lengthAt(i);
    this.startOf[i] = t;
    this.by[i] = person;
    this.setupOf[i] = length - c.minutes[i]!;
    this.freeAt[person] = t + length;
    const s = c.station[i]!;
    if (s >= 0) {
      this.stationFree[s] = t + length;
      if (c.setup[i]! >= 0) this.stands[s] = c.setup[i]!;
    }
    this.events.add(t + length);
    this.end(i, t + length);
  }

  run(): void {
    while (this.open.length && this.events.size) {
      let t = Infinity;
      for (const e of this.events) if (e < t) t = e;
      this.events.delete(t);
      for (let placedOne = true; placedOne;) {
        placedOne = false;
        for (const person of this.people) {
          const best = this.bestFor(person, t);
          if (best < 0) continue;
          this.begin(best, person, t);
          placedOne = true;
        }
      }
    }
  }

  plan(): DayPlan {
    const { p, c, by, endOf } = this;
    const placed: Placed[] = [];
    const impossible: string[] = [];
    const orderEnd = new Float64Array(p.orders.length);
    p.tasks.forEach((task, i) => {
      if (endOf[i]! < 0) {
        impossible.push(task.id);
        return;
      }
      orderEnd[c.order[i]!] = Math.max(orderEnd[c.order[i]!]!, endOf[i]!);
      placed.push({
        task: task.id,
        person: by[i]! < 0 ? null : p.people[by[i]!]!.id,
        station: by[i]! < 0 ? null : task.station,
        start: this.startOf[i]!,
        end: endOf[i]!,
        setup: this.setupOf[i]!,
        pinned: c.pinAt.has(i),
      });
    });
    const late = Array.from(orderEnd, (e, o) => Math.max(0, e - c.due[o]!));
    return {
      placed,
      impossible,
      makespan: this.makespan,
      worstLate: Math.max(0, ...late),
      totalLate: late.reduce((sum, x) => sum + x, 0),
    };
  }
}

/** What a pin says goes before every priority. */
const PINNED_FIRST = 1e9;

/** One schedule from priorities; higher goes first. */
function place(p: DayProblem, c: Compiled, keys: Keys): DayPlan {
  const placing = new Placing(p, c, keys);
  placing.run();
  return placing.plan();
}

const zero = (n: number) => new Float64Array(n);
const firstComeKeys = (c: Compiled): Keys => ({
  // the earliest received order, and in it the earliest step
  order: Float64Array.from(c.received, (r) => -r * 1000),
  task: Float64Array.from({ length: c.n }, (_, i) => -i / c.n),
  setupBonus: 0,
});

/** Each free person takes the earliest-received step that can start. */
export const firstCome = (p: DayProblem): DayPlan => {
  const c = compile(p);
  return place(p, c, firstComeKeys(c));
};

export type Search = { evaluations: number; seed: number; stop?: () => boolean };
export type Planned = {
  plan: DayPlan;
  firstCome: DayPlan;
  bound: { makespan: number; worstLate: number };
  evaluations: number;
};

/** Plans the work. The answer is never worse than first-come in makespan nor in the worst lateness. */
export function planDay(p: DayProblem, { evaluations, seed, stop = () => false }: Search): Planned {
  const c = compile(p);
  const chance = seeded(seed);
  const base = place(p, c, firstComeKeys(c));
  const bound = bounds(p);
  const scale = Math.max(1, bound.makespan);
  const cost = (x: DayPlan): number =>
    x.impossible.length * 1e6 +
    Math.max(0, x.makespan - bound.makespan) / scale +
    Math.max(0, x.worstLate - bound.worstLate) / scale +
    (0.02 * x.totalLate) / (scale * Math.max(1, p.orders.length)) +
    (x.makespan > base.makespan || x.worstLate > base.worstLate ? 1e3 + x.makespan + x.worstLate : 0);
  const tails = Float64Array.from({ length: c.n }, (_, i) => c.tail[i]! + c.minutes[i]!);
  const dues = (weight: number) =>
    Float64Array.from(c.due, (d) => (Number.isFinite(d) ? -d * weight : -1e5 * weight));
  const rules: Keys[] = [
    { order: zero(p.orders.length), task: tails, setupBonus: 0 },
    { order: zero(p.orders.length), task: tails, setupBonus: 60 },
    { order: dues(1), task: tails, setupBonus: 0 },
    { order: dues(1), task: tails, setupBonus: 30 },
    { order: dues(0.3), task: tails, setupBonus: 20 },
    { order: dues(3), task: tails, setupBonus: 10 },
    // what opens a wait goes first, then the longest tail
    { order: dues(0.3), task: tails.map((v, i) => v + (c.opensWait[i] ? 200 : 0)), setupBonus: 20 },
  ];
  let best = base;
  let bestKeys = firstComeKeys(c);
  let bestCost = cost(base);
  let count = 1;
  const consider = (keys: Keys): boolean => {
    const plan = place(p, c, keys);
    count += 1;
    const value = cost(plan);
    if (value > bestCost) return false;
    if (value < bestCost || count < 3) {
      bestCost = value;
      best = plan;
    }
    bestKeys = keys;
    return true;
  };
  for (const keys of rules) consider(keys);
  const spread = () => {
    let lo = Infinity;
    let hi = -Infinity;
    for (let i = 0; i < c.n; i++) {
      const k = bestKeys.order[c.order[i]!]! + bestKeys.task[i]!;
      if (k > -1e4) lo = Math.min(lo, k);
      hi = Math.max(hi, k);
    }
    return Math.max(10, Math.min(2000, hi - lo));
  };
  while (count < evaluations && bestCost > 1e-9 && !stop()) {
    const width = spread() * (chance.happens(0.3) ? 0.6 : 0.15);
    const keys: Keys = {
      order: Float64Array.from(bestKeys.order),
      task: Float64Array.from(bestKeys.task),
      setupBonus: chance.happens(0.2) ? chance.between(0, 80) : bestKeys.setupBonus,
    };
    const moves = 1 + Math.floor(chance.next() * 4);
    for (let m = 0; m < moves; m++) {
      if (chance.happens(0.5) && p.orders.length)
        keys.order[Math.floor(chance.next() * p.orders.length)]! += width * chance.normal();
      else if (c.n) keys.task[Math.floor(chance.next() * c.n)]! += width * chance.normal();
    }
    consider(keys);
  }
  return { plan: best, firstCome: base, bound, evaluations: count };
}
