import { HOUSE_LIMITS } from "../grade/limits";
import {
  placesOf,
  simulatedChargeLog,
  simulatedDischargeLog,
  simulatedLinkWatch,
  simulatedReading,
} from "../simulate/instruments";
import {
  internalResistance,
  judgeChargeLog,
  judgeDischargeLog,
  judgeSupply,
  stateOfCharge,
  type Supply,
  supplySuspect,
} from "./cells";
import { judgeContactSensor } from "./contact-sensor";
import { judgeReading } from "./judge";
import { findDropouts, judgeLinkWatch, metresAt } from "./links";
import { readLog } from "./log-csv";
import type { Reading, ReadingOf } from "./readings";
import { readingSchema } from "./readings";
import { compareWith } from "./reference";
import { dbfs, judgeMicrophone, judgeTone, rms, toneLevel } from "./sound";

const LIMITS = HOUSE_LIMITS.bench;
const PACK: Supply = { chemistry: "lithium-polymer", cells: 1, nominalVolts: 3.7, capacityMah: 900 };
const PAIR: Supply = { chemistry: "nickel-metal-hydride", cells: 2, nominalVolts: 2.4, capacityMah: 2000 };
const judge = (reading: Reading, supply: Supply | null = PACK) =>
  judgeReading(reading, { supply, limits: HOUSE_LIMITS, reference: () => null });
const figure = (r: { figures: { name: string; value: number | null }[] }, name: string) =>
  r.figures.find((f) => f.name === name)?.value;
const codes = (r: { findings: { code: string }[] }) => r.findings.map((f) => f.code);

