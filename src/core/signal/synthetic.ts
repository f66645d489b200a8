import { type Recording, RecordingBuilder, type Step } from "../recording/recording";

/** Recordings for tests, written from formulas that share no code with the simulated controller. */
export class Synthetic {
  private readonly builder = new RecordingBuilder(
    [0, 1, 2, 3],
    Array.from({ length: 17 }, (_, i) => i),
  );
  private t = 0;

  constructor(private readonly intervalMs = 4) {}

  /** Adds rows for `ms`: `at(s)` gives the axes and buttons s ms into the stretch; `cues` are times in it. */
  add(
    step: Step,
    control: string,
    ms: number,
    at: (s: number) => { axes?: number[]; buttons?: Record<number, number> },
    cues: readonly number[] = [],
  ): this {
    const left = [...cues];
    for (let s = 0; s < ms - 1e-9; s += this.intervalMs, this.t += this.intervalMs) {
      const { axes = [0, 0, 0, 0], buttons = {} } = at(s);
      const cue = left.length > 0 && s >= left[0]!;
      if (cue) left.shift();
      this.builder.add({
        t: this.t,
        step,
        control,
        cue,
        axes,
        buttons: Array.from({ length: 17 }, (_, i) => buttons[i] ?? 0),
      });
    }
    return this;
  }

  done(): Recording {
    return this.builder.view();
  }
}

const TURN_MS = 1000;

/**
 * A stick on a circle: `turns` counter-clockwise (up is up) after `s` ms at one turn a second, on an edge of
 * radius `edge(angle)`.
 */
export const onCircle = (
  s: number,
  edge: (angle: number) => number,
  turnMs = TURN_MS,
  way = 1,
): [number, number] => {
  const a = (way * 2 * Math.PI * s) / turnMs;
  const r = edge(a);
  return [r * Math.cos(a), -r * Math.sin(a)];
};
