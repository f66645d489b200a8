import { type Result, ok, refuse } from "../base/result";
import type { Supply } from "../bench/cells";
import { FLEX_PLACES, PUSH_PLACES, type Reading } from "../bench/readings";
import type { Instrument, InstrumentProblem, Quantity } from "../instrument/instrument";
import { type LinePort } from "../instrument/scpi";
import { type Chance, seeded } from "../math/random";

/**
 * Made-up instruments and what they hang on: the same seed reads the same. They ship with the application and
 * stand behind the same interfaces as the real ones.
 */

export type BenchFaults = {
  /** share of the supply's nominal voltage */
  voltsShare?: number;
  internalOhms?: number;
  /** of a contact sensor, -1..1 */
  imbalance?: number;
  openLeg?: boolean;
  /** share of the rated capacity that the cell still takes */
  capacityShare?: number;
  chargeBreaks?: number;
  noCharge?: boolean;
  /** metres at which the radio first drops out */
  radioDropMetres?: number;
  /** place along the cord, or way of pushing the plug, at which the link drops out */
  dropsAt?: string;
  microphoneDeaf?: boolean;
  speakerSilent?: boolean;
  dragShare?: number;
  /** share of readings at which a clip lies beside its point: nothing flows, and an ohmmeter reads open */
  slips?: number;
};

/** A healthy unit's bench, or one with each fault that the bench can find. */
export const BENCH_PRESETS: Record<string, BenchFaults> = {
  healthy: {},
  "tired cell": { voltsShare: 0.99, internalOhms: 1.1, capacityShare: 0.45 },
  "flat cell": { voltsShare: 0.8 },
  "contacts break": { chargeBreaks: 4 },
  "does not charge": { noCharge: true },
  "sensor off balance": { imbalance: 0.12 },
  "open sensor leg": { openLeg: true },
  "radio short": { radioDropMetres: 2.5 },
  "cord breaks at the shell": { dropsAt: "shell" },
  "plug drops when pushed up": { dropsAt: "up" },
  "deaf microphone": { microphoneDeaf: true },
  "silent speaker": { speakerSilent: true },
  "weak right trigger": { dragShare: 0.6 },
  "clip that slips": { slips: 0.15 },
};

export class SimulatedMeter implements Instrument {
  readonly label: string;
  private readonly chance: Chance;
  private turn = 0;
  /** the clips' resistance, how far the meter is off, and how it drifts; what slips draws of its own */
  private readonly clipOhms: number;
  private readonly off: number;
  private readonly drift: number;
  private readonly slipping: Chance;

  constructor(
    seed: number,
    private readonly supply: Supply,
    private readonly f: BenchFaults,
    private readonly nominalOhms = 10_000,
  ) {
    this.chance = seeded(seed);
    this.label = `simulated meter, seed ${seed}`;
    const own = seeded(seed * 17 + 3);
    this.clipOhms = own.between(0, 0.03);
    this.off = 0.002 * own.normal();
    this.drift = 0.0002 * own.normal();
    this.slipping = own;
  }

  read(quantity: Quantity): Promise<Result<number, InstrumentProblem>> {
    return Promise.resolve(this.now(quantity));
  }

  now(quantity: Quantity): Result<number, InstrumentProblem> {
    const slipped = this.f.slips !== undefined && this.slipping.between(0, 1) < this.f.slips;
    if (slipped && quantity !== "grams") return this.beside(quantity);
    const far = this.off + this.drift * this.turn;
    const wobble = (v: number, share: number) => v * (1 + far + share * this.chance.normal());
    const open = this.supply.nominalVolts * (this.f.voltsShare ?? 1.06);
    if (quantity === "volts") return ok(wobble(open, 0.0003));
    if (quantity === "loaded-volts")
      return ok(wobble(open - ((this.f.internalOhms ?? 0.18) + this.clipOhms) * LOAD_AMPS, 0.0003));
    if (quantity === "amps") return ok(LOAD_AMPS);
    if (quantity === "milliamps") return ok(wobble(LOAD_AMPS * 1000, 0.01));
    if (quantity === "grams") {
      const share = this.turn++ % 2 === 1 ? (this.f.dragShare ?? 1) : 1; // left and right in turn
      return ok(wobble(120 * share, 0.02));
    }
    // the wiper to one end, then to the other
    const first = this.turn++ % 2 === 0;
    if (this.f.openLeg && !first) return refuse({ code: "overload" });
    const imbalance = this.f.imbalance ?? 0.01;
    return ok(wobble((this.nominalOhms / 2) * (1 + (first ? imbalance : -imbalance)), 0.002));
  }

