import { NOTHING_ASKED } from "../prove/proof";
import {
  baselineOf,
  blocksOf,
  firmOf,
  lineOf,
  mayProve,
  nextActionOf,
  proofOf,
  type UnitFacts,
  unitGrade,
} from "./standing";

const at = (minute: number) => new Date(Date.UTC(2026, 10, 20, 9, minute));
const test_ = (
  id: string,
  minute: number,
  grade: "A" | "B" | "fail" = "A",
  purpose: "quick" | "full" = "full",
) => ({
  id,
  purpose,
  startedAt: at(minute),
  grade,
  controls: { "stick.left": grade },
  tester: "simulated bench",
  proves: true,
  by: "bram",
});
const facts = (change: Partial<UnitFacts> = {}): UnitFacts => ({
  swollen: false,
  liquid: false,
  liquidCleared: false,
  ending: null,
  tests: [],
  checks: [{ functionId: "radio", result: "pass", at: at(50) }],
  functions: ["radio"],
  controls: ["stick.left"],
  faults: [],
  mends: [],
  floor: "B",
  lastStep: null,
  apart: { items: 0, steps: 0, begun: false },
  recalled: [],
  looseFragments: [],
  readings: [],
  broken: [],
  decided: null,
  proving: NOTHING_ASKED,
  ...change,
});

test("without a mend the first full test is the proof", () => {
  const f = facts({ tests: [test_("q", 1, "A", "quick"), test_("f", 5)] });
  expect(proofOf(f)?.id).toBe("f");
  expect(blocksOf(f)).toEqual([]);
  expect(nextActionOf(f)).toBe("release");
});

test("a quick look is never proof", () => {
  const f = facts({ tests: [test_("q", 1, "A", "quick")] });
  expect(proofOf(f)).toBeNull();
  expect(blocksOf(f)).toContainEqual({ code: "no-proof", lastMend: null, elsewhere: false });
  expect(nextActionOf(f)).toBe("first-test");
});

describe("a recording that was not made here", () => {
  const elsewhere = { ...test_("import", 70), proves: false };
  test("never proves, and the block says so", () => {
    const f = facts({ tests: [test_("f", 5), elsewhere], mends: [{ at: at(60), opened: true }] });
    expect(proofOf(f)).toBeNull();
    expect(blocksOf(f)).toContainEqual({ code: "no-proof", lastMend: at(60), elsewhere: true });
  });
  test("is not how the unit came either, once something was measured here", () => {
    expect(baselineOf(facts({ tests: [{ ...elsewhere, startedAt: at(1) }, test_("f", 5)] }))?.id).toBe("f");
    expect(baselineOf(facts({ tests: [elsewhere] }))?.id).toBe("import");
  });
  test("counts once a lead took it, but the same content twice never does", () => {
    const right = (change: object) =>
      mayProve({ source: "import", opened: false, taken: false, repeated: false, ...change });
    expect(right({})).toBe(false);
    expect(right({ source: "playback" })).toBe(false);
    expect(right({ taken: true })).toBe(true);
    expect(right({ taken: true, repeated: true })).toBe(false);
    expect(right({ source: "gamepad", opened: true })).toBe(true);
    expect(right({ source: "gamepad" })).toBe(false); // sent under the name of a live controller
    expect(right({ opened: true })).toBe(false);
    expect(right({ source: "gamepad", opened: true, repeated: true })).toBe(false);
    expect(right({ source: "simulated", repeated: true })).toBe(true); // made by a seed: the same again is no copy
  });
});

test("a mend makes every earlier test and check stale", () => {
  const f = facts({ tests: [test_("f", 5)], mends: [{ at: at(60), opened: true }] });
  expect(proofOf(f)).toBeNull();
  expect(blocksOf(f).map((b) => b.code)).toEqual(["no-proof", "function"]);
  expect(nextActionOf(f)).toBe("prove");
  const proven = facts({
    tests: [test_("f", 5, "fail"), test_("p", 70)],
    mends: [{ at: at(60), opened: true }],
    checks: [{ functionId: "radio", result: "pass", at: at(71) }],
  });
  expect(blocksOf(proven)).toEqual([]);
  expect(baselineOf(proven)?.id).toBe("f");
});