describe("cells", () => {
  const supply = (openVolts: number, loadedVolts: number | null = null, loadAmps: number | null = null) =>
    ({ kind: "supply", supply: "main", openVolts, loadedVolts, loadAmps }) as ReadingOf<"supply">;

  test("internal resistance is the sag over the current", () => {
    expect(internalResistance(3.9, 3.7, 0.5)).toBeCloseTo(0.4, 12);
    expect(figure(judgeSupply(supply(3.9, 3.7, 0.5), PACK, LIMITS), "internalResistance")).toBeCloseTo(
      0.4,
      12,
    );
  });

  test.each([
    [supply(3.95, 3.88, 0.3), "pass", []],
    [supply(3.95, 3.55, 0.3), "fail", ["cell-sags"]],
    [supply(3.1), "fail", ["charge-first", "no-load-reading"]],
    [supply(4.4), "fail", ["voltage-too-high", "no-load-reading"]],
    [supply(3.9, 4.1, 0.3), "not-tested", ["load-raised-voltage"]],
  ] as const)("a pack at %o is %s", (reading, verdict, said) => {
    const r = judgeSupply(reading, PACK, LIMITS);
    expect(r.verdict).toBe(verdict);
    expect(codes(r)).toEqual(said);
  });

  test("cells in series are judged against their number", () => {
    expect(judgeSupply(supply(2.6, 2.5, 0.3), PAIR, LIMITS).verdict).toBe("pass");
    expect(judgeSupply(supply(2.0), PAIR, LIMITS).verdict).toBe("fail");
  });

  test("state of charge rises with the voltage and stays within 0 and 1", () => {
    const shares = [2.5, 3.5, 3.7, 3.85, 4.1, 4.3].map((v) => stateOfCharge("lithium-ion", v)!);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect([shares[0], shares.at(-1)]).toEqual([0, 1]);
    expect(stateOfCharge("none", 5)).toBeNull();
  });

  test("a charge log adds up by the trapezoid rule", () => {
    const rows = [
      { minutes: 0, milliamps: 400, volts: 3.6 },
      { minutes: 60, milliamps: 400, volts: 3.9 },
      { minutes: 120, milliamps: 0, volts: 4.19 },
    ];
    const r = judgeChargeLog({ kind: "charge-log", supply: "main", rows, signShown: true }, PACK, LIMITS);
    expect(figure(r, "taken")).toBeCloseTo(600, 9);
    expect(figure(r, "shareOfRated")).toBeCloseTo(600 / 900, 9);
    expect(codes(r)).toEqual(["cell-takes-little"]);
  });

  test.each([
    ["healthy", {}, "none"],
    ["a tired cell", { capacityShare: 0.4 }, "cell"],
    ["contacts that break", { chargeBreaks: 4 }, "contacts"],
    ["no current", { noCharge: true }, "charging-circuit"],
  ] as const)("%s points where it should", (_, faults, suspect) => {
    const charge = judgeChargeLog(
      { kind: "charge-log", supply: "main", rows: simulatedChargeLog(5, PACK, faults), signShown: true },
      PACK,
      LIMITS,
    );
    expect(supplySuspect([charge]).suspect).toBe(suspect);
  });

  test("nothing measured decides nothing, and no sign without current stays undecided", () => {
    expect(supplySuspect([]).suspect).toBe("undecided");
    const dark = judgeChargeLog(
      {
        kind: "charge-log",
        supply: "main",
        rows: simulatedChargeLog(5, PACK, { noCharge: true }),
        signShown: false,
      },
      PACK,
      LIMITS,
    );
    expect(supplySuspect([dark]).suspect).toBe("undecided");
  });

  /** A log of a cell that holds `share` of what is written on it, over `covers` of its charge. */
  const runDown = (seed: number, share: number, covers: number, supply: Supply = PACK) =>
    judgeDischargeLog(
      {
        kind: "discharge-log",
        supply: "main",
        rows: simulatedDischargeLog(seed, supply, { capacityShare: share }, 150, covers),
        loadMilliamps: 150,
      },
      supply,
      LIMITS,
    );

  test("a log that reached cut-off says the run time by its crossing", () => {
    const rows = [4.1, 3.9, 3.7, 3.5, 3.2, 2.8].map((volts, i) => ({ minutes: i * 60, volts }));
    const r = judgeDischargeLog(
      { kind: "discharge-log", supply: "main", rows, loadMilliamps: 150 },
      PACK,
      LIMITS,
    );
    const run = r.figures.find((f) => f.name === "runTime")!;
    expect(run).toMatchObject({ value: expect.closeTo(4.5, 6), low: 4, high: 5 });
  });

  test.each(["lithium-ion", "nickel-metal-hydride", "alkaline"] as const)(
    "of curved %s discharges no cell of 40 to 60 %% passes, none of 90 %% fails, and the interval holds the truth",
    (chemistry) => {
      const supply = { ...PACK, chemistry, cells: chemistry === "lithium-ion" ? 1 : 2 };
      const seen = { held: 0, all: 0, decided: 0, good: 0 };
      for (let seed = 1; seed <= 120; seed++)
        for (const share of [0.4, 0.5, 0.6, 0.9, 1])
          for (const covers of [0.5, 0.8, 1.05]) {
            const r = runDown(seed, share, covers, supply);
            const figure = r.figures.find((f) => f.name === "shareOfRated");
            if (share <= 0.6) expect([seed, share, covers, r.verdict]).not.toContain("pass");
            else {
              expect([seed, share, covers, r.verdict]).not.toContain("fail");
              seen.good++;
              if (r.verdict === "pass") seen.decided++;
            }
            if (!figure) continue;
            seen.all++;
            if (figure.low! <= share && share <= figure.high!) seen.held++;
          }
      expect(seen.held / seen.all).toBeGreaterThanOrEqual(0.95);
      expect(seen.decided / seen.good).toBeGreaterThan(0.3); // a log to the end decides
    },
  );

  test("a log of less than a third of the charge gives no verdict, and says so", () => {
    for (let seed = 1; seed <= 40; seed++) {
      const r = runDown(seed, 0.4, 0.2);
      expect([seed, r.verdict, codes(r)]).toEqual([seed, "not-tested", ["log-covers-little"]]);
    }
  });

  test("lying still, a leak is told per day", () => {
    const rows = Array.from({ length: 9 }, (_, i) => ({ minutes: i * 360, volts: 4.0 - i * 0.02 }));
    const r = judgeDischargeLog(
      { kind: "discharge-log", supply: "main", rows, loadMilliamps: 0 },
      PACK,
      LIMITS,
    );
    expect(figure(r, "leak")).toBeCloseTo(80, 6);
    expect(codes(r)).toContain("cell-leaks");
  });
});