  /** What a clip beside its point reads: the turn is taken all the same. */
  private beside(quantity: Quantity): Result<number, InstrumentProblem> {
    if (quantity === "ohms") {
      this.turn++;
      return refuse({ code: "overload" });
    }
    return ok(
      quantity === "volts" || quantity === "loaded-volts" ? STRAY_VOLTS * this.slipping.between(0, 1) : 0,
    );
  }
}

const LOAD_AMPS = 0.25;
const STRAY_VOLTS = 0.02;

/** A charge meter's log of a whole charge: constant current, then falling off. */
export function simulatedChargeLog(seed: number, supply: Supply, f: BenchFaults) {
  const chance = seeded(seed);
  const rated = supply.capacityMah ?? 800;
  const rows: { minutes: number; milliamps: number; volts: number | null }[] = [];
  const current = rated * 0.5;
  let taken = 0;
  const wanted = rated * (f.capacityShare ?? 0.93);
  const cells = Math.max(1, supply.cells);
  for (let minutes = 0; minutes <= 240; minutes += 5) {
    const share = Math.min(1, taken / wanted);
    const broken = f.chargeBreaks
      ? Math.floor(minutes / 20) % 2 === 1 && minutes / 40 < f.chargeBreaks
      : false;
    const flowsOf = () => {
      if (f.noCharge) return 0;
      if (share < 0.75) return current;
      return current * Math.max(0.02, 1 - (share - 0.75) * 3.9);
    };
    const flows = flowsOf();
    const milliamps = broken ? 0 : Math.max(0, flows * (1 + 0.01 * chance.normal()));
    taken += (milliamps * 5) / 60;
    rows.push({ minutes, milliamps: round(milliamps, 1), volts: round((3.6 + 0.6 * share) * cells, 3) });
  }
  return rows;
}

/**
 * The voltage of one rested cell at a share of its charge: curved as real ones are, and not by the table that
 * judges them. `bend` is how this cell differs from its like.
 */
function restedVolts(chemistry: Supply["chemistry"], share: number, bend: number): number {
  const s = Math.min(1, Math.max(0, share));
  const own = bend * 0.04 * Math.sin(2 * Math.PI * s);
  if (chemistry === "nickel-metal-hydride")
    return 1.2 + 0.13 * s - 0.2 * Math.exp(-15 * s) + 0.07 * s ** 8 + own / 3;
  if (chemistry === "alkaline") return 0.9 + 0.66 * s ** 0.7 + 0.04 * s ** 6 + own / 2;
  return 3.45 + 0.62 * s - 0.45 * Math.exp(-20 * s) + 0.13 * s ** 6 + own;
}

/**
 * A run-down log under a steady load, or lying still with `loadMilliamps` 0: a curved fall, what the cell and
 * the clips drop, a clip that shifts, a meter that drifts and rounds.
 */
export function simulatedDischargeLog(
  seed: number,
  supply: Supply,
  f: BenchFaults,
  loadMilliamps: number,
  covers = 1.05,
) {
  const chance = seeded(seed);
  const cells = Math.max(1, supply.cells);
  const bend = chance.normal();
  const from = chance.between(0.93, 1);
  const drop = (loadMilliamps / 1000) * (cells * chance.between(0.05, 0.3) + chance.between(0, 0.1));
  const shiftsAt = chance.between(0.2, 0.8);
  const shift = (loadMilliamps / 1000) * chance.between(-0.05, 0.05);
  const drift = chance.between(-0.002, 0.002);
  const hours =
    loadMilliamps > 0 ? ((supply.capacityMah ?? 800) * (f.capacityShare ?? 0.93)) / loadMilliamps : 24 * 300;
  const rows = loadMilliamps > 0 ? 42 : 12;
  const every = loadMilliamps > 0 ? (hours * from * 60 * covers) / (rows - 1) : 360;
  return Array.from({ length: rows }, (_, i) => {
    const minutes = round(i * every, 1);
    const gone = minutes / 60 / hours;
    const contact = gone > shiftsAt ? shift : 0;
    const volts = restedVolts(supply.chemistry, from - gone, bend) * cells - drop - contact;
    // beyond its charge a cell falls away steeply
    const over = Math.max(0, gone - from) * 12 * cells;
    return { minutes, volts: round(Math.max(0, volts - over + drift * gone + 0.002 * chance.normal()), 3) };
  });
}

