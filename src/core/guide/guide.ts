import type { InputMap } from "../input/input";
import { readValue } from "../input/input";
import { type Recording, RecordingBuilder } from "../recording/recording";
import type { Reading, SourceCommand } from "./source";
import { type Analysis, type Rules, analyse } from "../analyse/analyse";
import { median } from "../math/quantile";
import { HandCommands, type CommandButtons, HOLD_MS } from "./hand-commands";
import { type GuideStep, NO_PRESSES, type PressAim, pressesBefore, type RimSide, rimSideOf } from "./plan";
import { type Progress, type StepAim, stepProgress } from "./progress";
import { addPresses, badChance, isKnownBad, type Presses, releaseRiskOf } from "../signal/risk";

export type GuidePhase = "lead-in" | "running" | "asking" | "paused" | "done";
export type GuideState = {
  index: number;
  total: number;
  current: GuideStep | null;
  phase: GuidePhase;
  progress: Progress | null;
  /** time of the last cue on the recording's clock, for the page to show and sound */
  lastCue: number | null;
  /** where on the rim the last cue asked for */
  side: RimSide | null;
  /** buttons that mean "again" and "skip" when held, once they have passed */
  commands: CommandButtons;
  restarts: number;
  skipped: readonly number[];
  /** controls with a step that is running or still to come */
  open: readonly string[];
  /** the chance that one of the buttons is bad, and for a proof what it must come under; null where none is pressed */
  risk: { now: number; aim: number | null } | null;
  /** the analysis as of the last finished step: the page's own, never stored */
  analysis: Analysis | null;
};

export type GuideAction = "skip" | "repeat" | "back" | "was-moved" | "was-not-moved" | "pause" | "resume";

const LEAD_IN_MS = 600;
const LOOK_EVERY_MS = 100;
const CUE_EVERY_MS = 700;
const FIRST_CUE_MS = 500;
const CUE_ANSWER_MS = 460;
const HOLD_MARGIN_MS = 200;
const COARSE_TRIES = 2;
const IDLE_REST_MS = 10_000;

const isPress = (step: GuideStep | undefined): boolean =>
  step?.step === "press" || step?.step === "press-edge";
type Where = "middle" | "rim";
const whereOf = ({ step }: GuideStep): Where => (step === "press" ? "middle" : "rim");

/**
 * Leads a full test: labels each reading with what was asked, calls presses, judges each step by the measures
 * themselves and moves on. Runs on the readings' own clock, so it is the same live, simulated or played back.
 */
export class Guide {
  private readonly builder: RecordingBuilder;
  private readonly plan: GuideStep[];
  private index = 0;
  private phase: GuidePhase = "lead-in";
  private phaseSince: number | null = null;
  private stepRow = 0;
  private lastLook = 0;
  private lastCue: number | null = null;
  private progress: Progress | null = null;
  private restarts = 0;
  private asked = false;
  private readonly skipped = new Set<number>();
  private analysis: Analysis | null = null;
  private commands: SourceCommand[] = [];
  private cues = 0;
  private cueRow = 0;
  /** presses of this test per button before the attempt that runs; a repeated attempt counts too */
  private readonly pressed: Record<string, Record<Where, Presses>>;
  private askedIdle = false;
  private readonly hand: HandCommands;

  constructor(
    plan: readonly GuideStep[],
    private readonly map: InputMap,
    private readonly rules: Rules,
    channels: { axes: number; buttons: number },
    /** for a proof: how sure the presses must make it, and what earlier tests already show */
    private readonly aim: PressAim | null = null,
  ) {
    this.plan = [...plan];
    const upTo = (n: number) => Array.from({ length: n }, (_, i) => i);
    this.builder = new RecordingBuilder(upTo(channels.axes), upTo(channels.buttons));
    this.hand = new HandCommands(map);
    if (plan.length === 0) this.phase = "done";
    this.pressed = Object.fromEntries(plan.filter(isPress).map((s) => [s.control, { ...NO_PRESSES }]));
  }

  /** Takes readings in order and returns what is asked of the source from now on. */
  add(readings: readonly Reading[]): SourceCommand[] {
    for (const reading of readings) this.take(reading);
    return this.commands.splice(0);
  }

