import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { guideOf, type MendGuide } from "../profile/guide";
import { profileSchema } from "../profile/profile";
import {
  lineUp,
  minutesLeft,
  type OrderBody,
  type OrderStep,
  pauseBefore,
  stepReaching,
  type Target,
  taskKeys,
} from "./order";
import { add, before, closedUnit, itemsOf, type WorkEvent, type WorkState } from "./work";

/** The line of a work order, on the guides of every model that ships. */

const folder = join(__dirname, "../../../profiles");
const GUIDES = readdirSync(folder).flatMap((file): [string, MendGuide][] => {
  const model = profileSchema.parse(JSON.parse(readFileSync(join(folder, file), "utf8")));
  return model.guide
    ? model.revisions.map((r) => [`${model.name} ${r.id}`, guideOf(model.guide!, r.id)])
    : [];
});
const target = (guide: MendGuide, over: Partial<Target> = {}): Target => ({
  key: 1,
  faultId: "f",
  number: 1,
  what: "change the module",
  slot: guide.steps.findLast((s) => s.reaches.length)!.reaches[0]!,
  route: "module",
  minutes: 12,
  waitMinutes: 0,
  tools: [],
  movesOver: [],
  ...over,
});
const body = (guide: MendGuide, over: Partial<OrderBody> = {}): OrderBody => ({
  targets: [target(guide)],
  cleaningLevel: 0,
  calibrate: [],
  ...over,
});
const keys = (line: readonly OrderStep[], phase?: OrderStep["phase"]) =>
  line.filter((s) => !phase || s.phase === phase).map((s) => s.key);
const follow = (guide: MendGuide, state: WorkState, e: WorkEvent, tasks: string[]): WorkState => {
  const done = add(guide, state, e, tasks);
  if (!done.ok) throw new Error(JSON.stringify(done.problem));
  return done.value;
};

describe.each(GUIDES)("%s", (_name, guide) => {
  const order = body(guide, { calibrate: ["stick.left"] });
  const line = lineUp(guide, order, closedUnit(guide));

  test("runs apart, work, back, calibration, and always ends with a full test", () => {
    const at = (phase: OrderStep["phase"]) =>
      line.map((s, i) => (s.phase === phase ? i : -1)).filter((i) => i >= 0);
    expect(Math.max(...at("apart"))).toBeLessThan(line.findIndex((s) => s.key === "mend:1"));
    expect(line.findIndex((s) => s.key === "mend:1")).toBeLessThan(Math.min(...at("back")));
    expect(line.findIndex((s) => s.key === "calibrate:stick.left")).toBe(line.length - 2);
    expect(line.at(-1)!.key).toBe("gate:closed");
  });

  test("goes back in the reverse of how it comes apart", () => {
    const apart = keys(line, "apart").map((k) => k.slice("apart:".length));
    expect(keys(line, "back").map((k) => k.slice("back:".length))).toEqual([...apart].reverse());
  });

  test("comes apart only as far as the place asks, each step after all that block it", () => {
    const apart = keys(line, "apart").map((k) => k.slice("apart:".length));
    const reach = stepReaching(guide, order.targets[0]!.slot!)!.id;
    expect(new Set(apart)).toEqual(new Set([reach, ...before(guide, reach)]));
    apart.forEach((id, i) => {
      for (const b of before(guide, id)) expect(apart.slice(0, i)).toContain(b);
    });
  });

  test("the test while open stands before the step that drives the last fasteners", () => {
    const gate = line.findIndex((s) => s.key === "gate:open");
    const after = line.slice(gate + 1).filter((s) => s.phase === "back");
    expect(after.filter((s) => s.step!.frees.fasteners.length > 0).map((s) => s.key)).toEqual([
      line[gate + 1]!.key,
    ]);
  });

  test("what is done stays in the line, ticked, and takes its minutes off what is left", () => {
    const first = keys(line, "apart")[0]!.slice("apart:".length);
    const state = follow(guide, closedUnit(guide), { kind: "apart", step: first }, ["mend:1"]);
    const later = lineUp(guide, order, state);
    expect(later.find((s) => s.key === `apart:${first}`)!.done).toBe(true);
    // what came apart first goes back last
    expect(keys(later, "back").at(-1)).toBe(`back:${first}`);
    expect(minutesLeft(later)).toBeLessThan(minutesLeft(line));
    expect(minutesLeft(line)).toBe(line.reduce((sum, s) => sum + s.minutes, 0));
  });

  test("the line keeps its length and its steps from the first to the last, and never asks for one twice", () => {
    let state = closedUnit(guide);
    const tasks = taskKeys(guide, order);
    const all = new Set(keys(line));
    const look = () => {
      const now = lineUp(guide, order, state);
      expect(new Set(keys(now))).toEqual(all);
      expect(keys(now)).toHaveLength(line.length);
      return now;
    };
    const apart = keys(line, "apart").map((k) => k.slice("apart:".length));
    for (const step of apart) {
      state = follow(guide, state, { kind: "apart", step }, tasks);
      look();
    }
    for (const task of tasks) state = follow(guide, state, { kind: "task", task }, tasks);
    for (const step of [...apart].reverse()) {
      const open = look().filter((s) => !s.done);
      if (open[0]!.key === "gate:open")
        state = follow(
          guide,
          state,
          { kind: "gate", gate: "open", recordingId: null, why: "by hand" },
          tasks,
        );
      expect(look().find((s) => !s.done)!.key).toBe(`back:${step}`);
      for (const item of itemsOf(guide.steps.find((s) => s.id === step)!))
        state = follow(guide, state, { kind: "in", item }, tasks);
      state = follow(guide, state, { kind: "back", step }, tasks);
    }
    expect(look().filter((s) => !s.done && s.phase === "back")).toEqual([]);
  });

  test("the items of a step are those that it frees, each once", () => {
    for (const s of line.filter((x) => x.phase === "apart")) {
      expect(s.items).toEqual(itemsOf(s.step!));
      expect(new Set(s.items).size).toBe(s.items.length);
    }
  });
});

