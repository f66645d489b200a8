import type { Dice } from "./chance";
import type { State, Stretch } from "./link";

/** What is wrong with a made stick; lengths are shares of travel, y is down. */
export type StickDefect =
  | { kind: "none" }
  | { kind: "offset"; size: number }
  | { kind: "noise"; p95: number }
  | { kind: "return"; size: number }
  | { kind: "short"; reach: number }
  | { kind: "edge"; meanError: number }
  | { kind: "leap"; size: number; at: number; axis: 0 | 1; how: "skips" | "sticks" | "slips" }
  | { kind: "hangs"; share: number };

/** How quick and how steady the hand is. */
export type StickHand = { turnsPerSecond: number; wobble: number };

export const someHand = (dice: Dice, which: "slow" | "ordinary" | "fast"): StickHand => {
  const [low, high] = { slow: [0.4, 0.8], ordinary: [0.6, 1.2], fast: [1.2, 1.9] }[which] as [number, number];
  return { turnsPerSecond: dice.range(low, high), wobble: dice.range(0.05, 0.3) };
};

type Place = [number, number];

// full to 2 degrees beside a straight direction, short from 30 degrees on: the mean of that over a quarter turn
const EDGE_FULL = (2 * Math.PI) / 180;
const EDGE_SHORT = (30 * Math.PI) / 180;
const EDGE_MEAN = 1 - 16 / 45;

/** A spring that brings the stick back, with a little ringing. */
class Spring {
  private readonly tau: number;
  private readonly ring: number;

  constructor(dice: Dice) {
    this.tau = dice.range(8, 20);
    this.ring = dice.range(0, 0.06);
  }

  left(ms: number): number {
    return Math.exp(-ms / this.tau) + this.ring * Math.sin(ms / 14) * Math.exp(-ms / 30);
  }
}

/** The electronics of a made stick, from where the hand or the spring holds it to what is read. */
class Electronics {
  private readonly angle: number;
  private readonly sigma: number;
  private readonly short: number;
  private readonly ripple: number;
  private stuck = false;

  constructor(
    private readonly defect: StickDefect,
    private readonly dice: Dice,
  ) {
    this.angle = dice.range(0, 2 * Math.PI);
    // the 95th percentile of the distance of two normal deviates is 2.448 of one
    this.sigma = defect.kind === "noise" ? defect.p95 / 2.4477 : dice.range(0.0003, 0.003);
    this.short = Math.floor(dice.range(0, 4));
    this.ripple = dice.range(0, 0.01);
  }

  read([px, py]: Place): Place {
    const r = Math.hypot(px, py);
    const angle = Math.atan2(-py, px);
    const edge = this.edge(angle) * (1 + this.ripple * Math.sin(3 * angle + this.angle));
    let x = px * edge;
    let y = py * edge;
    if (this.defect.kind === "short") [x, y] = this.shortened(x, y);
    if (this.defect.kind === "offset") {
      x += this.defect.size * Math.cos(this.angle) * (1 - Math.min(1, r));
      y += this.defect.size * Math.sin(this.angle) * (1 - Math.min(1, r));
    }
    const place: Place = [x, y];
    if (this.defect.kind === "leap") place[this.defect.axis] = this.leaping(place[this.defect.axis]);
    return [place[0] + this.sigma * this.dice.normal(), place[1] + this.sigma * this.dice.normal()];
  }

  /** An edge that falls short everywhere but about the four straight directions. */
  private edge(angle: number): number {
    if (this.defect.kind !== "edge") return 1;
    const straight = Math.round(angle / (Math.PI / 2)) * (Math.PI / 2);
    const away = Math.abs(angle - straight);
    const s = Math.min(1, Math.max(0, (away - EDGE_FULL) / (EDGE_SHORT - EDGE_FULL)));
    return 1 - (this.defect.meanError / EDGE_MEAN) * s * s * (3 - 2 * s);
  }

  private shortened(x: number, y: number): Place {
    const reach = (this.defect as { reach: number }).reach;
    if (this.short === 0 && x > 0) return [x * reach, y];
    if (this.short === 1 && x < 0) return [x * reach, y];
    if (this.short === 2 && y > 0) return [x, y * reach];
    return this.short === 3 && y < 0 ? [x, y * reach] : [x, y];
  }