describe("contact sensors", () => {
  const sensor = (readings: [number | null, number | null, boolean?][]) =>
    judgeContactSensor(
      {
        kind: "contact-sensor",
        controlId: "stick.left",
        axis: "x",
        nominalOhms: 10_000,
        readings: readings.map(([a, b, finger = false]) => ({ a, b, finger })),
      },
      LIMITS,
      0.12,
    );

  test("imbalance times the gain predicts the axis offset, signed", () => {
    const r = sensor([
      [5300, 4700],
      [5300, 4700],
    ]);
    expect(figure(r, "imbalance")).toBeCloseTo(0.06, 12);
    expect(figure(r, "predictedOffset")).toBeCloseTo(0.096, 12);
    expect(r.verdict).toBe("pass");
    expect(figure(sensor([[4000, 6000]]), "predictedOffset")).toBeCloseTo(-0.32, 12);
    expect(sensor([[4000, 6000]]).verdict).toBe("fail");
  });

  test("repeats give an uncertainty that narrows; a reading with a finger on the part is left out", () => {
    const few = sensor([
      [5100, 4900],
      [5200, 4800],
    ]);
    const many = sensor(
      Array.from({ length: 8 }, (_, i): [number, number] => (i % 2 ? [5200, 4800] : [5100, 4900])),
    );
    const width = (r: typeof few) => {
      const f = r.figures.find((x) => x.name === "predictedOffset")!;
      return f.high! - f.low!;
    };
    expect(width(many)).toBeLessThan(width(few));
    const left = sensor([
      [5000, 5000],
      [9000, 1000, true],
    ]);
    expect(figure(left, "imbalance")).toBe(0);
    expect(codes(left)).toContain("finger-left-out");
    expect(sensor([[9000, 1000, true]]).verdict).toBe("not-tested");
  });

  test("an open leg, or a total far from nominal, is a broken track", () => {
    expect(codes(sensor([[5000, null]]))).toContain("leg-open");
    // once beside two good readings the clip may have slipped: neither a fault nor a pass
    const once = sensor([
      [5000, 5000],
      [5000, null],
      [5000, 5000],
    ]);
    expect([once.verdict, codes(once)]).toEqual(["not-tested", ["leg-open-once"]]);
    expect(figure(once, "repeats")).toBe(2);
    // what the good ones show stands all the same
    const off = sensor([
      [6000, 4000],
      [null, 4000],
      [6000, 4000],
    ]);
    expect([off.verdict, codes(off)]).toEqual(["fail", ["leg-open-once"]]);
    const twice = sensor([
      [5000, 5000],
      [5000, null],
      [5000, null],
      [5000, 5000],
    ]);
    expect([twice.verdict, codes(twice)]).toEqual(["fail", ["leg-open"]]);
    expect(codes(sensor([[6600, 6600]]))).toContain("track-broken");
    expect(sensor([[6400, 6400]]).verdict).toBe("pass");
  });
});

