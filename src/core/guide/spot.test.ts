import { inputMap, type MappedControl } from "../input/input";
import { plotsOf } from "../plots/plots";
import { analyse, type ButtonResult } from "../analyse/analyse";
import type { Force } from "../simulate/controller";
import type { ButtonFaults } from "../simulate/faults";
import { simulateFullTest } from "../simulate/run";
import { planFullTest, planSpotTest, RIM_SIDES, rimSideOf } from "./plan";

const SOUTH: MappedControl = { id: "face.south", kind: "button", input: { button: 0 } };
const STICK: MappedControl = { id: "stick.left", kind: "stick", input: { axes: [0, 1] } };

function spot(faults: ButtonFaults, force: Force = "normal") {
  const controls = [SOUTH, STICK];
  const settings = { seed: 31, rateHz: 200, bits: 10, force, faults: { buttons: { "face.south": faults } } };
  const recording = simulateFullTest(controls, settings, { plan: planSpotTest(controls, ["face.south"]) });
  const map = inputMap(controls);
  const { analysis, evidence } = analyse(recording, map);
  return {
    button: analysis.controls["face.south"] as ButtonResult,
    plots: plotsOf(recording, map, evidence),
    analysis,
  };
}

test("a spot test asks for one control only, its middle and its rim", () => {
  expect(planSpotTest([SOUTH, STICK], ["face.south"]).map((s) => `${s.step} ${s.control}`)).toEqual([
    "rest ",
    "press face.south",
    "press-edge face.south",
    "rest ",
  ]);
  expect(planSpotTest([SOUTH, STICK], ["stick.left"]).map((s) => s.step)).toEqual([
    "rest",
    "circle",
    "sweep",
    "flick",
    "rest",
  ]);
  expect(planFullTest([SOUTH, STICK]).some((s) => s.step === "press-edge")).toBe(false);
});

test("the rim is asked for round the four sides, pooled for the verdict and drawn apart", () => {
  expect([0, 1, 2, 3, 4].map(rimSideOf)).toEqual(["top", "right", "bottom", "left", "top"]);
  const { button, plots } = spot({ rimMissBySide: [0, 1, 0, 0] });
  expect(button.rim!.decision).toBe("bad");
  const rim = plots.rims["face.south"]!;
  expect(rim.missed[RIM_SIDES.indexOf("right")]).toBe(rim.asked[1]);
  expect(rim.missed.filter((_, i) => i !== 1)).toEqual([0, 0, 0]);
  expect(Math.max(...rim.asked) - Math.min(...rim.asked)).toBeLessThanOrEqual(1);
});

test("good in the middle and bad on the rim is a fault of its own", () => {
  const { button } = spot({ rimMissRate: 0.6 });
  expect(button.decision).toBe("good");
  expect(button.reasons.map((r) => [r.measure, r.grade])).toEqual([["rim.decision", "fail"]]);
});

test("a contact that yields to force misses lightly and answers when pressed harder", () => {
  const dirty: ButtonFaults = { lightMissRate: 0.5, hardMissRate: 0, missRate: 0 };
  expect(spot(dirty, "light").button.decision).toBe("bad");
  expect(spot(dirty, "hard").button.decision).toBe("good");
  expect(spot(dirty).button.decision).toBe("good");
});

test("what the spot was not about stays untested", () => {
  expect(spot({}).analysis.controls["stick.left"]!.grade).toBe("untested");
});
