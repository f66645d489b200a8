import type { Reading, ReadingSource, SourceCommand } from "../guide/source";
import { RIM_SIDES, type RimSide } from "../guide/plan";
import { type Chance, seeded } from "../math/random";
import type { MappedControl } from "../input/input";
import type { Step } from "../recording/recording";
import type { Half } from "../signal/dead-halves";
import type { Point } from "../signal/rest";
import { reported, type StickTable } from "../calibrate/calibrate";
import type { ButtonFaults, ControllerFaults, StickFaults, TriggerFaults } from "./faults";
import { type Gesture, Hand, type HandSettings } from "./hand";

export type SimulatedSettings = {
  seed: number;
  /** readings per second */
  rateHz: number;
  /** steps of the converter: 8 bits or more */
  bits: number;
  faults: ControllerFaults;
  hand?: HandSettings | undefined;
  /** how hard the hand presses buttons */
  force?: Force | undefined;
  /** what the made-up unit's memory keeps for each stick */
  calibration?: Readonly<Record<string, StickTable>> | undefined;
};
export const FORCES = ["normal", "light", "hard"] as const;
export type Force = (typeof FORCES)[number];

const SPRING_TAU_MS = 12;
const HEALTHY_NOISE = 0.002;

const clamp = (v: number, lo: number, hi: number) => Math.min(hi, Math.max(lo, v));

class SimulatedStick {
  private spikeUntil = -1;
  private spike: Point = [0, 0];
  private settled: Point = [0, 0];
  /**
   * where it settled after each release, before anything electrical: the truth that a bench of the measures
   * compares with
   */
  readonly settledAt: Point[] = [];
  private lastLetGo = -Infinity;
  private from: Point = [0, 0];
  private held: Point = [0, 0];
  private leapUntil = -1;
  private lastX = 0;

  constructor(
    private readonly f: StickFaults,
    private readonly chance: Chance,
  ) {}

  read(g: Gesture, t: number, dt: number): Point {
    if (this.f.noAnswer) return this.noisy([0, 0]);
    if (g.stick) {
      this.held = g.stick;
      this.lastLetGo = -Infinity;
      return this.electrical(g.stick, t, dt);
    }
    if (g.letGoAt > -Infinity && g.letGoAt !== this.lastLetGo) this.letGo(g.letGoAt);
    const left = Math.exp(-Math.max(0, t - this.lastLetGo) / SPRING_TAU_MS);
    const [sx, sy] = this.settled;
    const back: Point = [sx + (this.from[0] - sx) * left, sy + (this.from[1] - sy) * left];
    return this.electrical(this.lastLetGo === -Infinity ? [0, 0] : back, t, dt);
  }

  private letGo(at: number): void {
    this.lastLetGo = at;
    this.from = this.held;
    const scatter = this.f.scatter ?? 0.004;
    this.settled = [scatter * this.chance.normal(), scatter * this.chance.normal()];
    if (this.chance.happens(this.f.sticksShare ?? 0)) this.settled = [this.from[0] * 0.3, this.from[1] * 0.3];
    this.settledAt.push(this.settled);
  }

  private electrical(p: Point, t: number, dt: number): Point {
    const lean = ((this.f.leanDeg ?? 0) * Math.PI) / 180;
    let x = p[0] * Math.cos(lean) + p[1] * Math.sin(lean);
    let y = -p[0] * Math.sin(lean) + p[1] * Math.cos(lean);
    const corner = Math.max(Math.abs(x), Math.abs(y)) || 1;
    const grow = 1 + (this.f.square ?? 0) * (Math.hypot(x, y) / corner - 1);
    x *= grow;
    y *= grow;
    x = this.half(x, "right", "left") + (this.f.offset?.[0] ?? 0) * (1 - Math.abs(x));
    y = this.half(y, "down", "up") + (this.f.offset?.[1] ?? 0) * (1 - Math.abs(y));
    return this.worn(this.spiked(this.noisy([x, y]), t, dt), x, t);
  }

  private half(v: number, plus: Half, minus: Half): number {
    const which = v >= 0 ? plus : minus;
    return this.f.dead === which ? 0 : v * (this.f.reach?.[which] ?? 1);
  }

  private noisy([x, y]: Point): Point {
    const noise = this.f.noise ?? HEALTHY_NOISE;
    return [x + noise * this.chance.normal(), y + noise * this.chance.normal()];
  }

  private spiked(p: Point, t: number, dt: number): Point {
    if (this.chance.happens(((this.f.spikesPerSecond ?? 0) * dt) / 1000)) {
      const a = this.chance.between(0, 2 * Math.PI);
      this.spike = [0.2 * Math.cos(a), 0.2 * Math.sin(a)];
      this.spikeUntil = t + 12;
    }
    return t < this.spikeUntil ? [p[0] + this.spike[0], p[1] + this.spike[1]] : p;
  }

