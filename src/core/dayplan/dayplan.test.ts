import fc from "fast-check";

import { bounds } from "./bound";
import { type DayProblem, faultsOf, type Task } from "./problem";
import { randomDay } from "./random-day";
import { firstCome, planDay } from "./schedule";

const SEARCH = { evaluations: 120, seed: 1 };
const ALL_DAY = [[0, 100_000]] as const;
const task = (id: string, minutes: number, rest: Partial<Task> = {}): Task => ({
  id,
  order: id[0]!,
  title: id,
  kind: "work",
  minutes,
  skill: 1,
  station: null,
  setup: null,
  after: [],
  ...rest,
});
const day = (tasks: Task[], rest: Partial<DayProblem> = {}): DayProblem => ({
  orders: [...new Set(tasks.map((t) => t.order))].map((id, i) => ({
    id,
    title: id,
    received: i,
    readyAt: 0,
    due: null,
  })),
  tasks,
  people: [{ id: "ida", name: "Ida", skill: 4, windows: ALL_DAY }],
  stations: [{ id: "iron", name: "iron", setupMinutes: 5 }],
  pins: [],
  ...rest,
});
const startOf = (p: DayProblem, id: string, plan = planDay(p, SEARCH).plan) =>
  plan.placed.find((x) => x.task === id)!;

test("the soak that lasts longest starts first, and the wait is filled with other work", () => {
  const p = day([
    task("a1", 60),
    task("b1", 5),
    task("b2", 90, { kind: "wait", after: ["b1"] }),
    task("b3", 10, { after: ["b2"] }),
  ]);
  const { plan, firstCome: base, bound } = planDay(p, SEARCH);
  expect(startOf(p, "b1", plan).start).toBe(0);
  expect(plan.makespan).toBe(105);
  expect(bound.makespan).toBe(105);
  // first-come does a1 first: 60 + 5 + 90 + 10
  expect(base.makespan).toBe(165);
});

test("set-ups are shared: two kinds of work cost two set-ups, not four", () => {
  const iron = (id: string, setup: string) => task(id, 10, { station: "iron", setup });
  const p = day([iron("a1", "340"), iron("b1", "360"), iron("c1", "340"), iron("d1", "360")]);
  const { plan, firstCome: base, bound } = planDay(p, SEARCH);
  expect(base.makespan).toBe(60);
  expect(plan.makespan).toBe(50);
  expect(bound.makespan).toBe(50);
});

test("due times are kept when they can be", () => {
  const p = day([task("a1", 60), task("b1", 20)]);
  const due = { ...p, orders: p.orders.map((o) => ({ ...o, due: o.id === "b" ? 20 : 200 })) };
  const { plan, firstCome: base, bound } = planDay(due, SEARCH);
  expect(base.worstLate).toBe(60);
  expect(plan.worstLate).toBe(0);
  expect(bound.worstLate).toBe(0);
  expect(bounds({ ...due, orders: due.orders.map((o) => ({ ...o, due: 30 })) }).worstLate).toBe(50);
});

test("skill, hours and one host at the test bench are kept", () => {
  const p = day(
    [task("a1", 30, { skill: 3 }), task("b1", 30, { station: "iron" }), task("c1", 30, { station: "iron" })],
    {
      people: [
        {
          id: "ida",
          name: "Ida",
          skill: 3,
          windows: [
            [10, 70],
            [100, 400],
          ],
        },
        { id: "bram", name: "Bram", skill: 1, windows: ALL_DAY },
      ],
    },
  );
  const { plan } = planDay(p, SEARCH);
  expect(faultsOf(p, plan)).toEqual([]);
  expect(startOf(p, "a1", plan)).toMatchObject({ person: "ida", start: 10 });
  expect(plan.makespan).toBe(60);
});

test("a pinned task stays with its person and time, and the rest plans round it", () => {
  const tasks = [task("a1", 30), task("b1", 30), task("c1", 30)];
  const p = day(tasks, { pins: [{ task: "c1", person: "ida", start: 15 }] });
  const { plan } = planDay(p, SEARCH);
  expect(startOf(p, "c1", plan)).toMatchObject({ start: 15, end: 45, pinned: true });
  expect(faultsOf(p, plan)).toEqual([]);
  const others = plan.placed.filter((x) => x.task !== "c1");
  expect(others.every((x) => x.end <= 15 || x.start >= 45)).toBe(true);
});

