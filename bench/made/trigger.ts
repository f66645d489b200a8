import type { Dice } from "./chance";
import type { State, Stretch } from "./link";

/** What is wrong with a made trigger, in shares of travel. */
export type TriggerDefect =
  | { kind: "none" }
  | { kind: "rest"; size: number }
  | { kind: "full"; reach: number; onlyOneOfThree: boolean }
  | { kind: "backtrack"; size: number }
  | { kind: "sag"; size: number }
  | { kind: "hole"; size: number; how: "skips" | "sticks" };

export type TriggerHand = { riseMs: number; pulls: number };

const eased = (s: number) => {
  const c = Math.min(1, Math.max(0, s));
  return c * c * (3 - 2 * c);
};

/** Hands off, some pulls that are held at their end, hands off. */
export function triggerTest(
  control: string,
  button: number,
  defect: TriggerDefect,
  hand: TriggerHand,
  dice: Dice,
): Stretch[] {
  const sigma = dice.range(0.0002, 0.0015);
  const restValue = defect.kind === "rest" ? defect.size : dice.range(0, 0.004);
  const state = (v: number): State => ({
    axes: [],
    buttons: Array.from({ length: button + 1 }, (_, i) =>
      i === button ? restValue + (1 - restValue) * v + (v > 0.01 ? sigma * dice.normal() : 0) : 0,
    ),
  });
  const off = (ms: number): Stretch => ({ step: "rest", control: "", ms, at: () => state(0) });
  const at = dice.range(0.3, 0.7);
  const pulls = Array.from({ length: hand.pulls }, (_, n): Stretch => {
    const rise = hand.riseMs * dice.range(0.85, 1.2);
    const hold = dice.range(180, 400);
    const fall = dice.range(200, 500);
    const reach = defect.kind === "full" && (!defect.onlyOneOfThree || n === 1) ? defect.reach : 1;
    return {
      step: "pull",
      control,
      ms: Math.round(rise + hold + fall + dice.range(150, 350)),
      at: (ms) => {
        let v = eased(ms / rise);
        if (ms > rise + hold) v = 1 - eased((ms - rise - hold) / fall);
        const rising = ms <= rise;
        if (defect.kind === "hole") v = holed(v, at, defect.size, defect.how);
        // falls back at one place, and makes up for it on the rest of the way
        if (defect.kind === "backtrack" && rising && v > at) v -= (defect.size * (1 - v)) / (1 - at);
        if (defect.kind === "sag" && ms > rise && ms <= rise + hold)
          v -= defect.size * eased((ms - rise) / Math.min(120, hold * 0.5));
        if (defect.kind === "sag" && ms > rise + hold) v = Math.min(v, 1 - defect.size);
        return state(v * reach);
      },
    };
  });
  return [off(2700), ...pulls, off(2700)];
}

function holed(v: number, at: number, size: number, how: "skips" | "sticks"): number {
  const from = at - size / 2;
  if (how === "sticks") return v > from && v < from + size ? from : v;
  const below = from / at;
  const above = (1 - from - size) / (1 - at);
  return v < at ? v * below : 1 - (1 - v) * above;
}