/** Moments at which fresh data came while a link was watched, and the places gone through. */
export function simulatedLinkWatch(
  seed: number,
  what: "radio" | "cord" | "port",
  places: readonly string[],
  f: BenchFaults,
) {
  const chance = seeded(seed);
  const each = what === "radio" ? 1200 : 2600;
  const marks = places.map((place, i) => ({
    t: i * each,
    place,
    ...(what === "radio" ? { metres: Number(place) } : {}),
  }));
  const end = places.length * each;
  const times: number[] = [];
  for (let t = 0; t <= end; t += chance.between(3, 5)) {
    const at = marks.filter((m) => m.t <= t).at(-1)!;
    const away = what === "radio" && f.radioDropMetres !== undefined && t / each >= f.radioDropMetres;
    const broken = (away || at.place === f.dropsAt) && (t - at.t) % 900 < 260 && t - at.t > 300;
    if (!broken) times.push(Math.round(t));
  }
  return { times, marks };
}

/** Window levels as a microphone would give them: silence, the set phrase, a rubbed surface, and a tone. */
export function simulatedSound(
  seed: number,
  what: "quiet" | "phrase" | "rub" | "silent" | "sounding",
  f: BenchFaults,
): number[] {
  const chance = seeded(seed + what.length * 7919);
  const loud = { quiet: 0.001, phrase: 0.09, rub: 0.03, silent: 0.0008, sounding: 0.05 }[what];
  const deaf =
    (f.microphoneDeaf && (what === "phrase" || what === "rub")) || (f.speakerSilent && what === "sounding");
  const level = deaf ? 0.0012 : loud;
  return Array.from({ length: 60 }, (_, i) => {
    const pause = what === "phrase" && i % 7 === 6 ? 0.1 : 1;
    return round(Math.max(0.0001, level * pause * (1 + 0.15 * chance.normal())), 6);
  });
}

/** A meter at the other end of a serial line: answers SCPI queries, and misbehaves when told to. */
export class SimulatedSerialMeter implements LinePort {
  lost = false;
  readonly asked: string[] = [];
  private readonly lines: string[] = [];

  constructor(
    private readonly answers: Record<string, readonly string[]>,
    private readonly identity = "Oxmere Instruments,M1,0001,1.0",
  ) {}

  async write(text: string): Promise<void> {
    const query = text.trim();
    this.asked.push(query);
    if (query === "*IDN?") this.lines.push(this.identity);
    const given = this.answers[query];
    if (given)
      this.lines.push(given[Math.min(given.length - 1, this.asked.filter((q) => q === query).length - 1)]!);
  }

  async readLine(): Promise<string | null> {
    return this.lines.shift() ?? null;
  }

  /** Puts a line on the wire that nobody asked for. */
  babble(line: string): void {
    this.lines.push(line);
  }
}

const round = (v: number, digits: number) => Number(v.toFixed(digits));

type Step = { method: string; subject: string; functionKind?: string | undefined };
type Bench = { step: Step; power: Supply; seed: number; faults: BenchFaults; meter: SimulatedMeter };
type Sound = Parameters<typeof simulatedSound>[1];

const soundOf = ({ seed, faults }: Bench, what: Sound) => simulatedSound(seed, what, faults);

function supplyReading({ step, power, meter }: Bench): Reading {
  const figure = (q: Quantity) => round(valueOf(meter.now(q)) ?? 0, 3);
  return {
    kind: "supply",
    supply: step.subject,
    openVolts: figure("volts"),
    loadedVolts: power.cells > 0 ? figure("loaded-volts") : null,
    loadAmps: power.cells > 0 ? figure("amps") : null,
  };
}