test("an open fault, a grade below the floor, a failed and an untested function block", () => {
  const f = facts({
    tests: [test_("f", 5, "fail")],
    faults: [{ id: "x", number: 1, status: "open" }],
    checks: [],
  });
  expect(blocksOf(f)).toEqual([
    { code: "control", control: "stick.left", grade: "fail" },
    { code: "function", functionId: "radio", result: "not-tested" },
    { code: "open-fault", number: 1 },
  ]);
});

test("a control that the proof did not cover is untested, not passed", () => {
  const f = facts({ tests: [test_("f", 5)], controls: ["stick.left", "face.south"] });
  expect(blocksOf(f)).toEqual([{ code: "control", control: "face.south", grade: "untested" }]);
});

test("swollen stops everything; wet skips the test", () => {
  expect(nextActionOf(facts({ swollen: true, tests: [test_("f", 5)] }))).toBe("quarantine");
  const wet = facts({ liquid: true });
  expect(nextActionOf(wet)).toBe("dry-out");
  expect(lineOf(wet).find((s) => s.station === "test")).toMatchObject({
    said: { code: "wet" },
    state: "skipped",
  });
  expect(nextActionOf(facts({ liquid: true, liquidCleared: true }))).toBe("first-test");
});

test("the unit's grade: fail before untested before its worst", () => {
  expect(unitGrade(["A", "B"], ["pass", "not-fitted"])).toBe("B");
  expect(unitGrade(["A"], ["not-tested"])).toBe("untested");
  expect(unitGrade(["untested"], ["fail"])).toBe("fail");
});

test("open faults ask for a decision, and what was decided says what is next", () => {
  const open = { tests: [test_("f", 5, "fail")], faults: [{ id: "1", number: 1, status: "open" as const }] };
  expect(nextActionOf(facts(open))).toBe("decide");
  const decided = (disposition: NonNullable<UnitFacts["decided"]>["disposition"], faults = [1]) =>
    nextActionOf(facts({ ...open, decided: { disposition, faults } }));
  expect(decided("mend")).toBe("mend");
  expect(decided("hold")).toBe("wait");
  expect(decided("strip")).toBe("end");
  expect(decided("mend", [2])).toBe("decide"); // fault 1 was found after that decision
});

test("an open unit is put back first, and blocks the release; a step under a work order wants a new proof", () => {
  const open = facts({ tests: [test_("f", 5)], lastStep: at(3), apart: { items: 2, steps: 1, begun: true } });
  expect(nextActionOf(open)).toBe("mend");
  expect(blocksOf(open)).toContainEqual({ code: "apart", items: 2, steps: 1 });
  const closed = facts({ tests: [test_("f", 5)], lastStep: at(9) });
  expect(proofOf(closed)).toBeNull();
  expect(nextActionOf(closed)).toBe("prove");
});

test("a piece of a recalled batch blocks the release until it is changed", () => {
  const f = facts({ tests: [test_("f", 5)], recalled: ["P-0003"] });
  expect(blocksOf(f)).toEqual([{ code: "recall", batch: "P-0003" }]);
  expect(nextActionOf(f)).toBe("settle-blocks");
});

