import { HOUSE_LIMITS } from "../grade/limits";
import { seeded } from "../math/random";
import { BENCH_PRESETS, type BenchFaults, simulatedReading } from "../simulate/instruments";
import { judgeReading } from "./judge";
import type { Reading } from "./readings";
import { isTooClose, least, most, within } from "./result";

/**
 * Readings with their doubt: the truth is made here, read by a meter that rounds and is off, and the interval
 * must hold it; what lies too close to its limit is no pass.
 */
const CELL = { chemistry: "lithium-ion", cells: 1, nominalVolts: 3.7, capacityMah: 900 } as const;
const judge = (reading: Reading) =>
  judgeReading(reading, { supply: CELL, limits: HOUSE_LIMITS, reference: () => null });
const figure = (r: ReturnType<typeof judge>, name: string) => r.figures.find((f) => f.name === name)!;

/** A hand-held meter: off by up to half a percent for good, and its last digit rounded. */
const meter = (c: ReturnType<typeof seeded>, digit: number) => {
  const off = c.between(-0.005, 0.005);
  return (v: number) => Math.round((v * (1 + off)) / digit) * digit;
};

test("the internal resistance holds the truth in its interval, and no bad cell passes by rounding", () => {
  let held = 0;
  let passedBad = 0;
  const n = 2000;
  for (let seed = 1; seed <= n; seed++) {
    const c = seeded(seed);
    const ohms = c.between(0.1, 0.9);
    const amps = c.between(0.2, 0.5);
    const open = c.between(3.75, 4.15);
    const volts = meter(c, 0.01);
    const r = judge({
      kind: "supply",
      supply: "main",
      openVolts: volts(open),
      loadedVolts: volts(open - ohms * amps),
      loadAmps: meter(c, 0.001)(amps),
    });
    const f = figure(r, "internalResistance");
    if (f.low! <= ohms && ohms <= f.high!) held++;
    if (r.verdict === "pass" && ohms > HOUSE_LIMITS.bench.internalOhmsPerCell) passedBad++;
  }
  expect(held / n).toBeGreaterThanOrEqual(0.95);
  expect(passedBad / n).toBeLessThan(0.005);
});

describe("a clip that slips in one reading of seven", () => {
  const verdicts = (method: string, subject: string, faults: BenchFaults) => {
    const all = { pass: 0, fail: 0, "not-tested": 0 };
    const step = { method, subject };
    for (let seed = 1; seed <= 400; seed++)
      all[
        judge(simulatedReading(step, CELL, seed, { ...BENCH_PRESETS["clip that slips"], ...faults })!)
          .verdict as "pass"
      ]++;
    return all;
  };
  test.each<[string, string, string, BenchFaults]>([
    ["a sensor off balance", "contact-sensor", "stick.left.x", { imbalance: 0.12 }],
    ["a sensor with an open leg", "contact-sensor", "stick.left.x", { openLeg: true }],
    ["a tired cell", "supply", "main", { voltsShare: 0.99, internalOhms: 1.1 }],
  ])("never makes %s pass", (_, method, subject, faults) =>
    expect(verdicts(method, subject, faults).pass).toBe(0),
  );
  test("asks for another reading of a good sensor far more often than it calls it broken", () => {
    const good = verdicts("contact-sensor", "stick.left.x", {});
    expect(good["not-tested"]).toBeGreaterThan(100); // 1 - 0.85^6 of them slipped at all
    expect(good.fail).toBeLessThan(good["not-tested"] / 2);
    expect(good.pass).toBeGreaterThan(100);
  });
});

test("a level of sound holds the truth in its interval, whatever the windows' spread", () => {
  let held = 0;
  const n = 800;
  for (let seed = 1; seed <= n; seed++) {
    const c = seeded(seed);
    const spread = c.between(0.05, 0.4);
    const windows = (level: number) =>
      Array.from({ length: 60 }, () => level * Math.exp(spread * c.normal()));
    const r = judge({
      kind: "tone",
      functionId: "speaker",
      hz: 1000,
      heardBy: "bench",
      silent: windows(0.001),
      sounding: windows(0.05),
    });
    const f = figure(r, "toneLevel");
    const truth = 20 * Math.log10(0.05);
    if (f.low! <= truth && truth <= f.high!) held++;
  }
  expect(held / n).toBeGreaterThanOrEqual(0.93);
});

test("what keeps its limit by less than its doubt is too close to tell: no pass, and said", () => {
  const close = within(most("x", 0.98, "ohm", 1), 0.93, 1.03);
  expect([close.keeps, isTooClose(close), close.smallest]).toEqual([null, true, expect.closeTo(1.05, 9)]);
  expect(within(least("x", 1.02, "V", 1), 0.97, 1.07)).toMatchObject({ keeps: null, smallest: 0.95 });
  expect(within(most("x", 0.9, "ohm", 1), 0.85, 0.95).keeps).toBe(true);
  expect(within(most("x", 1.01, "ohm", 1), 0.96, 1.06).keeps).toBe(false); // a fail that was seen stands
  const r = judge({ kind: "supply", supply: "main", openVolts: 4, loadedVolts: 3.877, loadAmps: 0.25 });
  expect([r.verdict, r.findings.map((f) => f.code)]).toEqual(["not-tested", ["too-close"]]);
});

test("a reading says the shortest break and gap that it would have shown", () => {
  const rows = Array.from({ length: 40 }, (_, i) => ({
    minutes: 5 * i,
    milliamps: i < 30 ? 300 : 300 - 28 * (i - 29),
    volts: null,
  }));
  const log = judge({ kind: "charge-log", supply: "main", rows, signShown: true });
  expect(figure(log, "shortestBreakSeen").value).toBe(300);
  expect(figure(log, "taken").high! / figure(log, "taken").value!).toBeCloseTo(1.02, 6);
  const times = Array.from({ length: 400 }, (_, i) => i * 20);
  const link = judge({
    kind: "link-watch",
    functionId: "cord",
    what: "cord",
    times,
    marks: [{ t: 0, place: "plug" }],
    chargingAt: {},
    plugHold: null,
  } as Reading);
  expect(figure(link, "shortestGapSeen").value).toBe(160); // eight usual gaps of 20 ms
});
