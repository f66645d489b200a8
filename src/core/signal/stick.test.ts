import { analyse, type StickResult } from "../analyse/analyse";
import { STANDARD_MAP } from "../input/input";
import { onCircle, Synthetic } from "./synthetic";

const left = (s: Synthetic): StickResult =>
  analyse(s.done(), STANDARD_MAP).analysis.controls["stick.left"] as StickResult;
const axes = (x: number, y: number) => ({ axes: [x, y, 0, 0] });
const rest = (s: Synthetic, x = 0, y = 0, ms = 2500) => s.add("rest", "", ms, () => axes(x, y));

const circles = (s: Synthetic, edge: (a: number) => number = () => 1, turnMs = 1000, turns = 3) =>
  s
    .add("circle", "stick.left", turns * turnMs, (t) => axes(...onCircle(t, edge, turnMs)))
    .add("circle", "stick.left", turns * turnMs, (t) => axes(...onCircle(t, edge, turnMs, -1)));

/** One push to the edge at `angle`, let go after 300 ms, settled at (x, y) until 1000 ms. */
const flick = (s: Synthetic, angle: number, x: number, y: number, ms = 1000) =>
  s.add("flick", "stick.left", ms, (t) => (t < 300 ? axes(Math.cos(angle), Math.sin(angle)) : axes(x, y)));
const flicks = (s: Synthetic, n: number, x = 0, y = 0) => {
  for (let i = 0; i < n; i++) flick(s, (2 * Math.PI * i) / n, x, y);
  return s;
};
const fullTest = () => flicks(circles(rest(new Synthetic())), 8);

describe("rest", () => {
  test("offset and centre are the median's", () => {
    const r = left(rest(new Synthetic(), 0.03, -0.04));
    expect(r.restCentre).toEqual([0.03, -0.04]);
    expect(r.restOffset).toBeCloseTo(0.05, 9);
    expect(r.restNoise).toBe(0);
    expect(r.restSpikes).toBe(0);
  });

  test("the first 300 ms of each run are left out, and 2 s must remain", () => {
    const s = new Synthetic().add("rest", "", 2500, (t) => axes(t < 296 ? 0.9 : 0.02, 0));
    expect(left(s).restOffset).toBeCloseTo(0.02, 9);
    expect(left(rest(new Synthetic(), 0, 0, 2200)).restOffset).toBeNull();
    expect(left(rest(new Synthetic(), 0, 0, 2200)).reasons).toContainEqual({
      measure: "restOffset",
      value: null,
      limit: null,
      grade: "untested",
      note: "rest-too-short",
    });
  });

  test("rows count by their time: a burst of fast repeats does not move the median", () => {
    const slow = new Synthetic(20).add("rest", "", 3000, () => axes(0.02, 0));
    const fast = new Synthetic(1)
      .add("rest", "", 2900, () => axes(0.02, 0))
      .add("rest", "", 500, () => axes(0.5, 0));
    expect(left(slow).restOffset).toBeCloseTo(0.02, 9);
    expect(left(fast).restOffset).toBeCloseTo(0.02, 9);
  });

  test("excursions within 30 ms of each other are one", () => {
    const out = (t: number) => (t >= 1000 && t < 1012) || (t >= 1032 && t < 1040) || (t >= 2000 && t < 2008);
    const s = new Synthetic().add("rest", "", 3000, (t) => axes(out(t) ? 0.2 : 0, 0));
    expect(left(s).restSpikes).toBe(2);
  });
});

