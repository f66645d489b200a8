import type { Pad } from "./gamepad";

/** Notes when fresh data came from a controller: a gap is a dropout. A repeat of an old state is not fresh. */
export class LinkWatch {
  readonly times: number[] = [0];
  private readonly began = performance.now();
  private last = "";
  private readonly timer: ReturnType<typeof setInterval>;

  constructor(private readonly pad: Pad) {
    this.timer = setInterval(() => this.look(), 4);
  }

  get elapsed(): number {
    return Math.round(performance.now() - this.began);
  }

  stop(): void {
    clearInterval(this.timer);
    this.times.push(this.elapsed); // a link that never came back is a gap up to now
  }

  private look(): void {
    const pad = navigator.getGamepads()[this.pad.index];
    if (!pad?.connected || pad.id !== this.pad.id) return;
    const state = `${pad.timestamp}|${pad.axes.join()}|${pad.buttons.map((b) => b.value).join()}`;
    if (state === this.last) return;
    this.last = state;
    this.times.push(this.elapsed);
  }
}
