import { stepCode } from "../recording/recording";
import { type Prepared, type Run, withoutStart } from "./rows";

/**
 * What a control does while nobody uses it: the whole recording but for its own steps and its neighbours'
 * (the same hand is at them), and but for what was set aside. Source: docs/measures.md, "Idle".
 */
export type Idle = {
  count: number;
  /** the farthest excursion, in shares of travel; 1 for a press */
  worst: number;
  /** when each began, in ms */
  at: number[];
  /** it happened with hands off as well: no hand can have done it */
  confirmed: boolean;
};

/** A button reads as pressed above this value. */
export const PRESSED = 0.5;
const STARTS_AFTER_MS = 300; // the hand lets go of what it held before
const STICK_FLOOR = 0.1;
const STICK_NOISE_TIMES = 6;
const STICK_MS = 100;
const TRIGGER_OVER = 0.05;
const JOIN_MS = 100;

const groups: readonly (readonly RegExp[])[] = [
  [/^stick\.left(\.|$)/, /^pad\./],
  [/^stick\.right(\.|$)/, /^face\./],
  [/^menu(\.|$)/, /^home$/],
  [/^bumper\.left$/, /^trigger\.left$/],
  [/^bumper\.right$/, /^trigger\.right$/],
  [/^paddle.*left/],
  [/^paddle.*right/],
];

/** Which hand or finger has a control: controls of one answer are neighbours. A lone control has its own. */
export function fingerOf(control: string): string {
  const group = groups.findIndex((g) => g.some((pattern) => pattern.test(control)));
  return group < 0 ? control : String(group);
}

/** The runs in which nobody uses the control, without the moment in which the hand comes from elsewhere. */
export function idleRuns(p: Prepared, id: string): Run[] {
  const free = stepCode("free");
  const rest = stepCode("rest");
  const own = fingerOf(id);
  const fingers = p.recording.controlNames.map(fingerOf);
  const runs = p.runs.filter((r) => {
    if (r.step === free) return false;
    if (r.step === rest) return true;
    return r.control > 0 && fingers[r.control - 1] !== own;
  });
  return withoutStart(p, runs, STARTS_AFTER_MS);
}

/** Excursions of `amount` beyond `beyond` for longer than `ms`, in the idle runs; null where there are none. */
function excursions(
  p: Prepared,
  runs: readonly Run[],
  amount: (row: number) => number,
  beyond: number,
  ms: number,
): Idle | null {
  if (runs.length === 0) return null;
  const { t } = p.recording;
  const rest = stepCode("rest");
  const idle: Idle = { count: 0, worst: 0, at: [], confirmed: false };
  for (const run of runs) {
    let since = -1;
    let last = -Infinity;
    let counted = false;
    for (let i = run.from; i < run.to; i++) {
      const a = amount(i);
      if (a <= beyond) {
        if (since >= 0 && t[i]! - last > JOIN_MS) since = -1;
        continue;
      }
      if (since < 0) {
        since = t[i]!;
        counted = false;
      }
      last = t[i]!;
      if (last - since < ms) continue;
      idle.worst = Math.max(idle.worst, a);
      if (counted) continue;
      counted = true;
      idle.count++;
      idle.at.push(since);
      idle.confirmed ||= run.step === rest;
    }
  }
  return idle;
}

/** A stick that wanders: farther than its own rest explains, for over 100 ms. */
export const idleStick = (
  p: Prepared,
  id: string,
  x: Float64Array,
  y: Float64Array,
  rest: { offset: number; noise: number } | null,
): Idle | null =>
  excursions(
    p,
    idleRuns(p, id),
    (i) => Math.hypot(x[i]!, y[i]!),
    Math.max(STICK_FLOOR, (rest?.offset ?? 0) + STICK_NOISE_TIMES * (rest?.noise ?? 0)),
    STICK_MS,
  );

/** A trigger that reads more than 0.05 above its rest value. */
export const idleTrigger = (
  p: Prepared,
  id: string,
  v: Float64Array,
  restValue: number | null,
): Idle | null => excursions(p, idleRuns(p, id), (i) => v[i]!, (restValue ?? 0) + TRIGGER_OVER, 0);

/** Presses that begin while nobody is at the button. */
export function idleButton(
  p: Prepared,
  id: string,
  v: Float64Array,
  presses: readonly { start: number }[],
): Idle | null {
  const runs = idleRuns(p, id);
  if (runs.length === 0) return null;
  const { t } = p.recording;
  const rest = stepCode("rest");
  const idle: Idle = { count: 0, worst: 0, at: [], confirmed: false };
  let next = 0; // presses and runs both lie in order of time
  for (const run of runs) {
    while (next < presses.length && presses[next]!.start < t[run.from]!) next++;
    const began: { start: number }[] = [];
    while (next < presses.length && presses[next]!.start <= t[run.to - 1]!) began.push(presses[next++]!);
    // held from before the run on: it counts once, where it lasts
    const held = v[run.from]! > PRESSED && run.step === rest ? [{ start: t[run.from]! }] : [];
    for (const { start } of [...held, ...began]) {
      idle.count++;
      idle.worst = 1;
      idle.at.push(start);
      idle.confirmed ||= run.step === rest;
    }
  }
  return idle;
}
