import { inputMap, type MappedControl } from "../input/input";
import { analyse, type StickResult } from "./analyse";
import type { StickFaults } from "../simulate/faults";
import { simulateFullTest } from "../simulate/run";
import { calibrationOutlook } from "./calibration-outlook";
import { HOUSE_LIMITS } from "../grade/limits";

const STICK: MappedControl = { id: "stick.left", kind: "stick", input: { axes: [0, 1] } };
const outlook = (faults: StickFaults) => {
  const recording = simulateFullTest([STICK], {
    seed: 15,
    rateHz: 250,
    bits: 12,
    faults: { sticks: { "stick.left": faults } },
  });
  const result = analyse(recording, inputMap([STICK])).analysis.controls["stick.left"] as StickResult;
  return calibrationOutlook(result, HOUSE_LIMITS.stick);
};

test("a healthy stick needs none", () => expect(outlook({})).toEqual({ verdict: "not-needed" }));

test("a steady offset with little spread is cured", () => {
  expect(outlook({ offset: [0.16, -0.05] })).toMatchObject({
    verdict: "cures",
    before: expect.arrayContaining(["restOffset", "safeDeadZone"]),
  });
});

test("a short reach is cured, since the range is stretched", () => {
  expect(outlook({ reach: { right: 0.8, left: 0.85 } })).toMatchObject({
    verdict: "cures",
    before: expect.arrayContaining(["reachMin"]),
  });
});

test("noise and jumps are wear: it does not cure them, and an offset beside them is cured alone", () => {
  expect(outlook({ wornAt: 0.3 })).toMatchObject({ verdict: "no-cure", left: ["jumps"] });
  const both = outlook({ offset: [0.16, 0], noise: 0.05 });
  expect(both).toMatchObject({
    verdict: "helps",
    cured: expect.arrayContaining(["restOffset"]),
    left: expect.arrayContaining(["restNoise"]),
  });
});

test("scatter after release stays, wherever the centre is put", () => {
  const r = outlook({ scatter: 0.12 });
  expect(r.verdict).toBe("no-cure");
});

test("without edge or rest it is not known", () => {
  expect(outlook({ noAnswer: true }).verdict).toBe("unknown");
});
