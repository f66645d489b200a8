/**
 * A day's work as a scheduling problem. Times are whole minutes from the plan's start. Work needs a person of
 * some skill, perhaps a station, and is not interrupted; a wait (soak, dry, cure, charge) needs nobody. A
 * station that changes from one set-up to another costs its set-up time. Order: the job of one unit, a graph
 * of tasks.
 */
export type Task = {
  id: string;
  order: string;
  title: string;
  kind: "work" | "wait";
  minutes: number;
  skill: number;
  station: string | null;
  /** set-up that the station must stand in (tip, temperature, agent); null when any will do */
  setup: string | null;
  /** tasks of the same order that must have ended */
  after: readonly string[];
};
export type Order = { id: string; title: string; received: number; due: number | null; readyAt: number };
export type Person = {
  id: string;
  name: string;
  skill: number;
  windows: readonly (readonly [from: number, to: number])[];
};
export type PlanStation = { id: string; name: string; setupMinutes: number };
export type Pin = { task: string; person: string; start: number };
export type DayProblem = {
  orders: readonly Order[];
  tasks: readonly Task[];
  people: readonly Person[];
  stations: readonly PlanStation[];
  pins: readonly Pin[];
};

/** The stations of a small shop, with the minutes that another set-up costs: the house's figures. */
export const DAY_STATIONS: PlanStation[] = [
  { id: "cleaning", name: "cleaning", setupMinutes: 4 },
  { id: "iron", name: "iron", setupMinutes: 5 },
  { id: "hot-air", name: "hot-air", setupMinutes: 6 },
  { id: "test", name: "test-bench", setupMinutes: 2 },
];

export type Placed = {
  task: string;
  person: string | null;
  station: string | null;
  start: number;
  end: number;
  setup: number;
  pinned: boolean;
};
export type DayPlan = {
  placed: Placed[];
  /** tasks that nobody here can do, or that fit in no working time */
  impossible: string[];
  makespan: number;
  /** the worst order's minutes after its due time; 0 when all are in time */
  worstLate: number;
  totalLate: number;
};

/** Checks a plan against every rule, from the plan alone; the list is empty when it holds. */
export function faultsOf(p: DayProblem, plan: DayPlan): string[] {
  const faults: string[] = [];
  const task = new Map(p.tasks.map((t) => [t.id, t]));
  const order = new Map(p.orders.map((o) => [o.id, o]));
  const at = new Map(plan.placed.map((x) => [x.task, x]));
  const impossible = new Set(plan.impossible);
  for (const t of p.tasks) if (!at.has(t.id) && !impossible.has(t.id)) faults.push(`${t.id} is not placed`);
  if (at.size !== plan.placed.length) faults.push("a task is placed twice");
  for (const x of plan.placed) {
    const t = task.get(x.task)!;
    if (x.end - x.start !== t.minutes + x.setup) faults.push(`${t.id} takes another time than it needs`);
    if (x.start < Math.max(order.get(t.order)!.readyAt, 0))
      faults.push(`${t.id} starts before its order is there`);
    for (const a of t.after) {
      const before = at.get(a);
      if (!before || before.end > x.start) faults.push(`${t.id} starts before ${a} has ended`);
    }
    if (t.kind === "wait") {
      if (x.person !== null || x.station !== null) faults.push(`${t.id} waits and holds somebody`);
      continue;
    }
    const person = p.people.find((w) => w.id === x.person);
    if (!person || person.skill < t.skill) faults.push(`${t.id} is done by somebody who cannot`);
    if (!person?.windows.some(([from, to]) => from <= x.start && x.end <= to))
      faults.push(`${t.id} is outside working hours`);
    if (x.station !== t.station) faults.push(`${t.id} is at another station`);
  }
  const overlap = (list: Placed[], what: string) => {
    const line = [...list].sort((a, b) => a.start - b.start);
    for (let i = 1; i < line.length; i++)
      if (line[i]!.start < line[i - 1]!.end)
        faults.push(`${what} does ${line[i - 1]!.task} and ${line[i]!.task} at once`);
    return line;
  };
  for (const w of p.people)
    overlap(
      plan.placed.filter((x) => x.person === w.id),
      w.name,
    );
  for (const s of p.stations) {
    let stands: string | null = null;
    for (const x of overlap(
      plan.placed.filter((y) => y.station === s.id),
      s.name,
    )) {
      const t = task.get(x.task)!;
      const needed = t.setup !== null && t.setup !== stands ? s.setupMinutes : 0;
      if (x.setup < needed) faults.push(`${t.id} starts without its set-up`);
      if (t.setup !== null) stands = t.setup;
    }
  }
  return faults;
}
