import { analyse, type TriggerResult } from "../analyse/analyse";
import { STANDARD_MAP } from "../input/input";
import { Synthetic } from "./synthetic";

const measure = (s: Synthetic) =>
  analyse(s.done(), STANDARD_MAP).analysis.controls["trigger.left"] as TriggerResult;
const b6 = (v: number) => ({ buttons: { 6: v } });
const rest = (s: Synthetic, v = 0) => s.add("rest", "", 2500, () => b6(v));
/** Up in `upMs` along `shape`, held 200 ms, back in 300 ms, 300 ms of rest. */
const pull = (s: Synthetic, upMs = 800, shape: (u: number) => number = (u) => u, base = 0) =>
  s.add("pull", "trigger.left", upMs + 800, (t) => {
    if (t < upMs) return b6(Math.max(base, shape(t / upMs)));
    if (t < upMs + 200) return b6(shape(1));
    return b6(Math.max(base, shape(1) * (1 - (t - upMs - 200) / 300)));
  });
const pulls = (n: number, ...rest_: Parameters<typeof pull> extends [unknown, ...infer R] ? R : never) => {
  const s = rest(new Synthetic());
  for (let i = 0; i < n; i++) pull(s, ...rest_);
  return s;
};

test("three clean pulls are grade A", () => {
  const r = measure(pulls(3));
  expect(r).toMatchObject({ restValue: 0, pulls: 3, backtrack: 0, noAnswer: false, grade: "A" });
  expect(r.fullPull).toBeCloseTo(1, 9);
  expect(r.largestStep).toBeLessThan(0.01);
});

test("two pulls are too few", () => {
  const r = measure(pulls(2));
  expect(r.fullPull).toBeNull();
  expect(r.grade).toBe("untested");
});

test("full pull is the median of the highest values; a pull that stays above 0.05 does not count", () => {
  const s = rest(new Synthetic());
  [0.9, 0.95, 1].forEach((top) => pull(s, 800, (u) => u * top));
  expect(measure(s).fullPull).toBeCloseTo(0.95, 6);
  s.add("pull", "trigger.left", 1000, (t) => b6(t < 500 ? t / 500 : 0.2));
  expect(measure(s).pulls).toBe(3);
});

test("a value that leaps leaves a hole in the travel", () => {
  const r = measure(pulls(3, 800, (u) => (u > 0.4 && u < 0.6 ? 0.4 : u)));
  // held at 0.4 for the time of 0.2 of travel, then it leaps: no extra speed is needed, so the leap is
  // explained by time
  expect(r.largestStep).toBeLessThan(0.02);
  const leap = measure(pulls(3, 800, (u) => (u < 0.5 ? u * 0.8 : 0.6 + (u - 0.5) * 0.8)));
  expect(leap.largestStep).toBeCloseTo(0.2, 2);
  expect(leap.grade).toBe("fail");
});

test("backtrack is a fall within 50 ms, not a slow hesitation", () => {
  const dip = measure(pulls(3, 1000, (u) => (u > 0.5 && u < 0.51 ? u - 0.05 : u)));
  expect(dip.backtrack).toBeCloseTo(0.05, 1);
  const hesitates = measure(
    pulls(3, 2000, (u) => {
      if (u < 0.4) return u;
      if (u < 0.6) return 0.4 - (u - 0.4) * 0.2;
      return 0.36 + (u - 0.6) * 1.6;
    }),
  );
  expect(hesitates.backtrack).toBeLessThan(0.01);
});

test("fast pulls give no evidence of evenness", () => {
  const r = measure(pulls(3, 300));
  expect(r.largestStep).toBeNull();
  expect(r.reasons.find((x) => x.measure === "largestStep")?.note).toBe("no-slow-pull");
});

test("5 s asked for and nothing moved is no answer", () => {
  const r = measure(rest(new Synthetic()).add("pull", "trigger.left", 5100, () => b6(0.02)));
  expect(r.noAnswer).toBe(true);
  expect(r.grade).toBe("fail");
});