test("a task that nobody can do is named, not dropped", () => {
  const p = day([task("a1", 30, { skill: 4 }), task("a2", 5, { after: ["a1"] })], {
    people: [{ id: "oona", name: "Oona", skill: 2, windows: ALL_DAY }],
  });
  expect(planDay(p, SEARCH).plan.impossible).toEqual(["a1", "a2"]);
});

test("any random day: every rule holds, both figures no worse than first-come's and not below the bound", () => {
  fc.assert(
    fc.property(
      fc.nat(5000),
      fc.integer({ min: 2, max: 25 }),
      fc.integer({ min: 1, max: 4 }),
      (seed, orders, people) => {
        const p = randomDay(seed, orders, people);
        const { plan, firstCome: base, bound } = planDay(p, { evaluations: 40, seed });
        expect(plan.impossible).toEqual([]);
        expect(faultsOf(p, plan)).toEqual([]);
        expect(faultsOf(p, base)).toEqual([]);
        expect(plan.makespan).toBeLessThanOrEqual(base.makespan);
        expect(plan.worstLate).toBeLessThanOrEqual(base.worstLate);
        for (const x of [plan, base]) {
          expect(x.makespan).toBeGreaterThanOrEqual(bound.makespan);
          expect(x.worstLate).toBeGreaterThanOrEqual(bound.worstLate);
        }
      },
    ),
    { numRuns: 60 },
  );
});

test("pins anywhere leave a plan that breaks no rule", () => {
  fc.assert(
    fc.property(fc.nat(500), fc.nat(1000), fc.nat(400), (seed, which, start) => {
      const p = randomDay(seed, 6, 2);
      const works = p.tasks.filter((t) => t.kind === "work" && t.skill <= p.people[0]!.skill);
      const pinned = { ...p, pins: [{ task: works[which % works.length]!.id, person: "p0", start }] };
      const { plan } = planDay(pinned, { evaluations: 20, seed });
      expect(faultsOf(pinned, plan)).toEqual([]);
      const x = plan.placed.find((y) => y.pinned);
      if (x) expect(x).toMatchObject({ person: "p0" });
      if (x) expect(x.start).toBeGreaterThanOrEqual(start);
    }),
    { numRuns: 60 },
  );
});

test("the bound never exceeds the best of every order of starting, on days small enough to try them all", () => {
  const permutations = <T>(list: T[]): T[][] =>
    list.length < 2
      ? [list]
      : list.flatMap((x, i) =>
          permutations([...list.slice(0, i), ...list.slice(i + 1)]).map((r) => [x, ...r]),
        );
  for (let seed = 0; seed < 40; seed++) {
    const p = randomDay(seed, 5, 1 + (seed % 2));
    const short: DayProblem = {
      ...p,
      tasks: p.tasks.map((t) => ({ ...t, minutes: Math.max(1, Math.round(t.minutes / 5)) })),
    };
    const bound = bounds(short);
    const best = permutations(short.orders.map((o) => o.id)).reduce(
      (most, ids) => {
        const plan = firstCome({
          ...short,
          orders: short.orders.map((o) => ({ ...o, received: ids.indexOf(o.id) })),
        });
        return {
          makespan: Math.min(most.makespan, plan.makespan),
          worstLate: Math.min(most.worstLate, plan.worstLate),
        };
      },
      { makespan: Infinity, worstLate: Infinity },
    );
    expect(bound.makespan).toBeLessThanOrEqual(best.makespan);
    expect(bound.worstLate).toBeLessThanOrEqual(best.worstLate);
    expect(bound.makespan).toBeGreaterThan(0);
  }
});

test("the same seed gives the same plan", () => {
  const p = randomDay(3, 12, 2);
  expect(planDay(p, { evaluations: 60, seed: 4 })).toEqual(planDay(p, { evaluations: 60, seed: 4 }));
});

test("a set-up that a task without a due time may have paid is not in the bound of those with one", () => {
  const iron = (id: string) => task(id, 10, { station: "iron", setup: "340" });
  const p = day([iron("a1"), iron("b1")]);
  const due = { ...p, orders: p.orders.map((o) => ({ ...o, due: o.id === "b" ? 0 : null })) };
  expect(bounds(due).worstLate).toBe(10); // not 15: a1 may have come first
  expect(bounds({ ...p, orders: p.orders.map((o) => ({ ...o, due: 0 })) }).worstLate).toBe(25);
});