describe("releases", () => {
  test("settled places, their spread and the dead zone that holds them", () => {
    const s = rest(new Synthetic(), 0.01, 0);
    for (let i = 0; i < 16; i++) flick(s, (Math.PI / 4) * i, i % 2 ? 0.04 : 0.01, 0);
    const r = left(s);
    expect(r.releases).toBe(16);
    expect(r.returnWorst).toBeCloseTo(0.03, 6);
    expect(r.returnSpread).toBeCloseTo(Math.sqrt(0.0009 / 2), 6);
    expect(r.safeDeadZone).toBeCloseTo(0.04, 6);
    expect(r.stuckReleases).toBe(0);
  });

  test.each([0, 1, 2, 3, 4, 5, 6, 7])(
    "never let go from direction %i: untested, however often from the others",
    (missing) => {
      const s = circles(rest(new Synthetic()));
      for (let i = 0; i < 24; i++) if (i % 8 !== missing) flick(s, (Math.PI / 4) * i, 0, 0);
      const r = left(s);
      expect([r.octants, r.safeDeadZone]).toEqual([7, null]);
      expect(r.reasons.find((x) => x.measure === "safeDeadZone")?.note).toBe("few-octants");
      expect(r.grade).toBe("untested");
    },
  );

  test("a stick that hangs only when let go from above is found by the round, and fails", () => {
    const s = circles(rest(new Synthetic()));
    for (let i = 0; i < 8; i++) flick(s, (Math.PI / 4) * i, 0, i === 6 ? -0.3 : 0); // y is down: 6 is up
    const r = left(s);
    expect([r.octants, r.stuckReleases, r.grade]).toEqual([8, 1, "fail"]);
  });

  test("seven releases are too few for a dead zone", () => {
    const r = left(flicks(rest(new Synthetic()), 7));
    expect(r.safeDeadZone).toBeNull();
    expect(r.reasons.find((x) => x.measure === "safeDeadZone")?.note).toBe("few-releases");
  });

  test("a release that hangs, and one that never falls, are stuck", () => {
    const s = flicks(rest(new Synthetic()), 8);
    flick(s, 0, 0.2, 0);
    s.add("flick", "stick.left", 1000, (t) => (t < 300 ? axes(1, 0) : axes(0.7, 0)));
    expect(left(s).stuckReleases).toBe(2);
    expect(left(s).releases).toBe(9);
    expect(left(s).grade).toBe("fail");
  });

  test("eight releases say nothing of a stick that hangs now and then; fourteen do", () => {
    const eight = left(flicks(rest(new Synthetic()), 8));
    expect([eight.stuckReleases, eight.smallestSeen.stuckReleases?.value]).toEqual([
      null,
      expect.closeTo(0.312, 3),
    ]);
    const fourteen = left(flicks(rest(new Synthetic()), 14));
    expect([fourteen.stuckReleases, fourteen.smallestSeen.stuckReleases?.value]).toEqual([
      0,
      expect.closeTo(0.193, 3),
    ]);
  });

  test("a hold that trembles about 0.8 is no release that hangs", () => {
    const s = flicks(rest(new Synthetic()), 16);
    s.add("flick", "stick.left", 1000, (t) => axes(t < 300 ? 0.805 : 0.795, 0));
    expect(left(s).stuckReleases).toBe(0);
  });

  test("the next push cuts the settled window; under 100 ms of it gives none", () => {
    const s = rest(new Synthetic());
    for (let i = 0; i < 8; i++) flick(s, i, 0, 0, 300 + 300);
    s.add("flick", "stick.left", 300, () => axes(1, 0));
    expect(left(s).releases).toBe(0);
  });
});

describe("a test that ends with hands off too", () => {
  const twice = (x: number) => rest(flicks(circles(rest(new Synthetic())), 16), x, 0);

  test("a stick that crept off while it was used rests as it does now", () => {
    const r = left(twice(0.2));
    expect([r.restOffset, r.restCentre, r.grade]).toEqual([expect.closeTo(0.2, 6), [0, 0], "fail"]);
    expect(r.calibration!.after.restOffset).toBeCloseTo(0.2, 6); // no centre cures two places
  });

  test("moved by itself in another's step: in doubt; with hands off: a fault", () => {
    const wanders = (t: number) => axes(t > 800 && t < 920 ? 0.15 : 0, 0);
    const idle = (second: boolean) => {
      const s = flicks(circles(rest(new Synthetic())), 16).add("pull", "trigger.right", 3000, wanders);
      return left(second ? s.add("rest", "", 4000, wanders) : rest(s));
    };
    const once = idle(false);
    expect([once.idle?.count, once.idle?.confirmed, once.grade]).toEqual([1, false, "C"]);
    const again = idle(true);
    expect([again.idle?.count, again.idle?.confirmed, again.grade]).toEqual([2, true, "fail"]);
    expect(again.idle?.worst).toBeCloseTo(0.15, 6);
  });

  test("its own thumb at a neighbour is no wandering", () => {
    const s = flicks(circles(rest(new Synthetic())), 16)
      .add("press", "stick.left.click", 2000, () => axes(0.3, 0))
      .add("press", "pad.up", 2000, () => axes(0.3, 0));
    expect(left(rest(s)).idle?.count).toBe(0);
  });
});

