import { inputMap, type MappedControl } from "../input/input";
import { analyse, type Analysis } from "../analyse/analyse";
import type { ControllerFaults } from "../simulate/faults";
import { simulateFullTest } from "../simulate/run";
import { benchDrift } from "./drift";
import { numbersOf } from "./reference";

const CONTROLS: MappedControl[] = [
  { id: "stick.left", kind: "stick", input: { axes: [0, 1] } },
  { id: "trigger.left", kind: "trigger", input: { button: 6 } },
  { id: "face.south", kind: "button", input: { button: 0 } },
];
const measured = (seed: number, faults: ControllerFaults = {}): Analysis =>
  analyse(simulateFullTest(CONTROLS, { seed, rateHz: 200, bits: 10, faults }), inputMap(CONTROLS)).analysis;
const same = [1, 2, 3, 4].map((seed) => measured(seed));

test("measured once says so, and no more", () => {
  expect(benchDrift([same[0]!])).toEqual({ verdict: "measured-once", earlier: 0, largest: null });
  expect(benchDrift([]).verdict).toBe("measured-once");
});

test("the same unit measured again and again is steady, with its largest change named", () => {
  const drift = benchDrift(same);
  expect(drift).toMatchObject({ verdict: "steady", earlier: 3 });
  expect(drift.largest!.change).toBeLessThanOrEqual(drift.largest!.allowed);
});

test("a bench that reads everything off centre has drifted, by the measure that shows it", () => {
  const off = measured(9, { sticks: { "stick.left": { offset: [0.06, 0] } } });
  expect(benchDrift([...same, off])).toMatchObject({
    verdict: "drifted",
    largest: { control: "stick.left", measure: expect.stringMatching(/restOffset|safeDeadZone/) },
  });
  const short = measured(9, { triggers: { "trigger.left": { full: 0.93 } } });
  expect(benchDrift([...same, short])).toMatchObject({
    verdict: "drifted",
    largest: { control: "trigger.left", measure: "fullPull" },
  });
});

test("a number of presses is no drift: bounds on a rate are left out", () => {
  const missed = measured(9, { buttons: { "face.south": { missRate: 0.3 } } });
  expect(benchDrift([...same, missed]).verdict).toBe("steady");
});

test("the figures are those of the measures, without what was not measured", () => {
  const controls = measured(3).controls;
  expect(Object.keys(numbersOf(controls["stick.left"]!))).toEqual([
    "restOffset",
    "restNoise",
    "safeDeadZone",
    "returnSpread",
    "reachMin",
    "circularityError",
  ]);
  expect(
    Object.keys(
      numbersOf(measured(3, { sticks: { "stick.left": { noAnswer: true } } }).controls["stick.left"]!),
    ),
  ).not.toContain("reachMin");
});
