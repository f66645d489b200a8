import { HOUSE_LIMITS } from "@/core/grade/limits";
import type { Grade } from "@/core/grade/grade";
import { inputMap, type MappedControl } from "@/core/input/input";
import { analyse } from "@/core/analyse/analyse";
import type { ControllerFaults } from "@/core/simulate/faults";
import { simulateFullTest } from "@/core/simulate/run";
import {
  figuresOf,
  GRADE_WORDS,
  MEASURE_NAMES,
  measureName,
  NOTES,
  percent,
  reasonText,
  valueText,
} from "./measures";

/**
 * What stands on a result: figures with their unit and limit, and never a "not tested" that reads like a
 * pass.
 */

const CONTROLS: MappedControl[] = [
  { id: "stick.left", kind: "stick", input: { axes: [0, 1] } },
  { id: "trigger.left", kind: "trigger", input: { button: 6 } },
  { id: "face.south", kind: "button", input: { button: 0 } },
  { id: "face.east", kind: "button", input: { button: 1 } },
];
const measured = (faults: ControllerFaults = {}) => {
  const recording = simulateFullTest(CONTROLS, { seed: 21, rateHz: 200, bits: 12, faults });
  return analyse(recording, inputMap(CONTROLS)).analysis.controls;
};
const healthy = measured();
const nothing = analyse(
  simulateFullTest(CONTROLS, { seed: 21, rateHz: 200, bits: 12, faults: {} }, { plan: [] }),
  inputMap(CONTROLS),
).analysis.controls;
const figure = (of: Record<string, Parameters<typeof figuresOf>[0]>, id: string, measure: string) =>
  figuresOf(of[id]!, HOUSE_LIMITS).find((f) => f.measure === measure)!;

describe("percent", () => {
  test.each([
    [0, "0.0 %"],
    [-0.0001, "0.0 %"],
    [0.12345, "12.3 %"],
    [1, "100.0 %"],
    [-0.05, "-5.0 %"],
  ])("%d is %s", (v, words) => expect(percent(v)).toBe(words));
});

describe("a value in the form a person reads", () => {
  test.each([
    [null, "not tested"],
    [true, "yes"],
    [false, "no"],
    [0.25, "25.0 %"],
    [7, "7"],
    ["pass", "pass"],
    [[], "none"],
    [["face.east", "trigger.left"], "face east, trigger left"],
  ] as const)("%j is %s", (v, words) => expect(valueText(v as Parameters<typeof valueText>[0])).toBe(words));
});

describe("the figures of a control", () => {
  test("a stick's, with what each must keep for grade A", () => {
    expect(figuresOf(healthy["stick.left"]!, HOUSE_LIMITS).map((f) => f.measure)).toEqual([
      "restOffset",
      "safeDeadZone",
      "restNoise",
      "reachMin",
      "circularityError",
      "jumps",
      "restSpikes",
      "deadHalves",
      "stuckReleases",
      "idle",
    ]);
    const reach = figure(healthy, "stick.left", "reachMin");
    expect(reach).toMatchObject({ grade: "A", limit: `at least ${percent(HOUSE_LIMITS.stick.reachMin.A)}` });
    expect(reach.value).toMatch(/^\d+\.\d %$/);
    expect(figure(healthy, "stick.left", "jumps")).toMatchObject({ value: "0", limit: "none", grade: "A" });
  });

  test("a trigger reaches at least, and rests at most", () => {
    expect(figure(healthy, "trigger.left", "fullPull").limit).toMatch(/^at least/);
    expect(figure(healthy, "trigger.left", "restValue").limit).toMatch(/^at most/);
  });

  test("a button's presses are counted against its cues", () => {
    expect(figure(healthy, "face.south", "decision")).toMatchObject({
      grade: "A",
      value: expect.stringMatching(/^(\d+) of \1$/),
    });
    expect(figure(healthy, "face.south", "rim.decision")).toBeUndefined(); // nobody asked for the rim
  });

  test("what is bad stands out by its grade, and names the other control", () => {
    const bad = measured({
      sticks: { "stick.left": { offset: [0.2, 0] } },
      buttons: { "face.south": { firesWith: "face.east" } },
    });
    expect(figure(bad, "stick.left", "restOffset")).toMatchObject({ grade: "fail" });
    expect(parseFloat(figure(bad, "stick.left", "restOffset").value)).toBeCloseTo(20, 0);
    expect(figure(bad, "face.south", "firesWith").value).toBe("face east");
  });

  test("nothing measured is not tested: not one figure of it counts as passed", () => {
    for (const c of CONTROLS)
      for (const f of figuresOf(nothing[c.id]!, HOUSE_LIMITS)) {
        if (f.value === "not tested") expect([f.measure, f.grade]).not.toEqual([f.measure, "A"]);
      }
    expect(figure(nothing, "stick.left", "reachMin").value).toBe("not tested");
    expect(figure(nothing, "trigger.left", "fullPull").value).toBe("not tested");
    expect(figure(nothing, "face.south", "decision").value).toBe("not tested");
  });
});

describe("a reason in one line", () => {
  const reason = (over: object) => ({
    measure: "restOffset",
    value: 0.112,
    limit: 0.08,
    grade: "C" as Grade,
    note: "",
    ...over,
  });
  const text = (over: object) => reasonText(reason(over) as Parameters<typeof reasonText>[0]);
  test("value, limit and grade", () => expect(text({})).toBe("rest offset 11.2 %, limit 8.0 %: grade C"));
  test("a count has no percent, and none is allowed", () =>
    expect(text({ measure: "jumps", value: 3, limit: 0, grade: "fail" })).toBe(
      "jumps 3, none allowed: fail",
    ));
  test("one jump is one, not a hundred percent", () =>
    expect(text({ measure: "jumps", value: 1, limit: 0, grade: "fail" })).toBe(
      "jumps 1, none allowed: fail",
    ));
  test("not tested says why", () =>
    expect(text({ value: null, note: "rest-too-short", grade: "untested" })).toBe(
      "rest offset: not tested, hands were off for less than 2 s",
    ));
  test("undecided is neither a pass nor a fail", () =>
    expect(text({ measure: "decision", value: "undecided", note: "undecided", grade: "untested" })).toBe(
      "presses: too few presses to decide",
    ));
  test("every reason of a healthy and of an empty test can be said", () => {
    for (const r of [...Object.values(healthy), ...Object.values(nothing)].flatMap((c) => c.reasons))
      expect(reasonText(r)).toMatch(/: (grade [ABC]|fail|not tested|too few)/);
  });
});

test("every measure has a name, every note words, every grade a word of its own", () => {
  for (const r of Object.values(nothing).flatMap((c) => c.reasons)) {
    expect(MEASURE_NAMES[r.measure]).toBeDefined();
    if (r.note) expect(NOTES[r.note]).toBeDefined();
  }
  expect(measureName("something-new")).toBe("something-new");
  expect(new Set(Object.values(GRADE_WORDS)).size).toBe(5);
});
