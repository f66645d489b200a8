import { median } from "../math/quantile";
import { theilSen } from "../math/theil-sen";
import type { BenchLimits } from "../grade/limits";
import type { ReadingOf } from "./readings";
import { type BenchFigure, type BenchResult, type Finding, least, most, plain, verdictOf } from "./result";

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
  const highest = supply.cells === 0 ? supply.nominalVolts * 1.1 : HIGHEST[supply.chemistry] * cells;
  const figures: BenchFigure[] = [
    least("openVolts", r.openVolts, "V", supply.nominalVolts * limits.startShareOfNominal),
    most("highestVolts", r.openVolts, "V", highest),
    plain("nominalVolts", supply.nominalVolts, "V"),
    plain("stateOfCharge", stateOfCharge(supply.chemistry, r.openVolts / cells), "share"),
    ...(loaded && supply.cells > 0
      ? [
          most("internalResistance", ohms, "ohm", limits.internalOhmsPerCell * cells),
          least("loadedVolts", r.loadedVolts, "V", CUT_OFF[supply.chemistry] * cells),
        ]
      : []),
  ];
  if (ohms !== null && ohms < 0) findings.push({ code: "load-raised-voltage" });
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
    plain("taken", taken, "mAh"),
    ...(supply.capacityMah ? [least("shareOfRated", share, "share", limits.capacityShare)] : []),
    most("breaks", breaks, "count", 0),
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
  if (flowed && r.signShown === false) findings.push({ code: "current-without-sign" });
  const verdict = !flowed ? "fail" : verdictOf(figures, supply.capacityMah ? ["shareOfRated"] : ["taken"]);
  return { v: 1, verdict, figures, findings };
}

/**
 * What a discharge log says: the robust slope of the voltage (Theil and Sen), the run time to cut-off with
 * its interval, and with no load how fast the charge leaks away.
 */
export function judgeDischargeLog(
  r: ReadingOf<"discharge-log">,
  supply: Supply,
  limits: BenchLimits,
): BenchResult {
  const cells = Math.max(1, supply.cells);
  const line = theilSen(
    r.rows.map((x) => x.minutes / 60),
    r.rows.map((x) => x.volts),
  );
  const findings: Finding[] = [];
  if (!line) return { v: 1, verdict: "not-tested", figures: [], findings: [{ code: "log-too-short" }] };
  const figures: BenchFigure[] = [];
  if (r.loadMilliamps === 0) {
    const perDay = -line.slope * 24 * 1000;
    figures.push({
      ...most("leak", perDay / cells, "mV/day", limits.leakMillivoltsPerDay),
      low: (-line.high * 24000) / cells,
      high: (-line.low * 24000) / cells,
    });
    if (figures[0]!.keeps === false) findings.push({ code: "cell-leaks" });
    return { v: 1, verdict: verdictOf(figures, ["leak"]), figures, findings };
  }
  const cutOff = CUT_OFF[supply.chemistry] * cells;
  const start = r.rows[0]!.minutes / 60;
  const until = (slope: number) =>
    slope >= 0 ? null : Math.max(0, line.middle.x + (cutOff - line.middle.y) / slope - start);
  const run = until(line.slope);
  const drawn = run !== null && r.loadMilliamps ? run * r.loadMilliamps : null;
  figures.push(
    { ...plain("runTime", run, "h"), low: until(line.low), high: until(line.high) },
    plain("slopePerHour", line.slope, "V"),
  );
  if (supply.capacityMah && drawn !== null) {
    const share = (v: number | null) => (v === null ? null : (v * r.loadMilliamps!) / supply.capacityMah!);
    figures.push({
      ...least("shareOfRated", share(run), "share", limits.capacityShare),
      low: share(until(line.low)),
      high: share(until(line.high)),
    });
    figures.push(plain("capacity", drawn, "mAh"));
    if (share(run)! < limits.capacityShare) findings.push({ code: "cell-gives-little" });
  }
  if (run === null) findings.push({ code: "voltage-does-not-fall" });
  return { v: 1, verdict: run === null ? "not-tested" : verdictOf(figures, ["runTime"]), figures, findings };
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
  const unclear = hit("no-current", "charge-not-finished", "log-too-short");
  if (unclear.length || results.length === 0) return { suspect: "undecided", because: unclear };
  return { suspect: results.every((r) => r.verdict === "pass") ? "none" : "undecided", because: codes };
}
