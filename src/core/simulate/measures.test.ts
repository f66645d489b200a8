import { type MappedControl, inputMap } from "../input/input";
import { analyse, type ControlResult } from "../analyse/analyse";
import type { ControllerFaults, StickFaults } from "./faults";
import { simulateFullTest } from "./run";

const STICK: MappedControl = { id: "stick.left", kind: "stick", input: { axes: [0, 1] } };
const TRIGGER: MappedControl = { id: "trigger.left", kind: "trigger", input: { button: 6 } };
const SOUTH: MappedControl = { id: "face.south", kind: "button", input: { button: 0 } };
const EAST: MappedControl = { id: "face.east", kind: "button", input: { button: 1 } };

const measure = (
  controls: MappedControl[],
  faults: ControllerFaults,
  seed = 5,
): Record<string, ControlResult> =>
  analyse(simulateFullTest(controls, { seed, rateHz: 200, bits: 12, faults }), inputMap(controls)).analysis
    .controls;
const failing = (r: ControlResult) => r.reasons.filter((x) => x.grade === "fail").map((x) => x.measure);

const stickCases: [string, StickFaults, string][] = [
  ["an offset", { offset: [0.15, 0] }, "restOffset"],
  ["noise", { noise: 0.03 }, "restNoise"],
  ["spikes at rest", { spikesPerSecond: 3 }, "restSpikes"],
  ["scatter after release", { scatter: 0.12 }, "safeDeadZone"],
  ["a stick that hangs", { sticksShare: 1 }, "stuckReleases"],
  ["a short reach", { reach: { up: 0.8 } }, "reachMin"],
  ["a square edge", { square: 1 }, "none"],
  ["a dead half", { dead: "left" }, "deadHalves"],
  ["a worn track", { wornAt: 0.4 }, "jumps"],
  ["no answer", { noAnswer: true }, "noAnswer"],
];

test.each(stickCases)(
  "the simulated stick with %s fails by the measure that names it",
  (_name, faults, expected) => {
    const found = failing(measure([STICK], { sticks: { "stick.left": faults } })["stick.left"]!);
    if (expected === "none") expect(found).toEqual([]);
    else expect(found).toContain(expected);
  },
);

test("the figures are the injected ones", () => {
  const r = measure([STICK], {
    sticks: { "stick.left": { offset: [0.06, -0.03], leanDeg: 4, reach: { right: 0.92 } } },
  })["stick.left"]!;
  if (r.kind !== "stick") throw new Error("a stick");
  expect(r.restCentre![0]).toBeCloseTo(0.06, 2);
  expect(r.restCentre![1]).toBeCloseTo(-0.03, 2);
  expect(r.reach!.right!).toBeCloseTo(0.92, 1);
  expect(r.crossTalkDeg!.x!).toBeGreaterThan(2);
});

test.each([
  ["a rest value", { rest: 0.06 }, "restValue"],
  ["a short pull", { full: 0.9 }, "fullPull"],
  ["a backtrack", { backtrack: 0.12 }, "backtrack"],
  ["a hole in its travel", { hole: 0.25 }, "largestStep"],
  ["no answer", { noAnswer: true }, "noAnswer"],
] as const)("the simulated trigger with %s fails by the measure that names it", (_name, faults, expected) => {
  expect(failing(measure([TRIGGER], { triggers: { "trigger.left": faults } })["trigger.left"]!)).toContain(
    expected,
  );
});

test.each([
  ["misses", { missRate: 0.6 }, "decision"],
  ["chatter", { chatterRate: 1 }, "chatter"],
  ["extra presses", { extraRate: 1 }, "extra"],
  ["a stuck contact", { stuck: true }, "stuckAtRest"],
  ["a bridge", { firesWith: "face.east" }, "firesWith"],
] as const)("the simulated button with %s fails by the measure that names it", (_name, faults, expected) => {
  const r = measure([SOUTH, EAST], { buttons: { "face.south": faults } });
  expect(failing(r["face.south"]!)).toContain(expected);
});

test("misses on the rim alone are a fault of the rim", () => {
  const controls = [{ ...SOUTH, rim: true }];
  const recording = simulateFullTest(controls, {
    seed: 8,
    rateHz: 200,
    bits: 8,
    faults: { buttons: { "face.south": { rimMissRate: 0.7 } } },
  });
  const r = analyse(recording, inputMap(controls)).analysis.controls["face.south"]!;
  expect(failing(r)).toEqual(["rim.decision"]);
});

test("the same seed gives the same recording, another one another", () => {
  const run = (seed: number) => simulateFullTest([SOUTH], { seed, rateHz: 100, bits: 8, faults: {} });
  expect(run(3).t).toEqual(run(3).t);
  expect(run(4).t).not.toEqual(run(3).t);
});

describe("laws", () => {
  const recording = simulateFullTest([STICK], {
    seed: 21,
    rateHz: 200,
    bits: 12,
    faults: { sticks: { "stick.left": { offset: [0.04, 0.02], reach: { left: 0.95 } } } },
  });
  const of = (map: MappedControl, r = recording) => {
    const result = analyse(r, inputMap([map])).analysis.controls["stick.left"]!;
    if (result.kind !== "stick") throw new Error("a stick");
    return result;
  };
  const plain = of(STICK);

  test("a mirrored stick has mirrored figures and the same sizes", () => {
    const mirrored = of({ ...STICK, input: { axes: [0, 1], flip: [true, false] } } as MappedControl);
    expect(mirrored.restOffset).toBeCloseTo(plain.restOffset!, 9);
    expect(mirrored.restCentre![0]).toBeCloseTo(-plain.restCentre![0], 9);
    expect(mirrored.reach!.right!).toBeCloseTo(plain.reach!.left!, 2);
    expect(mirrored.safeDeadZone).toBeCloseTo(plain.safeDeadZone!, 9);
  });

  test("repeats of rows between changes move nothing by more than the contract allows", () => {
    const n = recording.length;
    const twice = <A extends Float64Array | Uint8Array | Uint16Array>(c: A): A => {
      const out = new (c.constructor as new (k: number) => A)(2 * n);
      for (let i = 0; i < n; i++) out[2 * i] = out[2 * i + 1] = c[i]!;
      return out;
    };
    const t = new Float64Array(2 * n);
    for (let i = 0; i < n; i++) {
      t[2 * i] = recording.t[i]!;
      t[2 * i + 1] = recording.t[i]! + ((recording.t[i + 1] ?? recording.t[i]! + 2) - recording.t[i]!) / 2;
    }
    const cue = new Uint8Array(2 * n);
    for (let i = 0; i < n; i++) cue[2 * i] = recording.cue[i]!;
    const doubled = of(STICK, {
      ...recording,
      length: 2 * n,
      t,
      cue,
      step: twice(recording.step),
      control: twice(recording.control),
      axes: recording.axes.map((c) => c && twice(c)),
      buttons: [],
    });
    for (const m of ["restOffset", "restNoise", "safeDeadZone", "reachMin", "circularityError"] as const)
      expect(Math.abs(doubled[m]! - plain[m]!)).toBeLessThan(0.005);
    expect(doubled.releases).toBe(plain.releases);
    expect(doubled.jumps!.count).toBe(plain.jumps!.count);
  });
});
