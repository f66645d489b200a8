import { readFileSync } from "node:fs";
import { join } from "node:path";

import type { Route } from "../decide/routes";
import { closedUnit, replay } from "../mend/work";
import { guideOf, type MendGuide } from "../profile/guide";
import { profileSchema } from "../profile/profile";
import { NEXT_ACTIONS } from "../record/standing";
import { type DayTask, dayTasks, type DayUnit } from "./tasks";

const profile = profileSchema.parse(
  JSON.parse(readFileSync(join(__dirname, "../../../profiles/dunlin.json"), "utf8")) as unknown,
);
const guide: MendGuide = guideOf(profile.guide!, null);
const unit = (change: Partial<DayUnit>): DayUnit => ({
  tag: "B-1",
  host: "dunlin",
  nextAction: "prove",
  waits: [],
  order: null,
  route: null,
  slots: [],
  ...change,
});
const codes = (tasks: readonly DayTask[]) => tasks.map((t) => t.job.code);
const of = (tasks: readonly DayTask[], key: string): DayTask => tasks.find((t) => t.id === `B-1 ${key}`)!;
const body = { targets: [], cleaningLevel: 0, calibrate: [] };

test("whatever comes next has its tasks, one after the other; what waits or is closed asks for none", () => {
  for (const nextAction of NEXT_ACTIONS) {
    const tasks = dayTasks(unit({ nextAction }));
    expect([nextAction, tasks.length > 0]).toEqual([
      nextAction,
      !["quarantine", "closed", "wait"].includes(nextAction),
    ]);
    tasks.forEach((t, i) => expect(t.after).toEqual(i === 0 ? [] : [tasks[i - 1]!.id]));
    for (const t of tasks)
      expect(t).toMatchObject({ order: "B-1", kind: "work", minutes: expect.any(Number) });
    expect(new Set(tasks.map((t) => t.id)).size).toBe(tasks.length);
  }
  expect(dayTasks(unit({ nextAction: "prove" }))).toMatchObject([
    { job: { code: "full-test" }, minutes: 9, station: "test", setup: "dunlin" },
    { job: { code: "functions-and-release" }, minutes: 8, station: null },
  ]);
});

test("what runs already comes first, and ends when it ends", () => {
  const [wait, next] = dayTasks(
    unit({ nextAction: "decide", waits: [{ id: "w", what: "Soak", endsIn: 34.4 }] }),
  );
  expect(wait).toMatchObject({
    kind: "wait",
    minutes: 34,
    job: { code: "waiting", what: "Soak" },
    after: [],
  });
  expect(next).toMatchObject({ job: { code: "decide" }, after: [wait!.id] });
  expect(dayTasks(unit({ waits: [{ id: "w", what: "Soak", endsIn: 0.2 }] }))[0]!.minutes).toBe(1);
});

test("a decided mend takes its route's minutes, and as long again as its deepest part lies", () => {
  const slots = profile.slots!;
  const part = slots.find((s) => s.stripMinutes > 0)!;
  const deepest = Math.max(...slots.filter((s) => s.kind === part.kind).map((s) => s.stripMinutes));
  const route = {
    name: "New part",
    minutes: 11,
    waitMinutes: 30,
    skill: 3,
    tools: ["fine iron"],
    opens: true,
    part: { kind: part.kind, make: "original" },
  } as Route;
  const tasks = dayTasks(unit({ nextAction: "mend", route, slots }));
  expect(codes(tasks)).toEqual(["mend", "cure", "full-test"]);
  expect(tasks[0]).toMatchObject({ minutes: 11 + deepest, skill: 3, station: "iron" });
  expect(tasks[1]).toMatchObject({ kind: "wait", minutes: 30, after: ["B-1 mend"] });
  expect(tasks[2]!.after).toEqual(["B-1 mend wait"]);
  expect(dayTasks(unit({ nextAction: "mend", route: { ...route, opens: false }, slots }))[0]!.minutes).toBe(
    11,
  );
  // nobody said how: it is planned all the same
  expect(dayTasks(unit({ nextAction: "mend" }))[0]).toMatchObject({
    job: { code: "mend", route: null },
    minutes: 15,
    skill: 2,
  });
});

describe("a work order", () => {
  const target = {
    key: 1,
    faultId: null,
    number: null,
    what: "New switch",
    slot: guide.steps.findLast((s) => s.reaches.length > 0)!.reaches[0]!,
    route: null,
    minutes: 7,
    waitMinutes: 20,
    tools: ["hot air"],
    movesOver: [],
  };
  const tasksOf = (order: Partial<NonNullable<DayUnit["order"]>>, minutes = (m: number) => m) =>
    dayTasks(
      unit({
        nextAction: "mend",
        order: {
          guide,
          body: { ...body, targets: [target] },
          state: closedUnit(guide),
          minutesOf: (s) => minutes(s.minutes),
          ...order,
        },
      }),
    );

  test("opens once, mends with its cure, closes after all of it, and is proven", () => {
    const tasks = tasksOf({});
    expect(of(tasks, "mend:1")).toMatchObject({
      station: "hot-air",
      setup: expect.any(String),
      skill: 2,
      after: ["B-1 open"],
    });
    expect(of(tasks, "mend:1 wait")).toMatchObject({ kind: "wait", minutes: 20, after: ["B-1 mend:1"] });
    expect([...of(tasks, "close").after].sort()).toEqual(["B-1 mend:1 wait", "B-1 open"]);
    expect(of(tasks, "prove").after).toEqual(["B-1 close"]);
    expect(codes(tasks)).not.toContain("mend"); // what the next action says is in the order
  });

  test("takes the minutes that the steps take here, and waits for what runs", () => {
    const [usual, slow] = [tasksOf({}), tasksOf({}, (m) => 2 * m)].map((t) => of(t, "open").minutes);
    expect(slow!).toBeGreaterThan(usual!);
    const waits = [{ id: "w", what: "Dry", endsIn: 50 }];
    const order = { guide, body, state: closedUnit(guide), minutesOf: () => 1 };
    const tasks = dayTasks(unit({ order, waits }));
    expect(of(tasks, tasks.some((t) => t.id === "B-1 close") ? "close" : "prove").after).toContain(
      "B-1 wait w",
    );
  });

  test("what is apart already is not opened again", () => {
    const before = of(tasksOf({}), "open");
    const free = guide.steps.filter((s) =>
      replay(guide, [{ kind: "apart", step: s.id }]).apart.includes(s.id),
    );
    const left = free.map(
      (s) => of(tasksOf({ state: replay(guide, [{ kind: "apart", step: s.id }]) }), "open").minutes,
    );
    expect(left.length).toBeGreaterThan(0);
    expect(Math.min(...left)).toBeLessThan(before.minutes); // a step that it needs is behind it
  });

  test("a cleaning dries before the unit is closed", () => {
    const cleaned = tasksOf({ body: { ...body, cleaningLevel: 4 } });
    const dry = cleaned.filter((t) => t.job.code === "soak");
    expect(dry.length).toBeGreaterThan(0);
    for (const t of dry) expect(of(cleaned, "close").after).toContain(t.id);
  });
});
