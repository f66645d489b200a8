import type { DayProblem, Person, Task } from "./problem";

/**
 * Lower bounds on the time to the last end, and on the worst lateness. Each is the largest of: an order alone
 * with all qualified people's hours (critical path); and, for tasks that cannot start before r and must leave
 * q minutes behind them, the earliest time by which qualified people (or a station) can have worked them off,
 * taken as divisible. Set-ups count once for each kind.
 */

type Window = readonly [number, number];

/** The minutes of some people's hours, as steps: how many are there from when on. */
function capacity(people: readonly Person[]): { at: number; count: number }[] {
  const change = new Map<number, number>();
  for (const w of people)
    for (const [from, to] of w.windows) {
      change.set(from, (change.get(from) ?? 0) + 1);
      change.set(to, (change.get(to) ?? 0) - 1);
    }
  let count = 0;
  return [...change].sort((a, b) => a[0] - b[0]).map(([at, d]) => ({ at, count: (count += d) }));
}

/**
 * When `work` minutes can be done from `from` on by everybody that a capacity counts; at most `most` work at
 * once.
 */
function workedOff(
  steps: readonly { at: number; count: number }[],
  from: number,
  work: number,
  most: number,
): number {
  let left = work;
  if (left <= 0) return from;
  for (let i = 0; i < steps.length; i++) {
    const begin = Math.max(from, steps[i]!.at);
    const until = steps[i + 1]?.at ?? Infinity;
    const speed = Math.min(most, steps[i]!.count);
    if (until <= begin || speed <= 0) continue;
    const done = (until - begin) * speed;
    if (done >= left) return begin + left / speed;
    left -= done;
  }
  return Infinity;
}

const fits = (windows: readonly Window[], from: number, minutes: number): number => {
  let best = Infinity;
  for (const [a, b] of windows) {
    const start = Math.max(a, from);
    if (start + minutes <= b) best = Math.min(best, start);
  }
  return best;
};

type Timed = { task: Task; head: number; tail: number; due: number | null };

/**
 * Largest of the bounds on (end - due) over all tasks, with each order's due time given; makespan is the case
 * of due 0.
 */
function bound(p: DayProblem, timed: readonly Timed[], dueOf: (t: Timed) => number | null): number {
  let most = -Infinity;
  const usable = timed.filter((t) => dueOf(t) !== null && Number.isFinite(t.head));
  for (const t of usable) most = Math.max(most, t.head + t.task.minutes + t.tail - dueOf(t)!);
  const works = usable.filter((t) => t.task.kind === "work");
  // a task without a due time may have paid a set-up as well
  const everyWork = timed.filter((t) => t.task.kind === "work");
  const check = (
    list: Timed[],
    people: readonly Person[],
    atOnce: number,
    setupsOf: (l: Timed[]) => number,
  ) => {
    const steps = capacity(people);
    const heads = some([...new Set(list.map((t) => t.head))].sort((a, b) => a - b));
    // a task must have ended by its order's due time less what comes after it
    const latest = some([...new Set(list.map((t) => dueOf(t)! - t.tail))].sort((a, b) => a - b));
    for (const r of heads) {
      const from = list.filter((t) => t.head >= r);
      for (const d of latest) {
        const set = from.filter((t) => dueOf(t)! - t.tail <= d);
        if (set.length === 0) continue;
        const work = set.reduce((sum, t) => sum + t.task.minutes, 0) + setupsOf(set);
        const off = workedOff(steps, r, work, atOnce);
        if (Number.isFinite(off)) most = Math.max(most, off - d);
      }
    }
  };
  const setups = (set: readonly Timed[], only: string | null): number => {
    const kinds = new Set<string>();
    let sum = 0;
    for (const t of set) {
      if (t.task.station === null || t.task.setup === null || (only !== null && t.task.station !== only))
        continue;
      const kind = `${t.task.station} ${t.task.setup}`;
      if (kinds.has(kind)) continue;
      kinds.add(kind);
      sum += p.stations.find((s) => s.id === t.task.station)?.setupMinutes ?? 0;
    }
    return sum;
  };
  for (const skill of new Set(works.map((t) => t.task.skill)))
    check(
      works.filter((t) => t.task.skill >= skill),
      p.people.filter((w) => w.skill >= skill),
      Infinity,
      // a task of less skill in the same set-up may have paid it: only whole skill classes count theirs
      skill === Math.min(...works.map((t) => t.task.skill))
        ? (l) => setupsInAll(l, everyWork, setups)
        : () => 0,
    );
  for (const s of p.stations) {
    const here = works.filter((t) => t.task.station === s.id);
    if (here.length === 0) continue;
    const least = Math.min(...here.map((t) => t.task.skill));
    check(
      here,
      p.people.filter((w) => w.skill >= least),
      1,
      (l) => setupsInAll(l, everyWork, (set) => setups(set, s.id)),
    );
  }
  return most;
}

/** A set-up that a task outside the set may have paid does not count for the set. */
function setupsInAll(
  set: readonly Timed[],
  all: readonly Timed[],
  setups: (l: readonly Timed[], only: string | null) => number,
): number {
  const inside = new Set(set);
  const outside = new Set(all.filter((t) => !inside.has(t)).map((t) => `${t.task.station} ${t.task.setup}`));
  return setups(
    set.filter((t) => !outside.has(`${t.task.station} ${t.task.setup}`)),
    null,
  );
}

const MOST_STEPS = 24;
/** A sample of the thresholds; the bound stays valid for any of them. */
const some = (values: readonly number[]): number[] => {
  const step = Math.ceil(values.length / MOST_STEPS);
  return values.filter((_, i) => i % step === 0 || i === values.length - 1);
};

/** Bounds for makespan and worst lateness in minutes, rounded up to whole ones: all times are whole. */
export function bounds(p: DayProblem): { makespan: number; worstLate: number } {
  const byId = new Map(p.tasks.map((t) => [t.id, t]));
  const order = new Map(p.orders.map((o) => [o.id, o]));
  const head = new Map<string, number>();
  const headOf = (t: Task): number => {
    const known = head.get(t.id);
    if (known !== undefined) return known;
    let from = Math.max(0, order.get(t.order)!.readyAt);
    for (const a of t.after) {
      const before = byId.get(a);
      if (before) from = Math.max(from, headOf(before) + before.minutes);
    }
    // the first hour at which somebody who can is there for the whole task
    const start =
      t.kind === "wait"
        ? from
        : Math.min(
            ...p.people.filter((w) => w.skill >= t.skill).map((w) => fits(w.windows, from, t.minutes)),
            Infinity,
          );
    head.set(t.id, start);
    return start;
  };
  const next = new Map<string, Task[]>();
  for (const t of p.tasks) for (const a of t.after) next.set(a, [...(next.get(a) ?? []), t]);
  const tail = new Map<string, number>();
  const tailOf = (t: Task): number => {
    const known = tail.get(t.id);
    if (known !== undefined) return known;
    const value = (next.get(t.id) ?? []).reduce((most, k) => Math.max(most, k.minutes + tailOf(k)), 0);
    tail.set(t.id, value);
    return value;
  };
  const timed = p.tasks.map((t): Timed => ({
    task: t,
    head: headOf(t),
    tail: tailOf(t),
    due: order.get(t.order)!.due,
  }));
  const up = (v: number) => (Number.isFinite(v) ? Math.max(0, Math.ceil(v - 1e-9)) : 0);
  return { makespan: up(bound(p, timed, () => 0)), worstLate: up(bound(p, timed, (t) => t.due)) };
}
