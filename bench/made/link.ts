import type { Dice } from "./chance";

/** How a made controller is read: its own clock, the reader's clock, and what the link loses. */
export type Link = {
  /** rows a second, as the reader asks for them */
  rateHz: number;
  /** how often the electronics measure anew, a second */
  padHz: number;
  /** share by which the time between two rows varies */
  uneven: number;
  lostRows: number;
  repeatedRows: number;
  bits: number;
};

export const RATES = [60, 90, 125, 250, 500, 1000] as const;

export function someLink(dice: Dice, rateHz: number): Link {
  return {
    rateHz,
    padHz: dice.one([rateHz, rateHz, 125, 250, 1000]),
    uneven: dice.one([0, 0.05, 0.25]),
    lostRows: dice.one([0, 0, 0.01, 0.05]),
    repeatedRows: dice.one([0, 0, 0.02, 0.05]),
    bits: dice.one([8, 10, 12]),
  };
}

/** What the controller does at one moment, whoever reads it; `axes` in -1..1, `buttons` in 0..1. */
export type State = { axes: readonly number[]; buttons: readonly number[] };
/** One stretch of a made recording; `at` is asked once a millisecond, in order. */
export type Stretch = {
  step: string;
  control: string;
  ms: number;
  cues?: readonly number[];
  at: (ms: number) => State;
};
export type Row = State & { t: number; step: string; control: string; cue: boolean };

const rounded = (v: number, bits: number, low: number) => {
  const steps = 2 ** bits - 1;
  const share = (Math.min(1, Math.max(low, v)) - low) / (1 - low);
  return low + (Math.round(share * steps) / steps) * (1 - low);
};

/** Reads the stretches one after another through the link. */
export function readThrough(link: Link, dice: Dice, stretches: readonly Stretch[]): Row[] {
  const rows: Row[] = [];
  let now = 0;
  let nextRow = dice.range(0, 1000 / link.rateHz);
  let nextLook = 0;
  let held: State | null = null;
  let shown: State | null = null;
  for (const { step, control, ms, cues = [], at } of stretches) {
    const begun = now;
    const waiting = [...cues];
    for (let k = 0; k < ms; k++, now++) {
      const state = at(k);
      if (now >= nextLook || held === null) {
        held = {
          axes: state.axes.map((v) => rounded(v, link.bits, -1)),
          buttons: state.buttons.map((v) => rounded(v, link.bits, 0)),
        };
        nextLook += 1000 / link.padHz;
        if (nextLook < now) nextLook = now;
      }
      if (now < nextRow) continue;
      nextRow += (1000 / link.rateHz) * (1 + link.uneven * dice.range(-1, 1));
      if (nextRow <= now) nextRow = now + 0.5;
      if (dice.hit(link.lostRows) && waiting.length === 0) continue;
      if (shown === null || !dice.hit(link.repeatedRows)) shown = held;
      const cue = waiting.length > 0 && now - begun >= waiting[0]!;
      if (cue) waiting.shift();
      rows.push({ t: now, step, control, cue, ...shown });
    }
  }
  return rows;
}
