import type { Reading } from "../guide/source";
import { HOUSE_LIMITS } from "../grade/limits";
import { type InputMap, type MappedControl, readValue } from "../input/input";
import { type Recording, RecordingBuilder } from "../recording/recording";
import { PRESSED } from "../signal/idle";
import type { Rules } from "../analyse/analyse";
import { DIRECTIONS } from "../signal/outer";

/** A first look in no order: what moves is ticked, what is plainly wrong is said. It is never proof. */

export type QuickFault =
  | { code: "rests-off"; value: number; limit: number }
  | { code: "dead-side"; side: string }
  | { code: "leaps"; count: number }
  | { code: "short-pull"; value: number; limit: number }
  | { code: "held-at-rest" }
  | { code: "chatters"; count: number }
  | { code: "fires-with"; other: string };

export type QuickControl = { id: string; seen: number; faults: QuickFault[] };
export type QuickState = { elapsedMs: number; done: boolean; allSeen: boolean; controls: QuickControl[] };

export const QUICK_MS = 90_000;
const STILL_MS = 400;
const STILL_WITHIN = 0.02;
const NEAR_CENTRE = 0.4;
const REACHED = 0.85;
const PASSES = 3;
const LEAP = 0.3;
const LEAP_WITHIN_MS = 20;
const LEAP_BACK_MS = 60;
const LEAP_BACK_WITHIN = 0.25; // the hand goes on moving meanwhile
const CHATTER_MS = 40;
const TOGETHER_MS = 30;
const HELD_MS = 4000;

interface Watch {
  add(t: number, x: number, y: number, v: number): void;
  state(): { seen: number; faults: QuickFault[] };
}

class StickWatch implements Watch {
  private readonly far = new Array<number>(DIRECTIONS.length).fill(0);
  private readonly passes = new Array<number>(4).fill(0);
  private readonly out = new Array<boolean>(4).fill(false);
  private still: { t: number; x: number; y: number } | null = null;
  private offset = 0;
  private last: { t: number; x: number; y: number } | null = null;
  private leapFrom: { t: number; x: number; y: number } | null = null;
  private leaps = 0;

  constructor(private readonly offsetLimit: number) {}

  add(t: number, x: number, y: number): void {
    const r = Math.hypot(x, y);
    const turn =
      ((Math.atan2(-y, x) / (2 * Math.PI)) * DIRECTIONS.length + DIRECTIONS.length + 0.5) % DIRECTIONS.length;
    const k = Math.floor(turn);
    this.far[k] = Math.max(this.far[k]!, r);
    [x, -y, -x, y].forEach((e, i) => {
      if (!this.out[i] && e > 0.6) {
        this.out[i] = true;
        this.passes[i]!++;
      } else if (e < 0.4) this.out[i] = false;
    });
    this.watchRest(t, x, y, r);
    this.watchLeaps(t, x, y);
    this.last = { t, x, y };
  }

  state() {
    const faults: QuickFault[] = [];
    if (this.offset > this.offsetLimit)
      faults.push({ code: "rests-off", value: this.offset, limit: this.offsetLimit });
    (["right", "up", "left", "down"] as const).forEach((side, i) => {
      const others = this.passes.filter((n, j) => j !== i && n >= PASSES).length;
      if (this.passes[i] === 0 && others >= 2 && this.far[i * 2]! < 0.25)
        faults.push({ code: "dead-side", side });
    });
    if (this.leaps > 0) faults.push({ code: "leaps", count: this.leaps });
    return { seen: this.far.filter((r) => r >= REACHED).length / DIRECTIONS.length, faults };
  }

  private watchRest(t: number, x: number, y: number, r: number): void {
    const s = this.still;
    if (r > NEAR_CENTRE) this.still = null;
    else if (s === null || Math.hypot(x - s.x, y - s.y) > STILL_WITHIN) this.still = { t, x, y };
    else if (t - s.t >= STILL_MS) this.offset = Math.max(this.offset, Math.hypot(s.x, s.y));
  }

  private watchLeaps(t: number, x: number, y: number): void {
    const { last, leapFrom } = this;
    if (leapFrom && t - leapFrom.t > LEAP_BACK_MS) this.leapFrom = null;
    else if (leapFrom && Math.hypot(x - leapFrom.x, y - leapFrom.y) < LEAP_BACK_WITHIN) {
      this.leaps++;
      this.leapFrom = null;
    } else if (!leapFrom && last && t - last.t <= LEAP_WITHIN_MS && Math.hypot(x - last.x, y - last.y) > LEAP)
      this.leapFrom = last;
  }
}

class TriggerWatch implements Watch {
  private far = 0;
  private first: number | null = null;
  private pulls = 0;
  private up = false;

  constructor(
    private readonly restLimit: number,
    private readonly pullLimit: number,
  ) {}

  add(_t: number, _x: number, _y: number, v: number): void {
    this.first ??= v;
    this.far = Math.max(this.far, v);
    if (!this.up && v > 0.5) this.up = true;
    else if (this.up && v < (this.first ?? 0) + 0.05) {
      this.up = false;
      this.pulls++;
    }
  }