  act(action: GuideAction): SourceCommand[] {
    if (this.phase === "done" && action !== "back" && action !== "repeat") return [];
    if (action === "skip") {
      // without the last hands off nobody knows what the controls do by themselves
      if (this.plan[this.index]?.step === "rest" && this.index > 0) return [];
      this.skipped.add(this.index);
      this.setStepAside();
      this.goTo(this.index + 1);
    } else if (action === "repeat") this.restart();
    else if (action === "back") {
      this.setStepAside();
      this.goTo(Math.max(0, this.index - 1));
      this.setControlStepAside();
    } else if (action === "was-not-moved") {
      // nobody pressed or moved it: what was not asked of it cannot be held against it
      this.builder.setAside(this.stepRow);
      this.progress = null;
      this.restart();
    } else if (action === "was-moved") this.acceptSilence();
    else if (action === "pause") {
      this.setStepAside();
      this.phase = "paused";
    } else if (this.phase === "paused") this.goTo(this.index);
    return this.commands.splice(0);
  }

  state(): GuideState {
    return {
      index: this.index,
      total: this.plan.length,
      current: this.plan[this.index] ?? null,
      phase: this.phase,
      progress: this.progress,
      lastCue: this.lastCue,
      side: this.side(),
      commands: this.hand.buttons(this.analysis, this.plan[this.index]?.control ?? ""),
      restarts: this.restarts,
      skipped: [...this.skipped],
      open: [...new Set(this.plan.slice(this.index).map((s) => s.control))].filter(Boolean),
      risk: this.risk(),
      analysis: this.analysis,
    };
  }

  recording(): Recording {
    return this.builder.view();
  }

  private take({ t, axes, buttons }: Reading): void {
    this.phaseSince ??= t;
    const current = this.plan[this.index];
    const running = this.phase === "running" && current !== undefined;
    const cue = running && this.cueDue(current, t);
    this.builder.add({
      t,
      step: running ? current.step : "free",
      control: running ? current.control : "",
      cue,
      axes,
      buttons,
    });
    if (cue) {
      this.lastCue = t;
      this.cueRow = this.builder.length - 1;
      this.cues++;
      this.commands.push({ kind: "cue", t, side: this.side() });
    }
    const held =
      this.phase === "done" ? null : this.hand.heard(t, axes, buttons, this.analysis, current?.control ?? "");
    if (held) {
      this.setHoldAside(t);
      this.commands.push(...this.act(held));
      return;
    }
    if (this.phase === "lead-in" && t - this.phaseSince >= LEAD_IN_MS) this.begin(t);
    else if (running && t - this.lastLook >= LOOK_EVERY_MS) this.look(t);
  }

  private side(): RimSide | null {
    return this.plan[this.index]?.step === "press-edge" && this.cues > 0 ? rimSideOf(this.cues - 1) : null;
  }

  private begin(t: number): void {
    const current = this.plan[this.index]!;
    this.phase = "running";
    this.phaseSince = t;
    this.stepRow = this.builder.length;
    this.lastLook = t;
    this.lastCue = null;
    this.cues = 0;
    const { step, control } = current;
    this.commands.push({
      kind: "prompt",
      step,
      control,
      ...(this.restarts ? { slower: this.restarts } : {}),
    });
  }

  private cueDue(current: GuideStep, t: number): boolean {
    if (current.step !== "press" && current.step !== "press-edge") return false;
    if (this.progress?.done) return false;
    return this.lastCue === null ? t - this.phaseSince! >= FIRST_CUE_MS : t - this.lastCue >= CUE_EVERY_MS;
  }

  private look(t: number): void {
    this.lastLook = t;
    const current = this.plan[this.index]!;
    this.progress = stepProgress(
      this.builder.view(this.stepRow),
      current,
      this.map,
      this.restValue(current.control),
      this.rules.missTest,
      this.stepAim(current),
    );
    const again = this.progress.coarse && this.restarts < COARSE_TRIES;
    if (this.progress.restart || again) {
      this.restart();
      this.restarts++;
    } else if (this.progress.silent) {
      if (this.asked) this.acceptSilence();
      else this.phase = "asking";
    } else if (this.progress.done && (this.lastCue === null || t - this.lastCue >= CUE_ANSWER_MS))
      this.finishStep();
  }

  private acceptSilence(): void {
    // the rows stay as they are: a step of 5 s that moved nothing is the evidence. What follows would tell no
    // more.
    const { control } = this.plan[this.index]!;
    let next = this.index + 1;
    while (next < this.plan.length && this.plan[next]!.control === control) this.skipped.add(next++);
    this.analyseSoFar();
    this.goTo(next);
  }

  private finishStep(): void {
    this.skipped.delete(this.index);
    this.analyseSoFar();
    this.goTo(this.index + 1);
  }

  private restart(): void {
    const wasAsked = this.phase === "asking";
    if (this.index >= this.plan.length) this.index = this.plan.length - 1;
    this.setStepAside();
    this.setControlStepAside();
    this.goTo(this.index);
    this.asked = wasAsked || this.asked;
  }