  private worn(p: Point, x: number, t: number): Point {
    const at = this.f.wornAt;
    if (at !== undefined && (this.lastX - at) * (x - at) < 0) this.leapUntil = t + 25;
    this.lastX = x;
    return t < this.leapUntil ? [p[0] - Math.sign(at ?? 1) * (this.f.leap ?? 0.35), p[1]] : p;
  }
}

class SimulatedTrigger {
  constructor(
    private readonly f: TriggerFaults,
    private readonly chance: Chance,
  ) {}

  read(g: Gesture): number {
    const rest = this.f.rest ?? 0;
    const full = this.f.full ?? 1;
    if (this.f.noAnswer) return rest;
    let pull = g.pull;
    const hole = this.f.hole ?? 0;
    if (hole > 0 && pull > 0.5 - hole / 2 && pull < 0.5 + hole / 2) pull = 0.5 - hole / 2;
    const dip = this.f.backtrack ?? 0;
    if (dip > 0 && pull > 0.6 && pull < 0.64) pull -= dip;
    const trembling = g.pull > 0.02 && g.pull < 0.98 ? 0.001 * this.chance.normal() : 0;
    return clamp(rest + (full - rest) * pull + trembling, 0, 1);
  }
}

type Closed = { from: number; to: number };

class SimulatedButton {
  private wasPressed = false;
  private closed: Closed[] = [];

  constructor(
    private readonly f: ButtonFaults,
    private readonly chance: Chance,
    private readonly force: Force,
  ) {}

  read(pressed: boolean, t: number, rim: RimSide | null): boolean {
    if (pressed && !this.wasPressed) this.press(t, rim);
    if (!pressed && this.wasPressed) {
      const held = this.closed.find((c) => c.to === Infinity);
      if (held) held.to = t;
      if (held && this.chance.happens(this.f.chatterRate ?? 0))
        this.closed.push({ from: t + 20, to: t + 40 });
    }
    this.wasPressed = pressed;
    this.closed = this.closed.filter((c) => c.to > t);
    return this.f.stuck === true || this.closed.some((c) => t >= c.from && t < c.to);
  }

  private missRate(rim: RimSide | null): number {
    if (rim !== null) return this.f.rimMissBySide?.[RIM_SIDES.indexOf(rim)] ?? this.f.rimMissRate ?? 0;
    const usual = this.f.missRate ?? 0;
    if (this.force === "light") return this.f.lightMissRate ?? usual;
    return this.force === "hard" ? (this.f.hardMissRate ?? usual) : usual;
  }

  private press(t: number, rim: RimSide | null): void {
    if (this.chance.happens(this.missRate(rim))) return;
    this.closed.push({ from: t, to: Infinity });
    if (this.chance.happens(this.f.extraRate ?? 0)) this.closed.push({ from: t + 200, to: t + 260 });
  }
}

/**
 * A made-up controller in a made-up hand: readings by seed, rate, converter steps and faults.
 * It follows what the test asks (prompt, cue) as a person would, on its own clock in ms.
 */
export class SimulatedController implements ReadingSource {
  readonly ended = false;
  readonly channels: { axes: number; buttons: number };
  private readonly chance: Chance;
  private readonly hand: Hand;
  private readonly sticks = new Map<string, SimulatedStick>();
  private readonly triggers = new Map<string, SimulatedTrigger>();
  private readonly buttons = new Map<string, SimulatedButton>();
  private step: Step = "rest";
  private control = "";
  private clock = 0;
  private tour: Tour | null = null;
  private rimSide: RimSide = "top";

  constructor(
    private readonly controls: readonly MappedControl[],
    private readonly settings: SimulatedSettings,
  ) {
    this.chance = seeded(settings.seed);
    this.hand = new Hand(seeded(settings.seed + 1), settings.hand);
    const { sticks = {}, triggers = {}, buttons = {} } = settings.faults;
    const used = controls.map((c) => c.input);
    this.channels = {
      axes:
        1 +
        Math.max(
          -1,
          ...used.flatMap((i) => {
            if ("axes" in i) return [...i.axes];
            if ("axis" in i) return [i.axis];
            if ("hat" in i) return [i.hat];
            return [];
          }),
        ),
      buttons: 1 + Math.max(-1, ...used.flatMap((i) => ("button" in i ? [i.button] : []))),
    };
    controls.forEach((c, i) => {
      const own = seeded(settings.seed * 131 + i);
      if (c.kind === "stick") this.sticks.set(c.id, new SimulatedStick(sticks[c.id] ?? {}, own));
      else if (c.kind === "trigger") this.triggers.set(c.id, new SimulatedTrigger(triggers[c.id] ?? {}, own));
      else this.buttons.set(c.id, new SimulatedButton(buttons[c.id] ?? {}, own, settings.force ?? "normal"));
    });
  }

  /**
   * What the test asks for from now on. `free` with control "*" lets the hand go through everything in its
   * own order.
   */
  obey(command: SourceCommand): void {
    if (command.kind === "cue") {
      this.rimSide = command.side ?? "top";
      return this.hand.cue(command.t);
    }
    const { step, control } = command;
    this.step = step;
    this.control = control;
    this.tour = step === "free" && control === "*" ? new Tour(this.controls, this.clock) : null;
    this.hand.ask(step, this.clock, command.slower);
  }

