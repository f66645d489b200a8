import fc from "fast-check";

import { inputMap, type MappedControl } from "../input/input";
import { analyse } from "../analyse/analyse";
import { simulateFullTest } from "../simulate/run";
import { type Grade, GRADES, gradeButton, gradeTrigger, worstGrade } from "./grade";
import { HOUSE_LIMITS } from "./limits";

/**
 * The rules that turn measures into grades: each limit belongs to the better grade, and what is missing is
 * never a pass.
 */

const CONTROLS: MappedControl[] = [
  { id: "trigger.left", kind: "trigger", input: { button: 6 } },
  { id: "face.south", kind: "button", input: { button: 0 } },
];
const healthy = analyse(
  simulateFullTest(CONTROLS, { seed: 9, rateHz: 200, bits: 12, faults: {} }),
  inputMap(CONTROLS),
).analysis.controls;
const trigger = healthy["trigger.left"]!;
const button = healthy["face.south"]!;
if (trigger.kind !== "trigger" || button.kind !== "button") throw new Error("a trigger and a button");
const limits = HOUSE_LIMITS.trigger;
const ofTrigger = (change: object) => gradeTrigger({ ...trigger, ...change }, limits);
const ofButton = (change: object) => gradeButton({ ...button, ...change });

describe("the worst of several", () => {
  test("a fail outweighs what is untested, and that outweighs every grade", () => {
    expect(worstGrade([])).toBe("A");
    expect(worstGrade(["A", "C", "B"])).toBe("C");
    expect(worstGrade(["C", "untested"])).toBe("untested");
    expect(worstGrade(["untested", "fail", "A"])).toBe("fail");
  });
  test("neither order nor repetition matters", () => {
    const grade = fc.constantFrom<Grade>(...GRADES);
    fc.assert(
      fc.property(fc.array(grade, { minLength: 1 }), (grades) => {
        const worst = worstGrade(grades);
        return worst === worstGrade([...grades].reverse()) && worst === worstGrade([...grades, ...grades]) && grades.includes(worst);
      }),
    );
  }); // prettier-ignore
});

describe("a ladder of limits", () => {
  test("a value at a limit keeps it", () => {
    expect(ofTrigger({ restValue: limits.restValue.A }).grade).toBe("A");
    expect(ofTrigger({ fullPull: limits.fullPull.A }).grade).toBe("A");
    expect(ofTrigger({ restValue: limits.restValue.C }).grade).toBe("C");
  });
  test("a hair beyond it falls to the next, and names the limit that it broke", () => {
    const hair = 1e-9;
    for (const [value, grade, limit] of [
      [limits.restValue.A + hair, "B", limits.restValue.A],
      [limits.restValue.B + hair, "C", limits.restValue.B],
      [limits.restValue.C + hair, "fail", limits.restValue.C],
    ] as const)
      expect(ofTrigger({ restValue: value }).reasons).toEqual([
        { measure: "restValue", value, limit, grade, note: "" },
      ]);
    expect(ofTrigger({ fullPull: limits.fullPull.C - hair }).grade).toBe("fail");
  });
  test("a worse value never has a better grade", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (a, b) => {
          const [less, more] = [Math.min(a, b), Math.max(a, b)];
          const rank = (v: number) => GRADES.indexOf(ofTrigger({ backtrack: v }).grade);
          return rank(less) <= rank(more);
        },
      ),
    );
  });
  test("several faults are all told, and the grade is the worst of them", () => {
    const v = ofTrigger({ restValue: limits.restValue.A + 1e-6, fullPull: 0 });
    expect(v.reasons.map((r) => r.measure).sort()).toEqual(["fullPull", "restValue"]);
    expect(v.grade).toBe("fail");
  });
});

describe("what was not measured", () => {
  test("makes a trigger untested, and says why", () => {
    const v = ofTrigger({ restValue: null, fullPull: null, backtrack: null, largestStep: null });
    expect(v.grade).toBe("untested");
    expect(v.reasons.every((r) => r.value === null && r.note !== "")).toBe(true);
  });
  test("a pull that was never slow leaves only its largest step open", () => {
    expect(ofTrigger({ largestStep: null }).reasons).toEqual([
      { measure: "largestStep", value: null, limit: null, grade: "untested", note: "no-slow-pull" },
    ]);
  });
  test("a trigger that never answered fails, whatever else is missing", () =>
    expect(ofTrigger({ restValue: null, noAnswer: true }).grade).toBe("fail"));
});

describe("a button", () => {
  test("passes when its test has decided for good", () => expect(ofButton({}).grade).toBe("A"));
  test("undecided is untested, bad fails, no cue is untested", () => {
    expect(ofButton({ decision: "continue" })).toMatchObject({
      grade: "untested",
      reasons: [{ note: "undecided" }],
    });
    expect(ofButton({ decision: "bad" }).grade).toBe("fail");
    expect(ofButton({ decision: null })).toMatchObject({ grade: "untested", reasons: [{ note: "no-cues" }] });
  });
  test("one that reads pressed without a finger, or fires with another, fails", () => {
    expect(ofButton({ stuckAtRest: true }).grade).toBe("fail");
    expect(ofButton({ firesWith: ["face.east"] }).grade).toBe("fail");
  });
});
