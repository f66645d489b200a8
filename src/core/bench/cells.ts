import { median } from "../math/quantile";
import { theilSen } from "../math/theil-sen";
import type { BenchLimits } from "../grade/limits";
import type { ReadingOf } from "./readings";
import {
  type BenchFigure,
  type BenchResult,
  type Finding,
  isTooClose,
  least,
  most,
  plain,
  verdictOf,
  within,
} from "./result";

export type Chemistry = "lithium-ion" | "lithium-polymer" | "nickel-metal-hydride" | "alkaline" | "none";
export type Supply = {
  chemistry: Chemistry;
  cells: number;
  nominalVolts: number;
  capacityMah: number | null;
};

/**
 * Open voltage of one rested cell against its state of charge. Coarse, as every such table is: some 10 points
 * either way. Source: typical open-circuit curves of each chemistry at room temperature; a shop sets its own
 * against its cells.
 */
const CURVES: Record<Exclude<Chemistry, "none">, readonly (readonly [volts: number, share: number])[]> = {
  "lithium-ion": lithium(),
  "lithium-polymer": lithium(),
  "nickel-metal-hydride": [
    [1.0, 0],
    [1.18, 0.1],
    [1.24, 0.3],
    [1.28, 0.6],
    [1.33, 0.9],
    [1.4, 1],
  ],
  alkaline: [
    [0.9, 0],
    [1.1, 0.15],
    [1.2, 0.35],
    [1.35, 0.65],
    [1.5, 0.92],
    [1.6, 1],
  ],
};
function lithium(): readonly (readonly [number, number])[] {
  return [
    [3.0, 0],
    [3.5, 0.08],
    [3.65, 0.2],
    [3.75, 0.4],
    [3.85, 0.6],
    [4.0, 0.8],
    [4.2, 1],
  ];
}
const CUT_OFF: Record<Chemistry, number> = {
  "lithium-ion": 3.0,
  "lithium-polymer": 3.0,
  "nickel-metal-hydride": 1.0,
  alkaline: 0.9,
  none: 0,
};
/** The most that a healthy cell of the chemistry shows at rest. */
const HIGHEST: Record<Chemistry, number> = {
  "lithium-ion": 4.25,
  "lithium-polymer": 4.25,
  "nickel-metal-hydride": 1.5,
  alkaline: 1.65,
  none: Infinity,
};

/** State of charge, 0..1, from the open voltage of one rested cell. */
export function stateOfCharge(chemistry: Chemistry, voltsPerCell: number): number | null {
  if (chemistry === "none") return null;
  const curve = CURVES[chemistry];
  if (voltsPerCell <= curve[0]![0]) return 0;
  for (let i = 1; i < curve.length; i++) {
    const [v0, s0] = curve[i - 1]!;
    const [v1, s1] = curve[i]!;
    if (voltsPerCell <= v1) return s0 + ((s1 - s0) * (voltsPerCell - v0)) / (v1 - v0);
  }
  return 1;
}

/** Internal resistance in ohms: (open - loaded) / load current. */
export const internalResistance = (openVolts: number, loadedVolts: number, loadAmps: number): number =>
  (openVolts - loadedVolts) / loadAmps;

/**
 * Voltages at the contacts against cells times nominal, and the internal resistance from the sag under load.
 */
export function judgeSupply(r: ReadingOf<"supply">, supply: Supply, limits: BenchLimits): BenchResult {
  const cells = Math.max(1, supply.cells);
  const findings: Finding[] = [];
  const loaded = r.loadedVolts !== null && r.loadAmps !== null;
  const ohms = loaded ? internalResistance(r.openVolts, r.loadedVolts!, r.loadAmps!) : null;
  // two readings of one meter: what it reads too high it reads too high twice, its last digit it does not
  const ohmsOff =
    ohms === null ? null : (Math.SQRT2 * METER_VOLTS) / r.loadAmps! + 2 * METER_SHARE * Math.abs(ohms);
  const charge = stateOfCharge(supply.chemistry, r.openVolts / cells);
  const highest = supply.cells === 0 ? supply.nominalVolts * 1.1 : HIGHEST[supply.chemistry] * cells;
  const figures: BenchFigure[] = [
    about(
      least("openVolts", r.openVolts, "V", supply.nominalVolts * limits.startShareOfNominal),
      METER_SHARE * r.openVolts + METER_VOLTS,
    ),
    most("highestVolts", r.openVolts, "V", highest),
    plain("nominalVolts", supply.nominalVolts, "V"),
    about(plain("stateOfCharge", charge, "share"), CURVE_POINTS),
    ...(loaded && supply.cells > 0
      ? [
          about(most("internalResistance", ohms, "ohm", limits.internalOhmsPerCell * cells), ohmsOff),
          least("loadedVolts", r.loadedVolts, "V", CUT_OFF[supply.chemistry] * cells),
        ]
      : []),
  ];
  if (ohms !== null && ohms < 0) findings.push({ code: "load-raised-voltage" });
  if (figures.some(isTooClose)) findings.push({ code: "too-close" });
  if (figures[0]!.keeps === false) findings.push({ code: supply.cells > 0 ? "charge-first" : "supply-low" });
  if (figures[1]!.keeps === false) findings.push({ code: "voltage-too-high" });
  if (figures.some((f) => f.name === "internalResistance" && f.keeps === false))
    findings.push({ code: "cell-sags" });
  if (!loaded && supply.cells > 0) findings.push({ code: "no-load-reading" });
  return {
    v: 1,
    verdict: ohms !== null && ohms < 0 ? "not-tested" : verdictOf(figures, ["openVolts"]),
    figures,
    findings,
  };
}