describe("the line of stations", () => {
  const word = (f: UnitFacts, station: string) => lineOf(f).find((x) => x.station === station)!;
  const full = (grade: "A" | "fail") => facts({ tests: [test_("f", 5, grade)] });

  test("nothing done yet: told as not tested, not as passed", () => {
    expect(word(facts(), "test")).toEqual({ station: "test", said: { code: "not-tested" }, state: "now" });
    expect(word(facts(), "prove").said).toEqual({ code: "not-proven" });
  });
  test("a quick look is no test", () =>
    expect(word(facts({ tests: [test_("q", 1, "A", "quick")] }), "test").said).toEqual({
      code: "quick-only",
    }));
  test("a failing test says so, a good one its grade", () => {
    expect(word(full("fail"), "test").said).toEqual({ code: "grade", grade: "fail" });
    expect(word(full("A"), "prove")).toMatchObject({ said: { code: "grade", grade: "A" }, state: "done" });
  });
  test("open and settled faults", () => {
    const fault = (status: "open" | "mended", number: number) => ({ id: String(number), number, status });
    expect(word(facts({ faults: [fault("open", 1), fault("mended", 2)] }), "find").said).toEqual({
      code: "open",
      count: 1,
    });
    expect(word(facts({ faults: [fault("mended", 1)] }), "find").said).toEqual({ code: "all-settled" });
  });
  test("mends are counted, and an open unit says what is apart", () => {
    const mends = [{ at: at(60), opened: true }];
    expect(word(facts({ mends }), "mend").said).toEqual({ code: "entries", count: 1 });
    expect(word(facts({ mends: [...mends, ...mends] }), "mend").said).toEqual({ code: "entries", count: 2 });
    expect(word(facts({ mends, apart: { items: 3, steps: 2, begun: true } }), "mend").said).toEqual({
      code: "apart",
      count: 2,
    });
  });
  test("swollen stops the line at the door and locks the test", () => {
    const line = lineOf(facts({ swollen: true }));
    expect(line.find((x) => x.station === "intake")).toMatchObject({
      said: { code: "quarantine" },
      state: "stop",
    });
    expect(line.find((x) => x.station === "test")).toMatchObject({ said: { code: "locked" }, state: "stop" });
  });
  test("a unit that left has no station where work goes on", () => {
    const left = facts({ tests: [test_("f", 5)], ending: "sold-as-found" });
    expect(nextActionOf(left)).toBe("closed");
    expect(lineOf(left).filter((x) => x.state === "now")).toEqual([]);
    expect(word(left, "release")).toMatchObject({
      said: { code: "ended", ending: "sold-as-found" },
      state: "done",
    });
  });
});

describe("what nobody can release over", () => {
  test("no proof, an open unit, a swollen cell, liquid and a recalled piece are firm; the rest a lead may limit", () => {
    const all = facts({
      swollen: true,
      liquid: true,
      recalled: ["P-0003"],
      apart: { items: 1, steps: 1, begun: true },
      faults: [{ id: "1", number: 1, status: "open" }],
      looseFragments: [1],
    });
    expect(firmOf(blocksOf(all))).toEqual(["swollen", "liquid", "apart", "recall", "no-proof"]);
    const soft = facts({
      tests: [test_("f", 5)],
      faults: [{ id: "1", number: 1, status: "open" }],
      looseFragments: [1],
      checks: [],
    });
    expect(blocksOf(soft).map((b) => b.code)).toEqual(["function", "open-fault", "fragment"]);
    expect(firmOf(blocksOf(soft))).toEqual([]);
  });
  test("a cleared soaking is no block, a failing control leads back to naming its fault", () => {
    expect(blocksOf(facts({ liquid: true, liquidCleared: true, tests: [test_("f", 5)] }))).toEqual([]);
    expect(nextActionOf(facts({ tests: [test_("f", 5, "fail")] }))).toBe("name-faults");
  });
  test("the shop's floor decides whether a grade blocks", () => {
    expect(blocksOf(facts({ tests: [test_("f", 5, "B")], floor: "A" }))).toEqual([
      { code: "control", control: "stick.left", grade: "B" },
    ]);
    expect(blocksOf(facts({ tests: [test_("f", 5, "B")], floor: "B" }))).toEqual([]);
  });
});
