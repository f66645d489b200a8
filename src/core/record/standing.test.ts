import { NOTHING_ASKED } from "../prove/proof";
import { baselineOf, blocksOf, lineOf, nextActionOf, proofOf, type UnitFacts, unitGrade } from "./standing";

const at = (minute: number) => new Date(Date.UTC(2026, 10, 20, 9, minute));
const test_ = (id: string, minute: number, grade: "A" | "B" | "fail" = "A", purpose: "quick" | "full" = "full") => ({
  id,
  purpose,
  startedAt: at(minute),
  grade,
  controls: { "stick.left": grade },
  tester: "simulated bench",
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
  expect(blocksOf(f)).toContainEqual({ code: "no-proof", lastMend: null });
  expect(nextActionOf(f)).toBe("first-test");
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
  expect(lineOf(wet).find((s) => s.station === "test")).toMatchObject({ word: "skipped, wet", state: "skipped" });
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