/** A hand-held meter: half a percent of what it reads, and half a step of its last digit either way. */
const METER_SHARE = 0.005;
const METER_VOLTS = 0.005;
/** What the coarse curve of a chemistry may be off by, as a share of the charge. */
const CURVE_POINTS = 0.1;
/** A charge meter counts to about two in a hundred. */
const CHARGE_SHARE = 0.02;

const about = (f: BenchFigure, half: number | null): BenchFigure =>
  f.value === null || half === null ? f : within(f, f.value - half, f.value + half);

const FLOWS_MA = 10;

/**
 * What a charge log says: milliampere-hours taken (trapezoid rule), breaks in the flow, and which of cell,
 * circuit or contacts it points to.
 */
export function judgeChargeLog(r: ReadingOf<"charge-log">, supply: Supply, limits: BenchLimits): BenchResult {
  const { rows } = r;
  let taken = 0;
  let breaks = 0;
  for (let i = 1; i < rows.length; i++) {
    const a = rows[i - 1]!;
    const b = rows[i]!;
    taken += (((a.milliamps + b.milliamps) / 2) * (b.minutes - a.minutes)) / 60;
    if (
      a.milliamps > FLOWS_MA &&
      b.milliamps <= FLOWS_MA &&
      rows.slice(i + 1).some((x) => x.milliamps > FLOWS_MA)
    )
      breaks++;
  }
  const peak = Math.max(...rows.map((x) => x.milliamps));
  const last = median(rows.slice(-Math.max(1, Math.ceil(rows.length / 10))).map((x) => x.milliamps));
  const flowed = peak > FLOWS_MA;
  const finished = flowed && last <= peak * 0.25;
  const highest = Math.max(0, ...rows.map((x) => x.volts ?? 0));
  const cells = Math.max(1, supply.cells);
  const share = supply.capacityMah && finished ? taken / supply.capacityMah : null;
  const hours = (rows.at(-1)!.minutes - rows[0]!.minutes) / 60;
  const figures: BenchFigure[] = [
    about(plain("taken", taken, "mAh"), CHARGE_SHARE * taken),
    ...(supply.capacityMah
      ? [
          about(
            least("shareOfRated", share, "share", limits.capacityShare),
            share === null ? null : CHARGE_SHARE * share,
          ),
        ]
      : []),
    most("breaks", breaks, "count", 0),
    plain("shortestBreakSeen", 60 * median(rows.slice(1).map((x, i) => x.minutes - rows[i]!.minutes)), "s"),
    plain("peakCurrent", peak, "mA"),
    plain("chargeTime", hours, "h"),
    ...(highest > 0 ? [most("highestVolts", highest, "V", HIGHEST[supply.chemistry] * cells)] : []),
  ];
  const findings: Finding[] = [];
  if (!flowed) findings.push({ code: r.signShown === true ? "sign-without-current" : "no-current" });
  else if (breaks > 0) findings.push({ code: "contacts-break" });
  else if (!finished) findings.push({ code: "charge-not-finished" });
  if (figures.some((f) => f.name === "highestVolts" && f.keeps === false))
    findings.push({ code: "charges-too-high" });
  if (share !== null && share < limits.capacityShare && breaks === 0)
    findings.push({ code: "cell-takes-little" });
  if (figures.some(isTooClose)) findings.push({ code: "too-close" });
  if (flowed && r.signShown === false) findings.push({ code: "current-without-sign" });
  const verdict = !flowed ? "fail" : verdictOf(figures, supply.capacityMah ? ["shareOfRated"] : ["taken"]);
  return { v: 1, verdict, figures, findings };
}

