import type { Reading } from "../guide/source";
import type { AxisTriggerInput, ButtonInput, HatInput, MappedControl, StickInput } from "../input/input";

/**
 * Makes a mapping from a controller in the hand: the person moves each control when asked, and what changed
 * is its input.
 */

export type Wish = { id: string; kind: MappedControl["kind"] };
export type LearnAsk = { wish: Wish; move: "press" | "pull" | "right" | "down" };
export type Learned = {
  id: string;
  kind: MappedControl["kind"];
  input: StickInput | ButtonInput | AxisTriggerInput | HatInput;
};

const MOVED = 0.5;
const HOLD_MS = 120;
const REST_WITHIN = 0.2;
const REST_MS = 150;
const HAT_STEP = 2 / 7; // eight directions from -1 to 1
const PAD_IDS = ["pad.up", "pad.right", "pad.down", "pad.left"];

type Change = { kind: "axis" | "button"; index: number; value: number };

export class Learner {
  private readonly asks: LearnAsk[];
  private at = 0;
  private rest: Reading | null = null;
  private held: { change: Change; since: number } | null = null;
  private mustRest = true;
  private restSince: number | null = null;
  private stickX: { axis: number; flip: boolean } | null = null;
  private readonly learned: Learned[] = [];
  private readonly used = new Set<string>();

  constructor(wishes: readonly Wish[]) {
    this.asks = wishes.flatMap((wish): LearnAsk[] =>
      wish.kind === "stick"
        ? [
            { wish, move: "right" },
            { wish, move: "down" },
          ]
        : [{ wish, move: wish.kind === "trigger" ? "pull" : "press" }],
    );
  }

  get current(): LearnAsk | null {
    return this.asks[this.at] ?? null;
  }
  get waitsForRest(): boolean {
    return this.mustRest;
  }
  get done(): number {
    return this.at / Math.max(1, this.asks.length);
  }

  /** Leaves a control out that this controller does not have. */
  skip(): void {
    const wish = this.current?.wish;
    while (this.current && this.current.wish === wish) this.at++;
    this.stickX = null;
    this.held = null;
    this.mustRest = true;
  }

  add(reading: Reading): void {
    if (!this.current) return;
    // the first reading is the state with hands off; later rests are compared with it
    this.rest ??= reading;
    if (this.mustRest) {
      if (!this.isAtRest(reading)) this.restSince = null;
      else {
        this.restSince ??= reading.t;
        if (reading.t - this.restSince >= REST_MS) this.mustRest = false;
      }
      return;
    }
    const change = this.largestChange(reading);
    if (!change || Math.abs(change.value - this.restOf(change)) < MOVED) {
      this.held = null;
      return;
    }
    const same = this.held?.change.kind === change.kind && this.held.change.index === change.index;
    if (!same) this.held = { change, since: reading.t };
    else if (reading.t - this.held!.since >= HOLD_MS) this.take(change);
  }

  /** The mapping so far; a direction pad on one axis gets its diagonals. */
  result(): Learned[] {
    const hats = this.learned.filter((l) => PAD_IDS.includes(l.id) && "hat" in l.input) as (Learned & {
      input: HatInput;
    })[];
    const complete = hats.length === 4 && new Set(hats.map((h) => h.input.hat)).size === 1;
    if (!complete) return [...this.learned];
    const around = (v: number) => {
      const wrap = (x: number) => {
        if (x < -1 - HAT_STEP / 2) return x + 8 * HAT_STEP;
        if (x > 1 + HAT_STEP / 2) return x - 8 * HAT_STEP;
        return x;
      };
      return [v, wrap(v - HAT_STEP), wrap(v + HAT_STEP)].map((x) => Math.round(x * 1e4) / 1e4);
    };
    return this.learned.map((l) =>
      hats.includes(l as never)
        ? { ...l, input: { ...(l.input as HatInput), values: around((l.input as HatInput).values[0]!) } }
        : l,
    );
  }

  private restOf({ kind, index }: Change): number {
    return (kind === "axis" ? this.rest!.axes : this.rest!.buttons)[index] ?? 0;
  }

  /**
   * Whether all is let go; what is learnt already may come back less well, a bad stick is no hand that holds
   * it.
   */
  private isAtRest({ axes, buttons }: Reading): boolean {
    const rests = (kind: Change["kind"]) => (value: number, index: number) =>
      Math.abs(value - this.restOf({ kind, index, value })) <=
      (this.used.has(`${kind}${index}`) ? MOVED : REST_WITHIN);
    return axes.every(rests("axis")) && buttons.every(rests("button"));
  }

  private largestChange({ axes, buttons }: Reading): Change | null {
    let best: Change | null = null;
    const consider = (kind: Change["kind"], value: number, index: number) => {
      if (this.used.has(`${kind}${index}`) && !this.mayShare(kind, index)) return;
      const c = { kind, index, value };
      // a button says the same as an axis more plainly
      const size = Math.abs(value - this.restOf(c)) + (kind === "button" ? 0.01 : 0);
      if (
        best === null ||
        size > Math.abs(best.value - this.restOf(best)) + (best.kind === "button" ? 0.01 : 0)
      )
        best = c;
    };
    buttons.forEach((v, i) => consider("button", v, i));
    axes.forEach((v, i) => consider("axis", v, i));
    return best;
  }

  /** The four directions of a pad may sit on one axis. */
  private mayShare(kind: Change["kind"], index: number): boolean {
    const wish = this.current?.wish;
    if (kind !== "axis" || !wish || !PAD_IDS.includes(wish.id)) return false;
    return this.learned.some((l) => "hat" in l.input && l.input.hat === index);
  }

  private take(change: Change): void {
    const { wish, move } = this.current!;
    if (wish.kind === "stick") {
      if (change.kind !== "axis") return;
      const flip = change.value < this.restOf(change);
      if (move === "right") this.stickX = { axis: change.index, flip };
      else if (this.stickX) {
        const flips: [boolean, boolean] = [this.stickX.flip, flip];
        this.learned.push({
          id: wish.id,
          kind: "stick",
          input: { axes: [this.stickX.axis, change.index], ...(flips.includes(true) ? { flip: flips } : {}) },
        });
      }
    } else if (change.kind === "button")
      this.learned.push({ id: wish.id, kind: wish.kind, input: { button: change.index } });
    else if (wish.kind === "trigger") {
      const sign = Math.sign(change.value - this.restOf(change));
      const released = Math.round(this.restOf(change) * 10) / 10;
      this.learned.push({
        id: wish.id,
        kind: "trigger",
        input: { axis: change.index, released, pulled: sign },
      });
    } else
      this.learned.push({
        id: wish.id,
        kind: "button",
        input: { hat: change.index, values: [Math.round(change.value * 1e4) / 1e4] },
      });
    this.used.add(`${change.kind}${change.index}`);
    this.at++;
    this.held = null;
    this.mustRest = true;
    this.restSince = null;
    if (wish.kind !== "stick" || move === "down") this.stickX = null;
  }
}
