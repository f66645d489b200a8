import type { Chance } from "../math/random";
import type { Step } from "../recording/recording";
import type { Point } from "../signal/rest";

/** What a hand does with one control at one moment, before the controller turns it into readings. */
export type Gesture = {
  /** where the hand holds the stick, or null when it has let go */
  stick: Point | null;
  letGoAt: number;
  pull: number;
  pressed: boolean;
};

const IDLE: Gesture = { stick: null, letGoAt: -Infinity, pull: 0, pressed: false };

export type HandSettings = {
  /** turns per second of a circle */
  turnsPerSecond: number;
  /** mean and spread of the time from a cue to the press, ms */
  reactionMs: number;
  reactionSpreadMs: number;
};

export const STEADY_HAND: HandSettings = { turnsPerSecond: 0.9, reactionMs: 160, reactionSpreadMs: 35 };

const ease = (s: number) => (1 - Math.cos(Math.PI * Math.min(1, Math.max(0, s)))) / 2;
const LIFT_MS = 250;
const LETS_GO_AGAIN_MS = 900; // one flick, from push to push
/** The eight directions in the order of a hand that does not turn in one sense only. */
const ROUND = [0, 3, 6, 1, 4, 7, 2, 5];
const AIMS_WITHIN = Math.PI / 12;
const TOLD_SLOWER = 0.7; // what is left of its speed each time it is told to be slower
const PULL_MS = 1900;
const TURNS_EACH_WAY = 2.6;

/** A practised hand that follows the steps of a test. Deterministic by its chance. */
export class Hand {
  private step: Step = "rest";
  private since = 0;
  private presses: { from: number; to: number }[] = [];
  private flickAngles: number[] = [];
  private lastStick: Point | null = null;
  private letGoAt = -Infinity;
  private slower = 0;

  constructor(
    private readonly chance: Chance,
    private readonly settings: HandSettings = STEADY_HAND,
  ) {}

  ask(step: Step, t: number, slower = 0): void {
    this.slower = slower;
    if (this.lastStick) this.letGoAt = t;
    this.step = step;
    this.since = t;
    this.presses = [];
    this.flickAngles = [];
    this.lastStick = null;
  }

  cue(t: number): void {
    const { reactionMs, reactionSpreadMs } = this.settings;
    const from = t + Math.min(320, Math.max(60, reactionMs + reactionSpreadMs * this.chance.normal()));
    this.presses.push({ from, to: from + this.chance.between(70, 120) });
  }

  at(t: number): Gesture {
    const s = t - this.since;
    if (this.step === "circle") return this.hold(this.circle(s));
    if (this.step === "sweep") return this.hold(this.sweep(s));
    if (this.step === "flick") return this.flick(s, t);
    if (this.step === "pull") return { ...IDLE, pull: this.pull(s) };
    if (this.step === "press" || this.step === "press-edge")
      return { ...IDLE, pressed: this.presses.some((p) => t >= p.from && t < p.to) };
    return { ...IDLE, letGoAt: this.letGoAt };
  }

  private hold(stick: Point): Gesture {
    this.lastStick = stick;
    return { ...IDLE, stick };
  }

  private circle(s: number): Point {
    const out = ease(s / LIFT_MS);
    const turnMs = 1000 / (this.settings.turnsPerSecond * TOLD_SLOWER ** this.slower);
    const legMs = TURNS_EACH_WAY * turnMs;
    const inPair = Math.max(0, s - LIFT_MS) % (2 * legMs);
    const turns = inPair < legMs ? inPair / turnMs : TURNS_EACH_WAY - (inPair - legMs) / turnMs;
    const a = 2 * Math.PI * turns;
    return [out * Math.cos(a), -out * Math.sin(a)];
  }

  private sweep(s: number): Point {
    const legMs = 1100;
    const leg = Math.floor(s / legMs);
    const amount = ease(1 - Math.abs(((s % legMs) / legMs) * 2 - 1));
    const [dx, dy] = (
      [
        [1, 0],
        [0, -1],
        [-1, 0],
        [0, 1],
      ] as const
    )[leg % 4]!;
    return [dx * amount, dy * amount];
  }

  private flick(s: number, t: number): Gesture {
    const n = Math.floor(s / LETS_GO_AGAIN_MS);
    while (this.flickAngles.length <= n) this.flickAngles.push(this.flickAngle());
    const inFlick = s - n * LETS_GO_AGAIN_MS;
    if (inFlick >= LIFT_MS) return { ...IDLE, letGoAt: t - (inFlick - LIFT_MS) };
    const amount = ease(inFlick / 140);
    const a = this.flickAngles[n]!;
    return this.hold([amount * Math.cos(a), amount * Math.sin(a)]);
  }

  /** One direction after another, each about where it was meant: a practised hand goes round. */
  private flickAngle(): number {
    const direction = ROUND[this.flickAngles.length % ROUND.length]! * (Math.PI / 4);
    return direction + this.chance.between(-AIMS_WITHIN, AIMS_WITHIN);
  }

  private pull(s: number): number {
    const inPull = s % PULL_MS;
    if (inPull < 800) return ease(inPull / 800);
    if (inPull < 1000) return 1;
    return ease(1 - (inPull - 1000) / 500);
  }
}