/** What a log must cover of the charge before it says how much there is: less is a guess. */
const COVERED_NEEDED = 0.3;
/** How far a cell's own curve lies from the table, as a share of the charge (one standard deviation). */
const CURVE_OFF = 0.07;
/** What a cell drops inside under load, where nobody measured it: about that, and at most the shop's limit. */
const TYPICAL_OHMS = 0.15;
const Z95 = 1.96;

/**
 * What a discharge log says. Lying still: how fast the charge leaks away, by the robust slope of the voltage
 * (Theil and Sen). Under load: how long it ran and how much it gave. A log that reached cut-off tells the run
 * time by the crossing itself. Any other maps each voltage, with what the load drops inside, to charge by the
 * chemistry's curve and extrapolates the charge, which falls evenly where the voltage does not; a straight line
 * through the volts called a cell of 40 % healthy. Every figure has its interval; a verdict wants all of it on
 * one side of the limit.
 */
export function judgeDischargeLog(
  r: ReadingOf<"discharge-log">,
  supply: Supply,
  limits: BenchLimits,
): BenchResult {
  const cells = Math.max(1, supply.cells);
  if (r.loadMilliamps === 0) return judgeLeak(r, cells, limits);
  const nothing = (code: string, figures: BenchFigure[] = []): BenchResult => ({
    v: 1,
    verdict: "not-tested",
    figures,
    findings: [{ code }],
  });
  if (supply.chemistry === "none") return nothing("log-too-short");
  const amps = (r.loadMilliamps ?? 0) / 1000;
  const charges = [0, TYPICAL_OHMS, limits.internalOhmsPerCell].map((ohms) =>
    chargeOver(r, supply, cells, amps * ohms * cells),
  );
  const usual = charges[1];
  if (!usual) return nothing("log-too-short");
  if (usual.slope >= 0) return nothing("voltage-does-not-fall");
  const covered = plain("chargeCovered", Math.min(1, Math.max(0, usual.first - usual.last)), "share");
  const crossing = cutOffCrossing(r, CUT_OFF[supply.chemistry] * cells);
  const surely = covered.value! - CURVE_OFF * Math.SQRT2;
  if (crossing === null && surely < COVERED_NEEDED) return nothing("log-covers-little", [covered]);
  const run =
    crossing === null
      ? byCharge(usual, charges)
      : { hours: crossing.at, low: crossing.after, high: crossing.by };
  const figures: BenchFigure[] = [
    { ...plain("runTime", run.hours, "h"), low: run.low, high: run.high },
    covered,
  ];
  const findings: Finding[] = [];
  if (supply.capacityMah && r.loadMilliamps) {
    // a cell that was not full gave less than it holds
    const off = (CURVE_OFF * Z95) / usual.begins;
    const full = crossing === null ? usual.first : usual.begins;
    const share = (hours: number) => (hours * r.loadMilliamps!) / supply.capacityMah! / full;
    const low = share(run.low) * (1 - (crossing === null ? 0 : off));
    const high = share(run.high) * (1 + (crossing === null ? 0 : off));
    const value = share(run.hours);
    const decided = low >= limits.capacityShare || high < limits.capacityShare;
    figures.push(
      { ...least("shareOfRated", decided ? value : null, "share", limits.capacityShare), low, high },
      plain("capacity", value * supply.capacityMah, "mAh"),
    );
    if (!decided) findings.push({ code: "log-undecided" });
    else if (high < limits.capacityShare) findings.push({ code: "cell-gives-little" });
  }
  return {
    v: 1,
    verdict: verdictOf(figures, supply.capacityMah ? ["runTime", "shareOfRated"] : ["runTime"]),
    figures,
    findings,
  };
}

function judgeLeak(r: ReadingOf<"discharge-log">, cells: number, limits: BenchLimits): BenchResult {
  const line = theilSen(
    r.rows.map((x) => x.minutes / 60),
    r.rows.map((x) => x.volts),
  );
  if (!line) return { v: 1, verdict: "not-tested", figures: [], findings: [{ code: "log-too-short" }] };
  const perDay = (slope: number) => (-slope * 24 * 1000) / cells;
  const figure = {
    ...most("leak", perDay(line.slope), "mV/day", limits.leakMillivoltsPerDay),
    low: perDay(line.high),
    high: perDay(line.low),
  };
  const findings: Finding[] = figure.keeps === false ? [{ code: "cell-leaks" }] : [];
  return { v: 1, verdict: verdictOf([figure], ["leak"]), figures: [figure], findings };
}

