import type { Dice } from "./chance";
import type { State, Stretch } from "./link";

/** What is wrong with a made button; each a share of its presses. */
export type ButtonDefect =
  | { kind: "none" }
  | { kind: "misses"; share: number }
  | { kind: "chatters"; share: number }
  | { kind: "extra"; share: number }
  | { kind: "joint"; share: number }
  | { kind: "idle"; times: number };

/** Hands off, paced presses of one button, hands off; a second button lies beside it. */
export function buttonTest(
  control: string,
  columns: { own: number; other: number },
  defect: ButtonDefect,
  presses: number,
  dice: Dice,
): Stretch[] {
  const width = Math.max(columns.own, columns.other) + 1;
  const state = (own: boolean, other = false): State => ({
    axes: [],
    buttons: Array.from({ length: width }, (_, i) =>
      (i === columns.own && own) || (i === columns.other && other) ? 1 : 0,
    ),
  });
  const byItself = (ms: number) =>
    defect.kind === "idle"
      ? Array.from({ length: defect.times }, (_, i) => ((i + dice.range(0.3, 0.7)) * ms) / defect.times)
      : [];
  const off = (ms: number): Stretch => {
    const times = byItself(ms);
    return { step: "rest", control: "", ms, at: (at) => state(times.some((x) => at >= x && at < x + 60)) };
  };
  const cues = Array.from({ length: presses }, (_, n) => 500 + 700 * n);
  const closed: { from: number; to: number; joint: boolean }[] = [];
  for (const cue of cues) {
    const from = cue + Math.min(330, Math.max(60, 170 + 40 * dice.normal()));
    const to = from + dice.range(60, 130);
    if (defect.kind === "misses" && dice.hit(defect.share)) continue;
    const joint = defect.kind === "joint" && dice.hit(defect.share);
    closed.push({ from, to, joint });
    if (defect.kind === "chatters" && dice.hit(defect.share))
      closed.push({ from: to + 22, to: to + 45, joint: false });
    if (defect.kind === "extra" && dice.hit(defect.share))
      closed.push({ from: to + 90, to: to + 150, joint: false });
  }
  const press: Stretch = {
    step: "press",
    control,
    ms: 500 + 700 * presses + 300,
    cues,
    at: (at) => {
      const on = closed.filter((c) => at >= c.from && at < c.to);
      return state(
        on.length > 0,
        on.some((c) => c.joint),
      );
    },
  };
  return [off(2700), press, off(2700)];
}
