import { type Remote, transfer, wrap } from "comlink";

import type { Frame } from "@/core/controller/session";
import type { GuideAction } from "@/core/guide/guide";
import { type Pad, PadReader } from "./gamepad";
import type { Begin, SourceChoice, TestWorkerApi } from "./test-worker";

export type PageSource =
  Exclude<SourceChoice, { kind: "gamepad" }> | { kind: "gamepad"; pad: Pad; link: "cable" | "radio" };

/** A running test on the page: it feeds the worker at the display's rate and hands back what it says. */
export class TestRunner {
  private readonly worker = new Worker(new URL("./test-worker.ts", import.meta.url), { type: "module" });
  private readonly remote: Remote<TestWorkerApi> = wrap<TestWorkerApi>(this.worker);
  private reader: PadReader | null = null;
  private clock = 0;
  private lastTick = 0;
  private busy = false;
  private frame = 0;
  private stopped = false;
  readonly startedAt = Date.now();

  constructor(
    private readonly source: PageSource,
    private readonly speed: number,
    private readonly onFrame: (frame: Frame) => void,
    private readonly onGone: (gone: boolean) => void,
  ) {}

  /** Null when it runs, or why it cannot. */
  async start(begin: Omit<Begin, "source">): Promise<string | null> {
    const choice: SourceChoice =
      this.source.kind === "gamepad"
        ? { kind: "gamepad", channels: { axes: this.source.pad.axes, buttons: this.source.pad.buttons } }
        : this.source;
    const problem = await this.remote.begin({ ...begin, source: choice });
    if (problem !== null) return problem;
    if (this.source.kind === "gamepad") this.reader = new PadReader(this.source.pad, this.onGone);
    this.lastTick = performance.now();
    this.frame = requestAnimationFrame(this.tick);
    return null;
  }

  async act(action: GuideAction): Promise<void> {
    this.onFrame(await this.remote.act(action));
  }

  async csvGz(): Promise<Blob> {
    await this.feed();
    return new Blob([await this.remote.csvGz()], { type: "application/gzip" });
  }

  /** Stops reading; the recording can still be asked for. */
  rest(): void {
    cancelAnimationFrame(this.frame);
    this.stopped = true;
    this.reader?.stop();
  }

  stop(): void {
    this.rest();
    this.worker.terminate();
  }

  private readonly tick = () => {
    if (this.stopped) return;
    this.frame = requestAnimationFrame(this.tick);
    if (this.busy) return;
    this.busy = true;
    void this.step().finally(() => (this.busy = false));
  };

  private async step(): Promise<void> {
    const now = performance.now();
    this.clock += Math.min(250, now - this.lastTick) * this.speed;
    this.lastTick = now;
    await this.feed();
    const frame = await this.remote.advance(this.clock);
    if (!this.stopped) this.onFrame(frame);
  }

  private async feed(): Promise<void> {
    if (!this.reader || this.source.kind !== "gamepad") return;
    const rows = this.reader.take();
    if (rows.length)
      await this.remote.put(transfer(rows, [rows.buffer]), this.source.pad.axes, this.source.pad.buttons);
  }
}