/** The charge over the log, by the chemistry's curve, with what the load drops inside added back. */
/** `begins` by its first rows, `first` and `last` by the line through all. */
type ChargeLine = { begins: number; first: number; last: number; slope: number; low: number; high: number };
function chargeOver(
  r: ReadingOf<"discharge-log">,
  supply: Supply,
  cells: number,
  drop: number,
): ChargeLine | null {
  const points = r.rows.map((x) => ({
    hours: x.minutes / 60,
    charge: stateOfCharge(supply.chemistry, (x.volts + drop) / cells)!,
  }));
  // at either end of the curve it says nothing more
  const inside = points.filter((p) => p.charge > 0 && p.charge < 1);
  const line = theilSen(
    inside.map((p) => p.hours),
    inside.map((p) => p.charge),
  );
  if (!line) return null;
  return {
    begins: Math.max(COVERED_NEEDED, median(points.slice(0, 3).map((p) => p.charge))),
    first: Math.min(1, Math.max(COVERED_NEEDED, line.at(points[0]!.hours))),
    last: Math.max(0, line.at(points.at(-1)!.hours)),
    slope: line.slope,
    low: line.low,
    high: line.high,
  };
}

/** Hours from the log's first row to where it fell through cut-off, and the row before and after; or null. */
function cutOffCrossing(
  { rows }: ReadingOf<"discharge-log">,
  cutOff: number,
): { at: number; after: number; by: number } | null {
  const below = rows.findIndex((x) => x.volts <= cutOff);
  if (below < 1) return null;
  const a = rows[below - 1]!;
  const b = rows[below]!;
  const start = rows[0]!.minutes;
  const share = a.volts === b.volts ? 1 : (a.volts - cutOff) / (a.volts - b.volts);
  const hours = (minutes: number) => (minutes - start) / 60;
  return {
    at: hours(a.minutes + share * (b.minutes - a.minutes)),
    after: hours(a.minutes),
    by: hours(b.minutes),
  };
}

type Run = { hours: number; low: number; high: number };

/** The charge of the first row over how fast it falls; doubtful by the slope, the curve and the drop inside. */
function byCharge(usual: ChargeLine, all: readonly (ChargeLine | null)[]): Run {
  const run = (c: ChargeLine, slope: number) => c.first / Math.max(1e-6, -slope);
  const known = all.filter((c) => c !== null && c.slope < 0) as ChargeLine[];
  const covered = Math.max(COVERED_NEEDED, usual.first - usual.last);
  const off = (Z95 * CURVE_OFF * Math.SQRT2) / covered;
  return {
    hours: run(usual, usual.slope),
    low: Math.min(...known.map((c) => run(c, c.low))) * (1 - off),
    high: Math.max(...known.map((c) => run(c, Math.min(c.high, -1e-6)))) * (1 + off),
  };
}

export type SupplySuspect = "cell" | "charging-circuit" | "contacts" | "none" | "undecided";

/**
 * Which of cell, charging circuit or contacts the latest readings of one supply point to, and from which
 * findings.
 */
export function supplySuspect(results: readonly BenchResult[]): {
  suspect: SupplySuspect;
  because: string[];
} {
  const codes = results.flatMap((r) => r.findings.map((f) => f.code));
  const hit = (...wanted: string[]) => wanted.filter((c) => codes.includes(c));
  const contacts = hit("contacts-break");
  if (contacts.length) return { suspect: "contacts", because: contacts };
  const circuit = hit("charges-too-high", "sign-without-current");
  if (circuit.length) return { suspect: "charging-circuit", because: circuit };
  const cell = hit("cell-sags", "cell-takes-little", "cell-gives-little", "cell-leaks");
  if (cell.length) return { suspect: "cell", because: cell };
  // no current and no sign: a contact that never closes and a dead circuit look the same from outside
  const unclear = hit(
    "no-current",
    "charge-not-finished",
    "log-too-short",
    "log-covers-little",
    "log-undecided",
  );
  if (unclear.length || results.length === 0) return { suspect: "undecided", because: unclear };
  return { suspect: results.every((r) => r.verdict === "pass") ? "none" : "undecided", because: codes };
}
