import type { Pad } from "./gamepad";

const LOOK_MS = 4;
const STALL_MS = 40;

/**
 * Notes when fresh data came from a controller: a gap is a dropout. A repeat of an old state is not fresh.
 */
export class LinkWatch {
  readonly times: number[] = [0];
  private readonly began = performance.now();
  private last = "";
  private lookedAt = this.began;
  /** time in which this page itself did not look: no dropout of the link */
  private stalled = 0;
  private readonly timer: ReturnType<typeof setInterval>;

  constructor(private readonly pad: Pad) {
    this.timer = setInterval(() => this.look(), LOOK_MS);
  }

  get elapsed(): number {
    return Math.round(performance.now() - this.began - this.stalled);
  }

  stop(): void {
    clearInterval(this.timer);
    this.times.push(this.elapsed); // a link that never came back is a gap up to now
  }

  private look(): void {
    const now = performance.now();
    if (now - this.lookedAt > STALL_MS) this.stalled += now - this.lookedAt - LOOK_MS;
    this.lookedAt = now;
    const pad = navigator.getGamepads()[this.pad.index];
    if (!pad?.connected || pad.id !== this.pad.id) return;
    const state = `${pad.timestamp}|${pad.axes.join()}|${pad.buttons.map((b) => b.value).join()}`;
    if (state === this.last) return;
    this.last = state;
    this.times.push(this.elapsed);
  }
}