  /**
   * What was measured in the step that runs counts no more, but for presses: one that was asked for and missed
   * stays missed, however often the step is repeated. Only a cue that had no time for its answer is dropped.
   */
  private setStepAside(): void {
    if (this.phase !== "running" && this.phase !== "asking") return;
    if (!isPress(this.plan[this.index])) return this.builder.setAside(this.stepRow);
    if (this.lastCue === null) return;
    const last = this.builder.view(this.cueRow).t;
    if (last.at(-1)! - this.lastCue < CUE_ANSWER_MS) this.builder.setAside(this.cueRow);
  }

  /** Rows of an earlier attempt at the current step no longer count; presses do. */
  private setControlStepAside(): void {
    const current = this.plan[this.index];
    if (current && !isPress(current)) this.builder.setStepAside(current.step, current.control);
  }

  /** The button that was held to command is not one that presses itself. */
  private setHoldAside(now: number): void {
    const { t, length } = this.builder.view();
    let row = length;
    while (row > 0 && now - t[row - 1]! <= HOLD_MS + HOLD_MARGIN_MS) row--;
    this.builder.setAside(Math.max(row, this.stepRow));
  }

  private stepAim(current: GuideStep): StepAim | null {
    if (this.aim === null || !isPress(current)) return null;
    const where = whereOf(current);
    const planned = this.plan.filter((s) => s.step === current.step).length;
    return {
      chance: this.aim.aim / Math.max(1, planned, this.aim.buttons ?? 0),
      pooled: this.aim.pooled === true,
      before: addPresses(
        pressesBefore(this.aim, current.control, where),
        (this.pressed[current.control] ?? NO_PRESSES)[where],
      ),
    };
  }

  /** What the running attempt has asked and missed so far. */
  private attempt(): Presses {
    const waiting = this.progress?.waiting;
    if (waiting?.code !== "presses") return NO_PRESSES.middle;
    return { presses: waiting.cues, missed: waiting.missed };
  }

  private keepPresses(): void {
    const current = this.plan[this.index];
    if (!current || !isPress(current)) return;
    const so = (this.pressed[current.control] ??= { ...NO_PRESSES });
    so[whereOf(current)] = addPresses(so[whereOf(current)], this.attempt());
  }

  /** The chance that a bad one is among the buttons that pass, by all presses so far; unpressed ones count as any. */
  private risk(): GuideState["risk"] {
    const { aim } = this;
    const current = this.plan[this.index];
    const chances = Object.entries(this.pressed).map(([id, { middle }]) => {
      const running = current?.step === "press" && current.control === id;
      const now = running ? addPresses(middle, this.attempt()) : middle;
      return badChance(aim ? addPresses(pressesBefore(aim, id, "middle"), now) : now);
    });
    if (chances.length === 0) return null;
    return { now: releaseRiskOf(chances.filter((c) => !isKnownBad(c))) ?? 0, aim: aim?.aim ?? null };
  }

  /** Something moved by itself while another control was tested: hands off once more, and longer, tells. */
  private askIdle(): void {
    if (this.askedIdle || this.analysis === null) return;
    const doubtful = Object.values(this.analysis.controls).some(
      ({ idle }) => idle !== null && idle.count > 0 && !idle.confirmed,
    );
    if (!doubtful) return;
    this.askedIdle = true;
    this.plan.push({ step: "rest", control: "", ms: IDLE_REST_MS });
  }

  private goTo(index: number): void {
    if (index !== this.index) {
      this.asked = false;
      this.restarts = 0;
    }
    this.keepPresses();
    if (index >= this.plan.length) this.askIdle();
    this.index = index;
    this.progress = null;
    this.phaseSince = null;
    this.stepRow = this.builder.length;
    this.phase = index >= this.plan.length ? "done" : "lead-in";
    this.commands.push({ kind: "prompt", step: "free", control: "" });
  }

  private restValue(control: string): number {
    const result = this.analysis?.controls[control];
    if (result?.kind === "trigger" && result.restValue !== null) return result.restValue;
    const mapped = this.map.controls.find((c) => c.id === control);
    if (mapped?.kind !== "trigger") return 0;
    const r = this.builder.view(this.stepRow);
    const first = r.t.findIndex((t) => t - r.t[0]! > 50);
    const early = Array.from(
      { length: Math.max(1, first) },
      (_, i) =>
        readValue(
          mapped,
          r.axes.map((c) => c?.[i] ?? 0),
          r.buttons.map((c) => c?.[i] ?? 0),
        ).v,
    );
    return median(early);
  }

  private analyseSoFar(): void {
    this.analysis = analyse(this.builder.view(), this.map, this.rules).analysis;
  }
}
