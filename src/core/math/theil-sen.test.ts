import fc from "fast-check";

import { theilSen } from "./theil-sen";

test("a straight line is found whole", () => {
  const line = theilSen([0, 1, 2, 3, 5], [1, 3, 5, 7, 11])!;
  expect(line.slope).toBe(2);
  expect(line.at(10)).toBeCloseTo(21, 12);
  expect([line.low, line.high]).toEqual([2, 2]);
});

test("a quarter of wild points does not move it", () => {
  const xs = Array.from({ length: 40 }, (_, i) => i);
  const ys = xs.map((x) => (x % 4 === 3 ? 500 : 4 - 0.05 * x));
  expect(theilSen(xs, ys)!.slope).toBeCloseTo(-0.05, 9);
});

test("too few points, or no spread in x, give nothing", () => {
  expect(theilSen([1, 2, 3], [1, 2, 3])).toBeNull();
  expect(theilSen([1, 1, 1, 1], [1, 2, 3, 4])).toBeNull();
});

test("shifting and scaling y shifts and scales the line; the interval holds the slope", () => {
  fc.assert(
    fc.property(
      fc.array(fc.float({ min: -5, max: 5, noNaN: true }), { minLength: 6, maxLength: 40 }),
      fc.float({ min: Math.fround(0.1), max: 10, noNaN: true }),
      (ys, k) => {
        const xs = ys.map((_, i) => i);
        const a = theilSen(xs, ys)!;
        const b = theilSen(
          xs,
          ys.map((y) => k * y + 3),
        )!;
        expect(b.slope).toBeCloseTo(k * a.slope, 6);
        expect(a.low).toBeLessThanOrEqual(a.slope);
        expect(a.high).toBeGreaterThanOrEqual(a.slope);
      },
    ),
  );
});
