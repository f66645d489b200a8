import fc from "fast-check";

import { median, quantile, weightedQuantile } from "./quantile";

/** The slow twin: sort everything, then interpolate between the middles of the weights. */
function bySorting(values: number[], weights: number[], p: number): number {
  const rows = values.map((v, i) => ({ v, w: weights[i]! })).sort((a, b) => a.v - b.v);
  const total = rows.reduce((s, r) => s + r.w, 0);
  let c = 0;
  const places = rows.map((r) => {
    c += r.w;
    return c - r.w / 2;
  });
  const target = p * total;
  const i = places.findIndex((place) => target <= place);
  if (i === 0) return rows[0]!.v;
  if (i < 0) return rows.at(-1)!.v;
  const span = places[i]! - places[i - 1]!;
  return rows[i - 1]!.v + (span > 0 ? ((rows[i]!.v - rows[i - 1]!.v) * (target - places[i - 1]!)) / span : 0);
}

test("selection gives what sorting gives", () => {
  const value = fc.double({ min: -1, max: 1, noNaN: true });
  const row = fc.tuple(value, fc.double({ min: 0.01, max: 50, noNaN: true }));
  fc.assert(
    fc.property(
      fc.uniqueArray(row, { minLength: 1, maxLength: 300, selector: ([v]) => v }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (rows, p) => {
        const v = rows.map((r) => r[0]);
        const w = rows.map((r) => r[1]);
        expect(weightedQuantile(Float64Array.from(v), Float64Array.from(w), p)).toBeCloseTo(
          bySorting(v, w, p),
          9,
        );
      },
    ),
    { numRuns: 400, seed: 41 },
  );
});

test("a heavy value stays itself: most of the time at one reading is that reading", () => {
  const v = Float64Array.from([...Array<number>(1000).fill(0.02), ...Array<number>(100).fill(0.5)]);
  expect(weightedQuantile(v, new Float64Array(1100).fill(4), 0.5)).toBe(0.02);
});

test("known answers", () => {
  expect(median([3, 1, 2])).toBe(2);
  expect(quantile([1, 2, 3, 4], 0.25)).toBe(1.75);
  expect(weightedQuantile(new Float64Array(), new Float64Array(), 0.5)).toBeNaN();
  expect(weightedQuantile(Float64Array.of(5, 7), Float64Array.of(0, 0), 0.5)).toBe(6);
});