describe("what a step warns of and asks", () => {
  const guide = GUIDES[0]![1];
  const workStep = (over: Partial<Target>) =>
    lineUp(guide, body(guide, { targets: [target(guide, over)] }), closedUnit(guide)).find(
      (s) => s.key === "mend:1",
    )!;

  test("glue is warned of where something is glued, not where something only dries", () => {
    expect(workStep({ waitMinutes: 60, tools: ["two-part glue"] }).hazards).toContain("glue");
    expect(workStep({ what: "Pin and glue the post", waitMinutes: 60 }).hazards).toContain("glue");
    const cleaned = workStep({
      what: "Clean the contact surfaces",
      waitMinutes: 15,
      tools: ["swabs", "contact cleaner"],
    });
    expect(cleaned.hazards).toEqual(["solvent"]);
    expect(workStep({}).hazards).toEqual([]);
  });
  test("what the new part comes without is told where it is moved over", () =>
    expect(workStep({ movesOver: ["cap", "spring"] }).movesOver).toEqual(["cap", "spring"]));
  test("an iron is warned of where the place is soldered", () => {
    const soldered = GUIDES.map(([, g]) => g).find((g) => g.solder.some((j) => j.slots.length))!;
    const slot = soldered.solder.find((j) => j.slots.length)!.slots[0]!;
    const step = lineUp(
      soldered,
      body(soldered, { targets: [target(soldered, { slot, tools: ["soldering iron"] })] }),
      closedUnit(soldered),
    ).find((s) => s.key === "mend:1")!;
    expect(step.hazards).toEqual(expect.arrayContaining(["iron", "fumes"]));
    expect(step.difficulty).toBe(3);
  });
  test("work that is outside opens nothing, and is tested all the same", () => {
    const line = lineUp(guide, body(guide, { targets: [target(guide, { slot: null })] }), closedUnit(guide));
    expect(keys(line, "apart")).toEqual([]);
    expect(keys(line)).toContain("gate:closed");
  });
  test("the test while open is not skipped quietly: it warns that the unit is powered", () => {
    const gate = lineUp(guide, body(guide), closedUnit(guide)).find((s) => s.key === "gate:open")!;
    expect(gate.hazards).toEqual(["powered"]);
  });
});

describe("a pause", () => {
  const step = (key: string, fragility: number, difficulty: number, done = false): OrderStep => ({
    key,
    phase: "apart",
    step: null,
    subject: key,
    does: "",
    movesOver: [],
    minutes: 3,
    difficulty,
    fragility,
    hazards: [],
    tools: [],
    items: [],
    done,
  });
  test("is advised before the most delicate step that is still to come", () =>
    expect(pauseBefore([step("a", 4, 3), step("b", 5, 3), step("c", 1, 1)])).toBe("b"));
  test("and not before one that is done, nor where all are easy", () => {
    expect(pauseBefore([step("a", 4, 3), step("b", 5, 3, true)])).toBe("a");
    expect(pauseBefore([step("a", 3, 3)])).toBeNull();
    expect(pauseBefore([])).toBeNull();
  });
});

test("what is looked at closed comes first, what is looked at inside once it lies open, both before cleaning and mends", () => {
  const [, guide] = GUIDES[0]!;
  const look = (id: string, opens: boolean, answered = false) => ({
    id,
    name: id,
    opens,
    minutes: 2,
    answered,
  });
  const keysWith = (looks: ReturnType<typeof look>[]) =>
    lineUp(guide, body(guide), closedUnit(guide), looks).map((s) => s.key);
  const line = keysWith([look("look.joint", true), look("test.stick.left", false)]);
  expect(line[0]).toBe("look:test.stick.left");
  const at = line.indexOf("look:look.joint");
  expect(line.findLastIndex((k) => k.startsWith("apart:"))).toBe(at - 1);
  expect(line.findIndex((k) => k.startsWith("clean:") || k.startsWith("mend:"))).toBe(at + 1);
  const [first] = lineUp(guide, body(guide), closedUnit(guide), [look("test.stick.left", false, true)]);
  expect(first).toMatchObject({ phase: "look", done: true, minutes: 2 });
});
