import { type Curve, curveFrame, type CurvePoint } from "./curve";

const edge = (reach: number): CurvePoint[] => Array.from({ length: 72 }, (_, k) => [k * 5 + 2.5, reach]);
const stick = (now: number, before: number | null = null, limit: number | null = 0.97): Curve => ({
  now: edge(now),
  before: before === null ? [] : edge(before),
  limit,
});

describe("the frame of a certificate's curve", () => {
  test("a stick's edge runs over the whole angle, half a step in from each side", () => {
    const { place } = curveFrame("stick", stick(1));
    expect(place([2.5, 1])[0]).toBeCloseTo(2.5 / 360, 12);
    expect(place([357.5, 1])[0]).toBeCloseTo(357.5 / 360, 12);
  });

  test("full travel lies at five ninths of a stick's usual frame, 75 to 120 %", () => {
    expect(curveFrame("stick", stick(1)).place([0, 1])[1]).toBeCloseTo(25 / 45, 12);
  });

  test.each([
    ["a dead side", stick(1, 0.1)],
    ["a side that reaches far over", stick(1.41, 1)],
    ["a limit below the usual frame", stick(1, null, 0.6)],
  ])("everything stays within the frame: %s", (_, curve) => {
    const { place, lines } = curveFrame("stick", curve);
    const heights = [...curve.now, ...curve.before].map((p) => place(p)[1]);
    for (const h of [...heights, ...lines.map((l) => place([0, l.value])[1])]) {
      expect(h).toBeGreaterThanOrEqual(0);
      expect(h).toBeLessThanOrEqual(1);
    }
  });

  test("a pull is as wide as the longer of its two curves, so that they can be compared", () => {
    const { place } = curveFrame("trigger", { now: [[0, 0], [400, 1]], before: [[0, 0], [800, 0.9]], limit: 0.95 }); // prettier-ignore
    expect(place([400, 1])[0]).toBeCloseTo(0.5, 12);
    expect(place([800, 0.9])[0]).toBeCloseTo(1, 12);
  });

  test("a higher point is drawn higher, a later one further right", () => {
    for (const kind of ["stick", "trigger"] as const) {
      const { place } = curveFrame(kind, stick(0.9, 1.05));
      expect(place([0, 0.98])[1]).toBeGreaterThan(place([0, 0.9])[1]);
      expect(place([90, 1])[0]).toBeGreaterThan(place([80, 1])[0]);
    }
  });

  test("full travel is always marked, the limit only where one was signed", () => {
    expect(curveFrame("stick", stick(1)).lines.map((l) => l.what)).toEqual(["full", "limit"]);
    expect(curveFrame("trigger", { now: [], before: [], limit: null }).lines).toEqual([
      { value: 1, what: "full" },
    ]);
  });
});