const linkOf = (functionKind: string | undefined) =>
  functionKind === "radio" || functionKind === "port" ? functionKind : "cord";

function linkReading({ step, seed, faults }: Bench): Reading {
  const what = linkOf(step.functionKind);
  return {
    kind: "link-watch",
    what,
    functionId: step.subject,
    ...simulatedLinkWatch(seed, what, placesOf(what), faults),
    chargingAt: what === "port" ? { up: true, down: true, left: true, right: true } : {},
    plugHold: what === "port" ? "firm" : null,
  };
}

function dragReading({ meter }: Bench): Reading {
  const grams = () => round(valueOf(meter.now("grams"))!, 0);
  const pairs = [1, 2, 3].map(() => ({ left: grams(), right: grams() }));
  return {
    kind: "trigger-drag",
    left: pairs.map((p) => p.left),
    right: pairs.map((p) => p.right),
    noise: "none",
  };
}

function contactReading({ step, meter }: Bench): Reading {
  const leg = () => {
    const v = valueOf(meter.now("ohms"));
    return v === null ? null : round(v, 0);
  };
  return {
    kind: "contact-sensor",
    controlId: step.subject.slice(0, -2),
    axis: step.subject.endsWith(".x") ? "x" : "y",
    nominalOhms: 10_000,
    readings: [1, 2, 3].map(() => ({ a: leg(), b: leg(), finger: false })),
  };
}

const READINGS: Record<string, (bench: Bench) => Reading> = {
  supply: supplyReading,
  "charge-log": ({ step, power, seed, faults }) => ({
    kind: "charge-log",
    supply: step.subject,
    rows: simulatedChargeLog(seed, power, faults),
    signShown: true,
  }),
  "discharge-log": ({ step, power, seed, faults }) => ({
    kind: "discharge-log",
    supply: step.subject,
    rows: simulatedDischargeLog(seed, power, faults, 150),
    loadMilliamps: 150,
  }),
  "link-watch": linkReading,
  motor: ({ step }) => ({
    kind: "motor",
    functionId: step.subject,
    drivenBy: "simulated",
    strength: "normal",
    rattle: false,
  }),
  microphone: (bench) => ({
    kind: "microphone",
    functionId: bench.step.subject,
    windowMs: 50,
    quiet: soundOf(bench, "quiet"),
    phrase: soundOf(bench, "phrase"),
    rub: soundOf(bench, "rub"),
  }),
  tone: (bench) => ({
    kind: "tone",
    functionId: bench.step.subject,
    hz: 1000,
    heardBy: "bench",
    silent: soundOf(bench, "silent"),
    sounding: soundOf(bench, "sounding"),
  }),
  latch: ({ step }) => ({
    kind: "latch",
    functionId: step.subject,
    tugs: 15,
    held: 15,
    releases: 5,
    letGo: 5,
  }),
  feel: ({ step }) => ({
    kind: "feel",
    controlId: step.subject,
    freePlay: "none",
    returns: "springs-back",
    feel: "normal",
  }),
  "trigger-drag": dragReading,
  "contact-sensor": contactReading,
};

/** A cable's own supply, for what has no cells. */
const BUS_POWER: Supply = { chemistry: "none", cells: 0, nominalVolts: 5, capacityMah: null };

/**
 * What a made-up bench would measure for one step of a protocol; null for steps that are recordings or are
 * looked at.
 */
export function simulatedReading(
  step: Step,
  supply: Supply | null,
  seed: number,
  faults: BenchFaults,
): Reading | null {
  const power = supply ?? BUS_POWER;
  const meter = new SimulatedMeter(seed, power, faults);
  return READINGS[step.method]?.({ step, power, seed, faults, meter }) ?? null;
}

const valueOf = (r: Result<number, InstrumentProblem>): number | null => (r.ok ? r.value : null);

export const WALK_METRES = 8;
/** Where a watched link is taken through, in order. */
export const placesOf = (what: "radio" | "cord" | "port"): readonly string[] => {
  if (what === "cord") return FLEX_PLACES;
  if (what === "port") return PUSH_PLACES;
  return Array.from({ length: WALK_METRES + 1 }, (_, i) => String(i));
};