  /**
   * Three ways of a worn track: the reading skips a piece of the travel; it sticks at one end of the piece
   * until the wiper is past it; or it slips by the leap while the wiper is on the worn spot.
   */
  private leaping(v: number): number {
    const { size, at, how } = this.defect as { size: number; at: number; how: string };
    if (how === "skips") {
      const below = (at + 1 - size / 2) / (at + 1);
      const above = (1 - at - size / 2) / (1 - at);
      return v < at ? -1 + (v + 1) * below : 1 - (1 - v) * above;
    }
    const from = at - size / 2;
    const to = at + size / 2;
    if (how === "sticks") {
      if (v <= from || v >= to) {
        this.stuck = v >= to;
        return v;
      }
      return this.stuck ? to : from;
    }
    return Math.abs(v - at) < 0.08 ? v - size * Math.sign(at || 1) : v;
  }
}

const TURNS = 2.3;

/** A whole test of one stick by a hand: hands off, circles, sweeps, sixteen releases, hands off. */
export function stickTest(control: string, defect: StickDefect, hand: StickHand, dice: Dice): Stretch[] {
  const electronics = new Electronics(defect, dice);
  const spring = new Spring(dice);
  const state = (p: Place): State => ({ axes: electronics.read(p), buttons: [] });
  const still: Place = [dice.normal() * 0.003, dice.normal() * 0.003];
  const rest = (ms: number): Stretch => ({ step: "rest", control: "", ms, at: () => state(still) });
  const stretches: Stretch[] = [rest(3000)];

  stretches.push(circles(control, hand, dice, spring, state));
  const sweeps: Place[] = [
    [1, 0],
    [0, -1],
    [-1, 0],
    [0, 1],
  ];
  for (const [dx, dy] of sweeps) {
    const legMs = dice.range(800, 1300);
    stretches.push({
      step: "sweep",
      control,
      ms: Math.round(legMs),
      at: (ms) => {
        const out = Math.sin((Math.PI * ms) / legMs);
        return state([dx * out, dy * out]);
      },
    });
  }
  stretches.push(...releases(control, defect, dice, spring, state), rest(2800));
  return stretches;
}

/** Out to the edge, round one way and the other, and back: led back by the hand, or let go. */
function circles(
  control: string,
  hand: StickHand,
  dice: Dice,
  spring: Spring,
  state: (p: Place) => State,
): Stretch {
  const phase = dice.range(0, 2 * Math.PI);
  const perTurn = dice.one([1, 2, 3]);
  const turnMs = 1000 / hand.turnsPerSecond;
  const oneWay = 350 + TURNS * turnMs;
  const over = oneWay + TURNS * turnMs;
  const letsGo = dice.hit(0.5);
  let angle = dice.range(0, 2 * Math.PI);
  return {
    step: "circle",
    control,
    ms: Math.round(over + 500),
    at: (ms) => {
      const way = ms < oneWay ? 1 : -1;
      const speed = 1 + hand.wobble * Math.sin(perTurn * angle + phase) + 0.03 * dice.normal();
      if (ms <= over) angle += (way * 2 * Math.PI * speed) / turnMs;
      let r = Math.sin((Math.PI / 2) * Math.min(1, ms / 350));
      if (ms > over)
        r = letsGo ? spring.left(ms - over) : Math.cos((Math.PI / 2) * Math.min(1, (ms - over) / 400));
      return state([r * Math.cos(angle), -r * Math.sin(angle)]);
    },
  };
}

function releases(
  control: string,
  defect: StickDefect,
  dice: Dice,
  spring: Spring,
  state: (p: Place) => State,
): Stretch[] {
  return Array.from({ length: 16 }, (_, n): Stretch => {
    const angle = ((n * 3) % 8) * (Math.PI / 4) + dice.range(-0.2, 0.2);
    const push = dice.range(110, 220);
    const held = push + dice.range(40, 150);
    const ms = Math.round(held + dice.range(560, 800));
    const way: Place = [Math.cos(angle), -Math.sin(angle)];
    let settle = dice.range(0, 0.012);
    if (defect.kind === "return") settle = defect.size;
    if (defect.kind === "hangs" && dice.hit(defect.share)) settle = dice.range(0.2, 0.7);
    return {
      step: "flick",
      control,
      ms,
      at: (at) => {
        let r = 1;
        if (at < push) r = Math.sin((Math.PI / 2) * (at / push));
        if (at > held) r = settle + (1 - settle) * spring.left(at - held);
        return state([way[0] * r, way[1] * r]);
      },
    };
  });
}
