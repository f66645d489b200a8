import { analyse, type TriggerResult } from "../analyse/analyse";
import { STANDARD_MAP } from "../input/input";
import { plotsOf } from "../plots/plots";
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

test("full pull is where the worst of the held pulls ends; a pull that stays above 0.05 does not count", () => {
  const s = rest(new Synthetic());
  [0.9, 0.95, 1].forEach((top) => pull(s, 800, (u) => u * top));
  expect(measure(s).fullPull).toBeCloseTo(0.9, 6);
  s.add("pull", "trigger.left", 1000, (t) => b6(t < 500 ? t / 500 : 0.2));
  expect(measure(s).pulls).toBe(3);
});

test("one pull of three that stops at 0.8 fails, wherever it comes", () => {
  for (const short of [0, 1, 2]) {
    const s = rest(new Synthetic());
    for (let i = 0; i < 3; i++) pull(s, 800, (u) => u * (i === short ? 0.8 : 1));
    const r = measure(s);
    expect(r.fullPull).toBeCloseTo(0.8, 6);
    expect(r.grade).toBe("fail");
  }
});

test("of six held pulls one half pull of the hand is left out; two are the trigger's", () => {
  const six = (short: number) => {
    const s = rest(new Synthetic());
    for (let i = 0; i < 6; i++) pull(s, 800, (u) => u * (i < short ? 0.6 : 1));
    return measure(s);
  };
  expect(six(1).fullPull).toBeCloseTo(1, 6);
  expect(six(1).grade).toBe("A");
  expect(six(2).fullPull).toBeCloseTo(0.6, 6);
});

test("a pull that is let go at once is no end of travel: three of them leave it untested", () => {
  const s = rest(new Synthetic());
  // up to 0.7 and straight back, as a hand that tries whether it moves
  for (let i = 0; i < 3; i++)
    s.add("pull", "trigger.left", 1400, (t) =>
      b6(Math.max(0, t < 500 ? t * 0.0014 : 0.7 - (t - 500) * 0.0014)),
    );
  const r = measure(s);
  expect([r.pulls, r.fullPull, r.grade]).toEqual([3, null, "untested"]);
});

test("a value that leaps leaves a hole in the travel", () => {
  const leap = measure(pulls(3, 800, (u) => (u < 0.5 ? u * 0.8 : 0.6 + (u - 0.5) * 0.8)));
  expect(leap.largestStep).toBeCloseTo(0.2, 2);
  expect(leap.grade).toBe("fail");
});

test.each([8, 40, 120, 200])(
  "nor does a value that sticks for %i ms and then leaps explain it by that time",
  (stuck) => {
    const size = 0.2;
    const at = 0.5;
    const r = measure(
      pulls(3, 1000, (u) => {
        const ms = u * 1000;
        if (ms < 400) return (ms / 400) * (at - size / 2);
        if (ms < 400 + stuck) return at - size / 2;
        return at + size / 2 + ((ms - 400 - stuck) / (600 - stuck)) * (1 - at - size / 2);
      }),
    );
    expect(r.largestStep).toBeGreaterThan(0.9 * size);
    expect(r.grade).toBe("fail");
  },
);

test("a good trigger by a slow, a quick and an uneven hand has no hole", () => {
  const ease = (u: number) => u * u * (3 - 2 * u);
  for (const shape of [ease, (u: number) => u ** 0.8, (u: number) => u ** 2]) {
    for (const upMs of [700, 1200, 2500]) {
      const r = measure(pulls(3, upMs, shape));
      expect([upMs, r.grade, (r.largestStep ?? 1) < 0.06]).toEqual([upMs, "A", true]);
    }
  }
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

describe("sag while held", () => {
  /** Held 400 ms, in which the value falls to 1 - size; let go in `downMs`. */
  const heldRows = (size: number, downMs: number) => {
    const s = rest(new Synthetic());
    for (let i = 0; i < 3; i++)
      s.add("pull", "trigger.left", 1800 + downMs, (t) => {
        if (t < 800) return b6(t / 800);
        const low = 1 - size * Math.min(1, (t - 800) / 150);
        if (t < 1200) return b6(low);
        return b6(Math.max(0, low * (1 - (t - 1200) / downMs)));
      });
    return s;
  };
  const held = (size: number, downMs: number) => measure(heldRows(size, downMs));

  test.each([0.03, 0.05, 0.08, 0.15])("a sag of %d is measured, whatever the release", (size) => {
    for (const downMs of [60, 200, 600]) expect(held(size, downMs).holdSag).toBeCloseTo(size, 2);
  });

  test.each([60, 200, 600, 1000])("letting go over %i ms is no sag", (downMs) => {
    expect(held(0, downMs).holdSag).toBeLessThan(0.02);
  });

  test("where it sagged is told for the drawing: from the end of travel to the lowest, in the pull that is drawn", () => {
    const r = heldRows(0.15, 200).done();
    const plots = plotsOf(r, STANDARD_MAP, analyse(r, STANDARD_MAP).evidence);
    const { pull, from, to } = plots.marks["trigger.left"]!.sag!;
    expect([from[1], to[1]]).toEqual([1, 0.85]);
    // a pull begins where it leaves its rest, 40 ms in: up until 800 ms, lowest 150 ms later
    expect([Math.abs(from[0] - 760) <= 8, Math.abs(to[0] - 910) <= 8]).toEqual([true, true]);
    const drawn = plots.triggers["trigger.left"]![pull]!;
    expect(drawn).toContainEqual(to);
    expect(drawn.at(-1)![1]).toBeLessThan(0.1); // until it was let go
  });

  test("beyond grade C it fails, alone", () => {
    const r = held(0.08, 200);
    expect([r.grade, r.reasons.map((x) => x.measure)]).toEqual(["fail", ["holdSag"]]);
  });
});

test("an hour of slow pulls is measured like three of them", () => {
  const s = rest(new Synthetic(1));
  for (let i = 0; i < 90; i++) pull(s, 2000);
  const r = measure(s);
  expect([r.pulls, r.grade]).toEqual([90, "A"]); // some 180,000 rises: more than a call takes arguments
});