describe("links", () => {
  test("a gap is a dropout only when it is long for this pad", () => {
    expect(findDropouts([0, 4, 8, 12, 150, 154], 100)).toEqual([{ atMs: 12, ms: 138 }]);
    expect(findDropouts([0, 50, 100, 250, 300], 100)).toEqual([]); // 150 ms is three usual intervals
  });

  test("metres lie between the marks in proportion", () => {
    const marks = [
      { t: 0, place: "0", metres: 0 },
      { t: 1000, place: "1", metres: 1 },
      { t: 3000, place: "3", metres: 3 },
    ];
    expect(metresAt(marks, 500)).toBeCloseTo(0.5);
    expect(metresAt(marks, 2000)).toBeCloseTo(2);
    expect(metresAt(marks, 9000)).toBe(3);
  });

  test.each([
    ["radio", {}, "pass", []],
    ["radio", { radioDropMetres: 2.5 }, "fail", ["radio-drops"]],
    ["cord", {}, "pass", []],
    ["cord", { dropsAt: "shell" }, "fail", ["drops-at"]],
    ["port", { dropsAt: "up" }, "fail", ["drops-at"]],
  ] as const)("a watched %s with %o is %s", (what, faults, verdict, said) => {
    const r = judgeLinkWatch(
      {
        kind: "link-watch",
        what,
        functionId: "f",
        ...simulatedLinkWatch(4, what, placesOf(what), faults),
        chargingAt: {},
        plugHold: "firm",
      },
      LIMITS,
    );
    expect(r.verdict).toBe(verdict);
    expect(codes(r)).toEqual(said);
    if (what === "radio" && verdict === "fail") expect(figure(r, "firstDropout")).toBeCloseTo(2.75, 0);
  });

  test("a cord of which only the plug was flexed is not tested, never a pass", () => {
    const watched = simulatedLinkWatch(4, "cord", ["plug"], {});
    const r = judgeLinkWatch(
      { kind: "link-watch", what: "cord", functionId: "f", ...watched, chargingAt: {}, plugHold: null },
      LIMITS,
    );
    expect(r.verdict).toBe("not-tested");
    expect(codes(r)).toEqual(["places-left"]);
  });
});

describe("sound", () => {
  const sine = (hz: number, amplitude: number) =>
    Float64Array.from({ length: 4800 }, (_, i) => amplitude * Math.sin((2 * Math.PI * hz * i) / 48_000));

  test("levels are root mean squares in dBFS, and one tone is picked out of another", () => {
    expect(dbfs(rms(sine(1000, 1)))).toBeCloseTo(-3.01, 2);
    expect(toneLevel(sine(1000, 0.5), 1000, 48_000)).toBeCloseTo(0.5 / Math.SQRT2, 3);
    expect(toneLevel(sine(3000, 0.5), 1000, 48_000)).toBeLessThan(0.001);
    expect(dbfs(0)).toBe(-120);
  });

  const windows = (level: number) => Array.from({ length: 20 }, () => level);
  const heard = (phrase: number, rub: number, reference: number | null = null) =>
    judgeMicrophone(
      {
        kind: "microphone",
        functionId: "m",
        windowMs: 50,
        quiet: windows(0.001),
        phrase: windows(phrase),
        rub: windows(rub),
      },
      LIMITS,
      reference,
    );
  test.each([
    [0.1, 0.03, "pass", ["no-reference"]],
    [0.001, 0.001, "fail", ["microphone-deaf", "no-reference"]],
    [0.002, 0.03, "fail", ["microphone-muffled", "no-reference"]],
    [0.1, 0.001, "fail", ["not-this-opening", "no-reference"]],
  ] as const)("phrase %d and rub %d are %s", (phrase, rub, verdict, said) => {
    expect(heard(phrase, rub).verdict).toBe(verdict);
    expect(codes(heard(phrase, rub))).toEqual(said);
  });

  test("quieter than the reference by more than the limit fails", () => {
    expect(heard(0.1, 0.03, -18).verdict).toBe("pass");
    expect(codes(heard(0.1, 0.03, -8))).toContain("below-reference");
  });

  test("a tone must stand above the same frequency in silence", () => {
    const tone = (level: number) =>
      judgeTone(
        {
          kind: "tone",
          functionId: "s",
          hz: 1000,
          heardBy: "bench",
          silent: windows(0.001),
          sounding: windows(level),
        },
        LIMITS,
        null,
      ).verdict;
    expect([tone(0.05), tone(0.002)]).toEqual(["pass", "fail"]);
  });
});

