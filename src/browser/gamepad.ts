/** The browser's controllers (W3C Gamepad API): which are there, and every new reading that one gives. */

export type Pad = { index: number; id: string; axes: number; buttons: number };

export function connectedPads(): Pad[] {
  return [...navigator.getGamepads()].flatMap((p) =>
    p?.connected ? [{ index: p.index, id: p.id, axes: p.axes.length, buttons: p.buttons.length }] : [],
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
  private readonly timer: ReturnType<typeof setInterval>;

  constructor(
    private readonly pad: Pad,
    private readonly onGone: (gone: boolean) => void,
  ) {
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

  private poll(): void {
    const now = performance.now();
    const pad = navigator.getGamepads()[this.pad.index];
    const there = pad?.connected === true && pad.id === this.pad.id;
    if (there === this.gone) this.onGone((this.gone = !there));
    if (!there) return;
    const values = [...pad.axes.slice(0, this.pad.axes), ...pad.buttons.slice(0, this.pad.buttons).map((b) => b.value)];
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