describe("edge", () => {
  test("a full circle reaches 1 everywhere with no edge error", () => {
    const r = left(circles(rest(new Synthetic())));
    expect(r.coverage).toBe(1);
    expect(r.reachMin).toBeCloseTo(1, 6);
    expect(r.circularityError).toBeCloseTo(0, 6);
    expect(r.profile).toHaveLength(72);
  });

  test("reach is by direction, counter-clockwise with up as up", () => {
    const short = (a: number) => (Math.cos(a - Math.PI / 2) > 0.8 ? 0.8 : 1); // about up
    const r = left(circles(rest(new Synthetic()), short));
    expect(r.reach!.up).toBeCloseTo(0.8, 6);
    expect(r.reach!.down).toBeCloseTo(1, 6);
    expect(r.reachMin).toBeCloseTo(0.8, 6);
  });

  test("a square edge has the edge error that geometry gives", () => {
    const square = (a: number) => 1 / Math.max(Math.abs(Math.cos(a)), Math.abs(Math.sin(a)));
    const r = left(circles(rest(new Synthetic(2)), square));
    expect(r.reach!.upRight).toBeCloseTo(Math.SQRT2, 1);
    // R(k) is a 90th percentile: over 0..45 degrees the edge sec(a) as seen 4.5 degrees into each sector of 5
    const sectors = Array.from({ length: 9 }, (_, k) => 1 / Math.cos(((5 * k + 4.5) * Math.PI) / 180));
    expect(r.circularityError).toBeCloseTo(sectors.reduce((a, b) => a + b) / 9 - 1, 2);
  });

  test.each([
    ["too fast", () => circles(rest(new Synthetic()), () => 1, 400, 6), "too-fast"],
    ["too few turns", () => circles(rest(new Synthetic()), () => 1, 1000, 1.9), "turns"],
    [
      "gaps",
      () => {
        const arc = (t: number) => (110 * Math.PI * (Math.abs(((t / 1500) % 2) - 1) * 2 - 1)) / 180;
        return rest(new Synthetic()).add("circle", "stick.left", 15000, (t) =>
          axes(Math.cos(arc(t)), Math.sin(arc(t))),
        );
      },
      "coverage",
    ],
  ])("%s: the edge is null and reasons say why", (_name, make, note) => {
    const r = left(make());
    expect(r.circularityError).toBeNull();
    expect(r.reach).toBeNull();
    expect(r.reachMin).toBeNull();
    expect(r.reasons.find((x) => x.measure === "reachMin")).toMatchObject({
      value: null,
      grade: "untested",
      note,
    });
    expect(r.grade).not.toBe("A");
  });

  test("a dead half explains the lack and reaches 0", () => {
    const s = rest(new Synthetic());
    s.add("circle", "stick.left", 8000, (t) => {
      const [x, y] = onCircle(t, () => 1);
      return axes(Math.min(0, x), y);
    });
    const r = left(s);
    expect(r.deadHalves).toEqual(["right"]);
    expect(r.reach!.right).toBe(0);
    expect(r.reach!.left).toBeCloseTo(1, 2);
    expect(r.reachMin).toBe(0);
    expect(r.grade).toBe("fail");
  });

  test("a circle of 5 s that moved nowhere is no answer, and fails", () => {
    const r = left(rest(new Synthetic()).add("circle", "stick.left", 5100, () => axes(0.01, 0)));
    expect(r.noAnswer).toBe(true);
    expect(r.grade).toBe("fail");
    expect(
      left(rest(new Synthetic()).add("circle", "stick.left", 4000, () => axes(0.01, 0))).noAnswer,
    ).toBeNull();
  });
});