describe("the hand's own observations", () => {
  test.each([
    [{ kind: "latch", functionId: "l", tugs: 14, held: 14, releases: 3, letGo: 3 }, "pass"],
    [{ kind: "latch", functionId: "l", tugs: 5, held: 5, releases: 3, letGo: 3 }, "not-tested"],
    [{ kind: "latch", functionId: "l", tugs: 14, held: 14, releases: 0, letGo: 0 }, "not-tested"],
    [{ kind: "latch", functionId: "l", tugs: 14, held: 13, releases: 3, letGo: 3 }, "fail"],
    [{ kind: "feel", controlId: "c", freePlay: "slight", returns: "springs-back", feel: "normal" }, "pass"],
    [{ kind: "feel", controlId: "c", freePlay: "none", returns: "hangs", feel: "normal" }, "fail"],
    [{ kind: "motor", functionId: "m", drivenBy: "gamepad", strength: "normal", rattle: true }, "fail"],
    [{ kind: "trigger-drag", left: [100, 110], right: [60, 66], noise: "none" }, "fail"],
    [{ kind: "trigger-drag", left: [100, 110], right: [95, 99], noise: "none" }, "pass"],
  ] as [Reading, string][])("%o is %s", (reading, verdict) => expect(judge(reading).verdict).toBe(verdict));
});

test("every made-up reading of a healthy bench is of the published shape and passes", () => {
  for (const method of [
    "supply",
    "charge-log",
    "discharge-log",
    "link-watch",
    "motor",
    "microphone",
    "tone",
    "latch",
    "feel",
  ]) {
    const reading = simulatedReading({ method, subject: "main" }, PACK, 11, {})!;
    expect(readingSchema.parse(reading)).toEqual(reading);
    expect([method, judge(reading).verdict]).toEqual([method, "pass"]);
  }
});

describe("logs as text", () => {
  test.each([
    ["0,400,3.6\n5,390,3.7", 2],
    ["Minutes;mA;V\n0;400;3,6\n5;390;3,7", 2],
    ["volts,minutes,current\n3.6,0,400\n3.7,5,390\n", 2],
  ])("%j is read", (text, rows) => {
    const read = readLog(text, ["minutes", "milliamps", "volts"]);
    expect(read.ok && read.value).toHaveLength(rows);
    if (read.ok) expect(read.value[1]).toEqual({ minutes: 5, milliamps: 390, volts: 3.7 });
  });
  test.each([
    ["", "log-empty"],
    ["minutes,volts\n", "log-columns"],
    ["0,x,3.6", "log-columns"],
    ["0,400,3.6\n5,many,3.6", "log-number"],
    ["5,400,3.6\n0,400,3.6", "log-backwards"],
  ])("%j is refused with %s", (text, code) => {
    const read = readLog(text, ["minutes", "milliamps", "volts"]);
    expect(read.ok ? "read" : read.problem.code).toBe(code);
  });
});

describe("references", () => {
  test("a difference counts against the spread that three or more references show", () => {
    expect(compareWith("restOffset", 0.1, [0.01, 0.012, 0.009], 0.004)).toMatchObject({
      reference: 0.01,
      references: 3,
      outside: true,
    });
    expect(compareWith("restOffset", 0.018, [0.01, 0.012, 0.009], 0.004).outside).toBe(false);
    expect(compareWith("restOffset", 0.5, [0.01, 0.012], 0.004).outside).toBeNull();
    expect(compareWith("restOffset", 0.5, [], 0.004).reference).toBeNull();
  });
});
