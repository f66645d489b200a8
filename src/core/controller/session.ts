import { Guide, type GuideAction, type GuideState } from "../guide/guide";
import type { GuideStep, PressAim } from "../guide/plan";
import type { InputMap } from "../input/input";
import { QuickLook, type QuickState } from "../quicklook/quick-look";
import { type Recording, STEPS } from "../recording/recording";
import type { Rules } from "../analyse/analyse";
import type { PlaybackSource } from "./playback";
import type { Reading, ReadingSource } from "../guide/source";

/** A test as it runs: a source, and what is made of its readings. Called with the clock; knows no page. */

export type PlaybackState = {
  playedMs: number;
  totalMs: number;
  step: string;
  control: string;
  done: boolean;
};
export type Frame = { latest: Reading | null; samples: number } & (
  | { mode: "full"; state: GuideState }
  | { mode: "quick"; state: QuickState }
  | { mode: "playback"; state: PlaybackState }
);

const TICK_MS = 10; // a simulated hand must hear a cue well before it would answer it

export class TestSession {
  private readonly work:
    | { mode: "full"; guide: Guide }
    | { mode: "quick"; look: QuickLook }
    | { mode: "playback"; recording: Recording };
  private clock = 0;
  private latest: Reading | null = null;
  private samples = 0;

  constructor(
    /** the steps of a guided test, or a quick look in no order */
    plan: readonly GuideStep[] | "quick",
    private readonly source: ReadingSource,
    map: InputMap,
    rules: Rules,
    { played, aim = null }: { played?: Recording; aim?: PressAim | null } = {},
  ) {
    if (played) this.work = { mode: "playback", recording: played };
    else if (plan !== "quick")
      this.work = { mode: "full", guide: new Guide(plan, map, rules, source.channels, aim) };
    else {
      this.work = { mode: "quick", look: new QuickLook(map, rules, source.channels) };
      source.obey({ kind: "prompt", step: "free", control: "*" });
    }
  }

  /** Moves the source's clock on to t and takes what came. */
  advance(t: number): Frame {
    while (this.clock < t) {
      this.clock = Math.min(t, this.clock + TICK_MS);
      this.take(this.source.readUntil(this.clock));
      if (this.isDone()) break;
    }
    return this.frame();
  }

  act(action: GuideAction): Frame {
    if (this.work.mode === "full") this.work.guide.act(action).forEach((c) => this.source.obey(c));
    return this.frame();
  }

  recording(): Recording {
    if (this.work.mode === "playback") return this.work.recording;
    return this.work.mode === "full" ? this.work.guide.recording() : this.work.look.recording();
  }

  private take(readings: readonly Reading[]): void {
    if (readings.length === 0) return;
    this.latest = readings.at(-1)!;
    this.samples += readings.length;
    if (this.work.mode === "full") this.work.guide.add(readings).forEach((c) => this.source.obey(c));
    else if (this.work.mode === "quick") this.work.look.add(readings);
  }

  private isDone(): boolean {
    if (this.work.mode === "full") return this.work.guide.state().phase === "done";
    return this.work.mode === "quick" ? false : this.source.ended;
  }

  private frame(): Frame {
    const { latest, samples, work } = this;
    if (work.mode === "full") return { latest, samples, mode: work.mode, state: work.guide.state() };
    if (work.mode === "quick") return { latest, samples, mode: work.mode, state: work.look.state() };
    const r = work.recording;
    const at = Math.max(0, Math.min(r.length - 1, (this.source as PlaybackSource).played - 1));
    const start = r.t[0] ?? 0;
    const state: PlaybackState = {
      playedMs: (r.t[at] ?? 0) - start,
      totalMs: (r.t[r.length - 1] ?? 0) - start,
      step: STEPS[r.step[at] ?? 0]!,
      control: r.control[at] ? r.controlNames[r.control[at] - 1]! : "",
      done: this.source.ended,
    };
    return { latest, samples, mode: work.mode, state };
  }
}