  /** Where a stick settled after each release so far. */
  settledAt(stick: string): readonly Point[] {
    return this.sticks.get(stick)?.settledAt ?? [];
  }

  /** The readings since the last call, up to time `t`. */
  readUntil(t: number): Reading[] {
    const out: Reading[] = [];
    const period = 1000 / this.settings.rateHz;
    while (this.clock + period <= t) {
      const dt = period * this.chance.between(0.75, 1.25);
      this.clock += dt;
      out.push(this.reading(this.clock, dt));
    }
    return out;
  }

  private reading(t: number, dt: number): Reading {
    const moved = this.tour?.next(t);
    if (moved) {
      this.step = moved.step;
      this.control = moved.control;
      this.hand.ask(moved.step, t);
    }
    if (this.tour?.cueDue(t)) this.hand.cue(t);
    const gesture = this.hand.at(t);
    const idle: Gesture = { stick: null, letGoAt: gesture.letGoAt, pull: 0, pressed: false };
    const axes = new Array<number>(this.channels.axes).fill(NaN);
    const buttons = new Array<number>(this.channels.buttons).fill(0);
    const fired = new Set<string>();
    for (const c of this.controls) {
      const g = c.id === this.control ? gesture : { ...idle, letGoAt: -Infinity };
      if (c.kind === "stick") {
        const raw = this.sticks
          .get(c.id)!
          .read(c.id === this.control ? gesture : { ...idle, letGoAt: -Infinity }, t, dt);
        const table = this.settings.calibration?.[c.id];
        const [x, y] = table ? reported(raw, table) : raw;
        axes[c.input.axes[0]] = this.quantised(c.input.flip?.[0] ? -x : x, -1);
        axes[c.input.axes[1]] = this.quantised(c.input.flip?.[1] ? -y : y, -1);
      } else if (c.kind === "trigger") this.setTrigger(c, this.triggers.get(c.id)!.read(g), axes, buttons);
      else {
        const on = this.buttons
          .get(c.id)!
          .read(g.pressed, t, this.step === "press-edge" ? this.rimSide : null);
        this.setButton(c, on || fired.has(c.id), axes, buttons);
        const other = this.settings.faults.buttons?.[c.id]?.firesWith;
        if (on && other) fired.add(other);
      }
    }
    for (const c of this.controls)
      if (c.kind === "button" && fired.has(c.id)) this.setButton(c, true, axes, buttons);
    return { t, axes: axes.map((v) => (Number.isNaN(v) ? 0 : v)), buttons };
  }

  private quantised(v: number, low: number): number {
    const steps = 2 ** this.settings.bits - 1;
    const unit = (clamp(v, low, 1) - low) / (1 - low);
    return low + (Math.round(unit * steps) / steps) * (1 - low);
  }

  private setTrigger(
    c: Extract<MappedControl, { kind: "trigger" }>,
    v: number,
    axes: number[],
    buttons: number[],
  ): void {
    const value = this.quantised(v, 0);
    if ("button" in c.input) buttons[c.input.button] = value;
    else axes[c.input.axis] = c.input.released + value * (c.input.pulled - c.input.released);
  }

  private setButton(
    c: Extract<MappedControl, { kind: "button" }>,
    on: boolean,
    axes: number[],
    buttons: number[],
  ): void {
    if ("button" in c.input) buttons[c.input.button] = Math.max(buttons[c.input.button]!, on ? 1 : 0);
    else if (on) axes[c.input.hat] = c.input.values[0]!;
    else if (Number.isNaN(axes[c.input.hat])) axes[c.input.hat] = 9 / 7;
  }
}

/** What the hand does of its own with each kind of control, and for how long. */
const OWN_STEP = {
  stick: { step: "circle", ms: 3200 },
  trigger: { step: "pull", ms: 1900 },
  button: { step: "press", ms: 900 },
} as const;

/** A hand that goes through all controls without being asked, as in a quick look. */
class Tour {
  private at = -1;
  private until: number;
  private presses: number[] = [];

  constructor(
    private readonly controls: readonly MappedControl[],
    start: number,
  ) {
    this.until = start + 2600; // first it lies on the bench
  }

  next(t: number): { step: Step; control: string } | null {
    if (t < this.until || this.at + 1 >= this.controls.length) {
      if (t >= this.until && this.at + 1 === this.controls.length) {
        this.at++;
        return { step: "rest", control: "" };
      }
      return null;
    }
    const c = this.controls[++this.at]!;
    this.presses = c.kind === "button" ? [t + 50, t + 450] : [];
    const { step, ms } = OWN_STEP[c.kind];
    this.until = t + ms;
    return { step, control: c.id };
  }

  cueDue(t: number): boolean {
    if (this.presses.length === 0 || t < this.presses[0]!) return false;
    this.presses.shift();
    return true;
  }
}
