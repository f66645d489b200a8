/** The browser's controllers (W3C Gamepad API): which are there, and every new reading that one gives. */

export type Pad = { index: number; id: string; axes: number; buttons: number };

export function connectedPads(): Pad[] {
  return [...navigator.getGamepads()].flatMap((p) =>
    p?.connected ? [{ index: p.index, id: p.id, axes: p.axes.length, buttons: p.buttons.length }] : [],
  );
}

/** What each controller reads now, to tell which of several is in the hand. */
export function padActivity(): Map<number, number[]> {
  return new Map(
    [...navigator.getGamepads()].flatMap((p) =>
      p?.connected ? [[p.index, [...p.axes, ...p.buttons.map((b) => b.value)]] as const] : [],
    ),
  );
}

const POLL_MS = 4; // the least that a browser's timer allows
const REPEAT_MS = 16; // an unchanged state is noted this often: standing still is evidence too

/** Reads one controller until stopped. Readings are flat rows: t, axes, buttons. */
export class PadReader {
  private rows: number[] = [];
  private lastStamp = -1;
  private lastT = -Infinity;
  private lastValues: number[] = [];
  private gone = false;
  /** the slot it is in now: a browser may give another when it is plugged in again */
  private slot: number;
  /** slots that held a like controller from the start: never taken for this one */
  private readonly others: Set<number>;
  private readonly timer: ReturnType<typeof setInterval>;

  constructor(
    private readonly pad: Pad,
    private readonly onGone: (gone: boolean) => void,
  ) {
    this.slot = pad.index;
    this.others = new Set(connectedPads().flatMap((p) => (p.index === pad.index ? [] : [p.index])));
    this.timer = setInterval(() => this.poll(), POLL_MS);
  }

  /** The rows since the last call. */
  take(): Float64Array {
    const out = Float64Array.from(this.rows);
    this.rows = [];
    return out;
  }

  stop(): void {
    clearInterval(this.timer);
  }

  /**
   * This very controller: in its slot, or, once it went, the only like one that came into a slot that was
   * free before.
   */
  private find(): Gamepad | null {
    const all = [...navigator.getGamepads()];
    const isLike = (p: Gamepad | null | undefined): p is Gamepad =>
      p?.connected === true && p.id === this.pad.id;
    if (isLike(all[this.slot])) return all[this.slot]!;
    const back = all.filter((p): p is Gamepad => isLike(p) && !this.others.has(p.index));
    if (!this.gone || back.length !== 1) return null;
    this.slot = back[0]!.index;
    return back[0]!;
  }

  private poll(): void {
    const now = performance.now();
    const pad = this.find();
    const there = pad !== null;
    if (there === this.gone) this.onGone((this.gone = !there));
    if (!there) return;
    const values = [
      ...pad.axes.slice(0, this.pad.axes),
      ...pad.buttons.slice(0, this.pad.buttons).map((b) => b.value),
    ];
    const isNew = pad.timestamp !== this.lastStamp || values.some((v, i) => v !== this.lastValues[i]);
    if (!isNew && now - this.lastT < REPEAT_MS) return;
    // a new state carries the time at which the browser got it; a repeat is noted now
    const stamped = isNew && pad.timestamp > this.lastT && pad.timestamp <= now && now - pad.timestamp < 100;
    const t = Math.max(this.lastT, stamped ? pad.timestamp : now);
    this.lastStamp = pad.timestamp;
    this.lastT = t;
    this.lastValues = values;
    this.rows.push(t, ...values.map((v, i) => (i < this.pad.axes ? v : Math.min(1, Math.max(0, v)))));
  }
}