  state() {
    const faults: QuickFault[] = [];
    if (this.first !== null && this.first > this.restLimit)
      faults.push({ code: "rests-off", value: this.first, limit: this.restLimit });
    if (this.pulls >= 1 && this.far < this.pullLimit)
      faults.push({ code: "short-pull", value: this.far, limit: this.pullLimit });
    return { seen: this.pulls >= 1 ? 1 : Math.min(0.9, this.far), faults };
  }
}

class ButtonWatch implements Watch {
  pressedAt: number | null = null;
  lastPress = -Infinity;
  private released = -Infinity;
  private seen = false;
  private heldFirst = false;
  private chatters = 0;
  private rows = 0;
  private now = 0;
  readonly together = new Map<string, number>();

  add(t: number, _x: number, _y: number, v: number): void {
    const pressed = v > PRESSED;
    this.now = t;
    if (pressed && this.pressedAt === null) {
      if (this.rows === 0) this.heldFirst = true;
      else if (t - this.released < CHATTER_MS) this.chatters++;
      this.pressedAt = this.lastPress = t;
    } else if (!pressed && this.pressedAt !== null) {
      this.pressedAt = null;
      this.released = t;
      this.seen = true;
    }
    this.rows++;
  }

  state() {
    const faults: QuickFault[] = [];
    const held = this.pressedAt !== null && this.now - this.pressedAt > HELD_MS;
    if (held || (this.heldFirst && !this.seen)) faults.push({ code: "held-at-rest" });
    if (this.chatters > 0) faults.push({ code: "chatters", count: this.chatters });
    for (const [other, times] of this.together) if (times >= 2) faults.push({ code: "fires-with", other });
    return { seen: this.seen ? 1 : 0, faults };
  }
}

export class QuickLook {
  private readonly builder: RecordingBuilder;
  private readonly watches: { control: MappedControl; watch: Watch }[];
  private start: number | null = null;
  private now = 0;
  private allSeenAt: number | null = null;

  constructor(map: InputMap, rules: Rules, channels: { axes: number; buttons: number }) {
    const upTo = (n: number) => Array.from({ length: n }, (_, i) => i);
    this.builder = new RecordingBuilder(upTo(channels.axes), upTo(channels.buttons));
    this.watches = map.controls.map((control) => {
      const limits = rules.limitsFor(control.id) ?? HOUSE_LIMITS;
      if (control.kind === "stick") return { control, watch: new StickWatch(limits.stick.restOffset.C) };
      if (control.kind === "trigger")
        return { control, watch: new TriggerWatch(limits.trigger.restValue.C, limits.trigger.fullPull.C) };
      return { control, watch: new ButtonWatch() };
    });
  }

  add(readings: readonly Reading[]): void {
    for (const { t, axes, buttons } of readings) {
      this.start ??= t;
      this.now = t;
      this.builder.add({ t, step: "free", control: "", cue: false, axes, buttons });
      const pressedNow: { id: string; watch: ButtonWatch }[] = [];
      for (const { control, watch } of this.watches) {
        const { x, y, v } = readValue(control, axes, buttons);
        const before = watch instanceof ButtonWatch ? watch.lastPress : 0;
        watch.add(t, x, y, v);
        if (watch instanceof ButtonWatch && watch.lastPress !== before)
          pressedNow.push({ id: control.id, watch });
      }
      if (pressedNow.length) this.noteTogether(pressedNow, t);
    }
  }

  state(): QuickState {
    const controls = this.watches.map(({ control, watch }) => ({ id: control.id, ...watch.state() }));
    const allSeen = controls.length > 0 && controls.every((c) => c.seen >= 1);
    if (allSeen) this.allSeenAt ??= this.now;
    const elapsedMs = this.start === null ? 0 : this.now - this.start;
    return {
      elapsedMs,
      allSeen,
      controls,
      done: elapsedMs >= QUICK_MS || (this.allSeenAt !== null && this.now - this.allSeenAt > 1000),
    };
  }

  recording(): Recording {
    return this.builder.view();
  }

  private noteTogether(pressedNow: readonly { id: string; watch: ButtonWatch }[], t: number): void {
    for (const { id, watch } of pressedNow)
      for (const other of this.watches) {
        if (
          !(other.watch instanceof ButtonWatch) ||
          other.watch === watch ||
          t - other.watch.lastPress > TOGETHER_MS
        )
          continue;
        watch.together.set(other.control.id, (watch.together.get(other.control.id) ?? 0) + 1);
        if (!pressedNow.some((p) => p.id === other.control.id))
          other.watch.together.set(id, (other.watch.together.get(id) ?? 0) + 1);
      }
  }
}

/** The findings of a quick look from its recording: what the server works out again for itself. */
export function quickFindings(r: Recording, map: InputMap, rules: Rules): QuickControl[] {
  const look = new QuickLook(map, rules, { axes: r.axes.length, buttons: r.buttons.length });
  for (let i = 0; i < r.length; i++)
    look.add([
      {
        t: r.t[i]!,
        axes: Array.from(r.axes, (c) => c?.[i] ?? 0),
        buttons: Array.from(r.buttons, (c) => c?.[i] ?? 0),
      },
    ]);
  return look.state().controls;
}
