import { readFileSync } from "node:fs";
import { join } from "node:path";

import { profileSchema } from "../profile/profile";
import { AGENTS, cleaningPlan, mayUse, RULES, suggestedLevel } from "./cleaning";
import { learnMinutes } from "./minutes";
import { heatCycles, holesNotReady, removalMethods, isTooHot } from "./solder";
import { HOUSE_TOOLS, toolId, toolsFor } from "./tools";

const dunlin = profileSchema.parse(
  JSON.parse(readFileSync(join(__dirname, "../../../profiles/dunlin.json"), "utf8")),
).guide!;
const modules = dunlin.solder.find((j) => j.id === "modules")!;

describe("cleaning", () => {
  test("only allowed agents are ever named, for every level and material", () => {
    for (const level of [0, 1, 2, 3, 4])
      for (const job of cleaningPlan(dunlin, level)) {
        expect(mayUse(job.material, job.agent)).toBe(true);
        expect(AGENTS[job.agent]).toBeDefined();
        expect(job.never).not.toBe("");
      }
    expect(mayUse("soft-skin", "alcohol-70")).toBe(false);
    expect(RULES.board.allowed.some((a) => AGENTS[a].waters)).toBe(false);
  });
  test("what soaks longest comes first", () => {
    const waits = cleaningPlan(dunlin, 4).map((j) => j.soakMinutes + j.dryMinutes);
    expect(waits).toEqual([...waits].sort((a, b) => b - a));
    expect(waits[0]).toBe(75);
  });
  test("a sensor is blown out before liquid, rubber goes with its board contacts", () => {
    const plan = cleaningPlan(dunlin, 3);
    expect(plan.find((j) => j.material === "sensor")!.also).toContain("blow-out");
    expect(plan.find((j) => j.material === "rubber")!.also).toContain("board-under");
  });
  test("intake suggests the level and says why", () => {
    expect(suggestedLevel({ smell: "none", grime: "none", hygiene: "none", liquid: false }, false)).toEqual({
      level: 1,
      why: ["clean"],
    });
    expect(
      suggestedLevel({ smell: "slight", grime: "none", hygiene: "none", liquid: false }, true),
    ).toMatchObject({
      level: 2,
      why: ["contact-fault", "slight"],
    });
    expect(
      suggestedLevel({ smell: "strong", grime: "none", hygiene: "none", liquid: true }, false).level,
    ).toBe(4);
    expect(suggestedLevel({ smell: "none", grime: "none", hygiene: "strong", liquid: false }, false)).toEqual(
      {
        level: 3,
        why: ["hygiene"],
      },
    );
  });
});

describe("solder work", () => {
  test("hotter than the board bears is refused unless the exception is written down", () => {
    expect(isTooHot(modules, modules.ceiling, "")).toBe(false);
    expect(isTooHot(modules, modules.ceiling + 5, " ")).toBe(true);
    expect(isTooHot(modules, modules.ceiling + 5, "ground plane, preheated from beneath")).toBe(false);
  });
  test("heat cycles are counted by chip, once an operation", () => {
    const entry = { job: "modules", celsius: 350, chips: ["main chip", "main chip"] };
    expect(heatCycles([entry, entry, { ...entry, chips: ["main chip", "radio chip"] }, entry])).toEqual([
      { chip: "main chip", cycles: 4, state: "beyond" },
      { chip: "radio chip", cycles: 1, state: "good" },
    ]);
  });
  test("a hole is ready when the gauge passes and its ring holds; the last check counts", () => {
    const all = Array.from({ length: modules.holes }, (_, i) => ({
      hole: i + 1,
      gaugeMm: 0.9,
      ringIntact: true,
    }));
    expect(holesNotReady(modules, all)).toEqual([]);
    expect(holesNotReady(modules, all.slice(1))).toEqual([{ hole: 1, why: "not-checked" }]);
    expect(holesNotReady(modules, [...all, { hole: 3, gaugeMm: 0.6, ringIntact: true }])).toEqual([
      { hole: 3, why: "solder-in-it" },
    ]);
    expect(holesNotReady(modules, [...all, { hole: 4, gaugeMm: 0.9, ringIntact: false }])).toEqual([
      { hole: 4, why: "ring-torn" },
    ]);
  });
  test("only methods whose tool is there, quickest first", () => {
    const methods = removalMethods(modules, new Set(["hand-pump", "wick", "iron-fine"]));
    expect(methods.map((m) => m.id)).toEqual(["break", "hand-pump", "wick"]);
    expect(removalMethods(modules, new Set())).toEqual([]);
  });
});

describe("tools", () => {
  const step = dunlin.steps.find((s) => s.id === "shell.fasteners")!;
  test("bits come from the fasteners, long shafts from deep wells", () => {
    const tools = toolsFor(dunlin, [step], [], new Set(HOUSE_TOOLS));
    expect(tools.map((t) => t.id).sort()).toEqual(["bit-cross-small-0", "driver-magnetic", "shaft-long"]);
    expect(tools.every((t) => t.state === "owned")).toBe(true);
  });
  test("a missing tool shows its stand-in with the risk, or that it is missing", () => {
    const tools = toolsFor(dunlin, [step], [{ tool: "fine iron", for: "module" }], new Set(["driver-plain"]));
    expect(tools.find((t) => t.id === "driver-magnetic")).toMatchObject({
      state: "stand-in",
      standIn: { id: "driver-plain" },
    });
    expect(tools.find((t) => t.id === toolId("fine iron"))).toMatchObject({
      state: "missing",
      steps: ["module"],
    });
    expect(tools[0]!.state).toBe("missing");
  });
});

describe("minutes learn from the log", () => {
  const times = [6, 5, 4, 4].map((minutes, i) => ({
    step: "halves",
    person: i < 2 ? "ida" : "bram",
    minutes,
  }));
  test("without a log the guide's figure stands", () =>
    expect(learnMinutes(3, [], "ida")).toMatchObject({ minutes: 3, cases: 0, first: null, later: null }));
  test("the shop's mean moves from the stated figure, a person's own from the shop's", () => {
    const shop = learnMinutes(3, times, null);
    expect(shop.minutes).toBeCloseTo((3 * 3 + 19) / 7);
    const bram = learnMinutes(3, times, "bram");
    expect(bram.minutes).toBeCloseTo((shop.minutes * 3 + 8) / 5);
    expect(bram.mine).toBe(2);
  });
  test("first time against later", () => {
    const r = learnMinutes(3, times, null);
    expect(r.first).toBe(5); // 6 and 4
    expect(r.later).toBe(4.5); // 5 and 4
  });
  test("who knew the model before these times has no first among them", () => {
    const r = learnMinutes(3, times, null, ["ida"]);
    expect(r.first).toBe(4); // bram's alone
    expect(r.later).toBe(5);
  });
  test("a walk away from the bench does not count", () =>
    expect(learnMinutes(3, [{ step: "halves", person: "ida", minutes: 90 }], null).cases).toBe(0));
});
