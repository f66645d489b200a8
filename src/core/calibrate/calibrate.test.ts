import fc from "fast-check";

import { HOUSE_LIMITS } from "../grade/limits";
import { inputMap, type MappedControl } from "../input/input";
import { analyse, type StickResult } from "../analyse/analyse";
import type { StickFaults } from "../simulate/faults";
import { simulateFullTest } from "../simulate/run";
import { mayCalibrate, nextTable, PLAIN_TABLE, reported, sameTable, type StickTable } from "./calibrate";

const STICK: MappedControl = { id: "stick.left", kind: "stick", input: { axes: [0, 1] } };
const measure = (faults: StickFaults, table?: StickTable, seed = 5): StickResult =>
  analyse(
    simulateFullTest([STICK], {
      seed,
      rateHz: 200,
      bits: 12,
      faults: { sticks: { "stick.left": faults } },
      calibration: table && { "stick.left": table },
    }),
    inputMap([STICK]),
  ).analysis.controls["stick.left"] as StickResult;
const may = (r: StickResult) => mayCalibrate(r, HOUSE_LIMITS.stick);
const calibrated = (r: StickResult, now = PLAIN_TABLE, steps = 1024) => {
  const found = may(r);
  if (!found.ok) throw new Error(found.problem.code);
  return nextTable(nextTable(now, found.value, "centre", steps), found.value, "range", steps);
};

test("an off-centre stick of short reach is cured, by what the unit reports afterwards", () => {
  const faults: StickFaults = { offset: [0.11, -0.07], reach: { up: 0.9, right: 0.93 } };
  const before = measure(faults);
  expect(before.reasons.some((x) => x.grade === "fail")).toBe(true);
  const table = calibrated(before);
  const after = measure(faults, table, 6);
  expect(after.restOffset!).toBeLessThan(0.01);
  expect(after.reachMin!).toBeGreaterThan(0.97);
  expect(after.reasons.filter((x) => x.grade === "fail")).toEqual([]);
  // what the recording predicted is what came
  expect(after.restOffset!).toBeCloseTo(before.calibration!.after.restOffset, 1);
  expect(after.reachMin!).toBeCloseTo(before.calibration!.after.reachMin!, 1);
});

test.each<[string, StickFaults, string]>([
  ["noise", { noise: 0.03, offset: [0.1, 0] }, "restNoise"],
  ["leaps over a worn place", { wornAt: 0.35, offset: [0.1, 0] }, "jumps"],
  ["a dead half", { dead: "left" }, "deadHalves"],
])("refused while there is %s, and says by which figure", (_name, faults, expected) => {
  const found = may(measure(faults));
  expect(found.ok).toBe(false);
  if (!found.ok && found.problem.code === "worn")
    expect(found.problem.reasons.map((r) => r.measure)).toContain(expected);
  else throw new Error("worn");
});

test("refused while releases scatter wider than a dead zone may be", () => {
  const found = may(measure({ scatter: 0.12, offset: [0.05, 0] }));
  expect(found.ok ? null : found.problem).toMatchObject({
    code: "worn",
    scatter: { limit: HOUSE_LIMITS.stick.safeDeadZone.C },
  });
});

test("refused without the figures it is worked out from", () => {
  const r = measure({});
  expect(may({ ...r, calibration: null })).toEqual({ ok: false, problem: { code: "not-measured" } });
});

test("centre first keeps the old ends; a second calibration builds on the first", () => {
  const faults: StickFaults = { offset: [0.1, 0.04], reach: { left: 0.92 } };
  const first = measure(faults);
  const centre = nextTable(PLAIN_TABLE, first.calibration!, "centre", 1024);
  expect(centre.low).toEqual(PLAIN_TABLE.low);
  expect(centre.centre[0]).toBeCloseTo(0.1, 1);
  const again = measure(faults, centre, 9);
  const table = calibrated(again, centre);
  expect(measure(faults, table, 11).reachMin!).toBeGreaterThan(0.97);
});

test("a table is kept within half a step of the unit's memory, and the centre is reported as rest", () => {
  const v = fc.double({ min: -0.3, max: 0.3, noNaN: true });
  fc.assert(
    fc.property(v, v, fc.constantFrom(64, 256, 1024), (x, y, steps) => {
      const measured = {
        centre: [x, y] as [number, number],
        low: [-0.9, -0.92] as [number, number],
        high: [0.95, 0.91] as [number, number],
        after: { restOffset: 0, reachMin: 1, circularityError: 0 },
      };
      const t = nextTable(nextTable(PLAIN_TABLE, measured, "centre", steps), measured, "range", steps);
      expect(Math.abs(t.centre[0] - x)).toBeLessThanOrEqual(0.5 / steps + 1e-9);
      const [rx, ry] = reported(t.centre, t);
      expect(Math.hypot(rx, ry)).toBeCloseTo(0, 10);
      expect(sameTable(t, { ...t, centre: [t.centre[0] + 0.4 / steps, t.centre[1]] }, steps)).toBe(true);
      expect(sameTable(t, { ...t, centre: [t.centre[0] + 2 / steps, t.centre[1]] }, steps)).toBe(false);
    }),
  );
});
