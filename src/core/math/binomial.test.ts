import fc from "fast-check";

import { seeded } from "./random";
import { wilson } from "./binomial";

test("known answers", () => {
  expect(wilson(8, 10).map((x) => x.toFixed(3))).toEqual(["0.541", "0.931"]);
  expect(wilson(0, 0)).toEqual([0, 1]);
});

test("it holds the share, stays within 0 and 1, and narrows with more cases", () =>
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 200 }), fc.integer({ min: 1, max: 200 }), (a, n) => {
      const events = Math.min(a, n);
      const [low, high] = wilson(events, n);
      const [low4, high4] = wilson(events * 4, n * 4);
      const p = events / n;
      return (
        low >= 0 && high <= 1 && low <= p + 1e-12 && p <= high + 1e-12 && high4 - low4 <= high - low + 1e-12
      );
    }),
  ));

test("it covers the true share about nine times in ten", () => {
  const chance = seeded(11);
  let covered = 0;
  for (let i = 0; i < 4000; i++) {
    let hits = 0;
    for (let k = 0; k < 25; k++) if (chance.between(0, 1) < 0.3) hits++;
    const [low, high] = wilson(hits, 25);
    if (low <= 0.3 && 0.3 <= high) covered++;
  }
  expect(covered / 4000).toBeGreaterThan(0.87);
  expect(covered / 4000).toBeLessThan(0.95);
});