describe("jumps", () => {
  const leaping = (t: number, edge: number) => {
    const [x, y] = onCircle(t, () => edge);
    return axes(t > 1500 && t < 1520 ? 0.1 : x, t > 1500 && t < 1520 ? -0.1 : y);
  };

  test("a leap out and back is one event, and says where it began", () => {
    const s = rest(new Synthetic())
      .add("circle", "stick.left", 3000, (t) => leaping(t, 1))
      .add("circle", "stick.left", 3000, (t) => axes(...onCircle(t, () => 1, 1000, -1)));
    const r = left(s);
    expect(r.jumps!.count).toBe(1);
    expect(r.jumps!.at[0]![0]).toBeCloseTo(-1, 1);
    expect(r.jumps!.smallestSeen).toBeCloseTo(0.1, 9);
    expect(r.grade).toBe("fail");
  });

  test("letting go is no jump", () => {
    const s = circles(rest(new Synthetic())).add("circle", "stick.left", 1000, (t) =>
      t < 300 ? axes(1, 0) : axes(0.02, 0),
    );
    expect(left(s).jumps!.count).toBe(0);
  });

  test("at 60 Hz a quick hand hides a leap: the count is withheld, and the reason says what to do", () => {
    const quick = flicks(
      circles(rest(new Synthetic(1000 / 60)), () => 1, 713, 9),
      16,
    );
    const r = left(quick);
    expect(r.jumps!.smallestSeen).toBeGreaterThan(0.15);
    expect([r.jumps!.count, r.grade]).toEqual([null, "untested"]);
    expect(r.reasons.find((x) => x.measure === "jumps")?.note).toBe("move-slower");
    const slow = left(
      flicks(
        circles(rest(new Synthetic(1000 / 60)), () => 1, 1413, 9),
        16,
      ),
    );
    expect(slow.jumps!.smallestSeen).toBeLessThanOrEqual(0.15);
    expect(slow.jumps!.count).toBe(0);
  });

  /** A track that skips a piece of x: what lies between its ends never comes. */
  const skipping = (size: number, at: number) => (x: number) =>
    x < at ? -1 + ((x + 1) * (at + 1 - size / 2)) / (at + 1) : 1 - ((1 - x) * (1 - at - size / 2)) / (1 - at);
  const wornCircles = (s: Synthetic, size: number, turnMs: number) => {
    const skip = skipping(size, 0.3);
    for (const way of [1, -1])
      s.add("circle", "stick.left", 4 * turnMs, (t) => {
        const [x, y] = onCircle(t, () => 1, turnMs, way);
        return axes(skip(x), y);
      });
    return s;
  };
  test.each([
    [60, 1300],
    [90, 1000],
    [125, 800],
    [250, 700],
  ])("a leap of 0.2 out of the flow is found at %d Hz, along its axis", (hz, turnMs) => {
    const r = left(wornCircles(rest(new Synthetic(1000 / hz)), 0.2, turnMs));
    expect(r.jumps!.count).toBeGreaterThanOrEqual(8);
    expect(r.jumps!.axis!.every((a) => a === "x")).toBe(true);
    for (const [x] of r.jumps!.at) expect(Math.abs(x - 0.3)).toBeLessThan(0.35);
    expect(r.grade).toBe("fail");
  });

  test("a count of 0 needs valid circles; seen leaps stand without", () => {
    const none = rest(new Synthetic()).add("circle", "stick.left", 1000, (t) =>
      axes(...onCircle(t, () => 1)),
    );
    expect(left(none).jumps).toBeNull();
    const seen = rest(new Synthetic()).add("sweep", "stick.left", 2000, (t) => axes(t > 1000 ? 0.5 : 0, 0));
    expect(left(seen).jumps!.count).toBe(1);
  });
});

test("cross-talk is the lean of the pushes, in degrees", () => {
  const a = (3 * Math.PI) / 180;
  const push = (t: number): [number, number] => {
    const r = Math.abs(Math.sin((Math.PI * t) / 500));
    return t < 500 ? [r * Math.cos(a), -r * Math.sin(a)] : [-r * Math.sin(a), -r * Math.cos(a)];
  };
  const r = left(rest(new Synthetic()).add("sweep", "stick.left", 1000, (t) => axes(...push(t))));
  expect(r.crossTalkDeg!.x).toBeCloseTo(3, 3);
  expect(r.crossTalkDeg!.y).toBeCloseTo(3, 3);
});

test("calibration cures an offset and a short reach, and leaves the shape", () => {
  const off = (t: number, way: number): [number, number] => {
    const [x, y] = onCircle(t, () => 0.9, 1000, way);
    return [0.06 + x, y];
  };
  const s = rest(new Synthetic(), 0.06, 0)
    .add("circle", "stick.left", 3000, (t) => axes(...off(t, 1)))
    .add("circle", "stick.left", 3000, (t) => axes(...off(t, -1)));
  const { calibration } = left(s);
  expect(calibration!.centre[0]).toBeCloseTo(0.06, 9);
  expect(calibration!.high[0]).toBeCloseTo(0.96, 2);
  expect(calibration!.low[0]).toBeCloseTo(-0.84, 2);
  expect(calibration!.after.reachMin).toBeCloseTo(1, 2);
  expect(calibration!.after.circularityError!).toBeLessThan(0.01);
});

test("a whole clean test is grade A; a required null is never a pass", () => {
  expect(left(fullTest())).toMatchObject({ grade: "A", reasons: [] });
  expect(left(flicks(rest(new Synthetic()), 8)).grade).toBe("untested");
});
