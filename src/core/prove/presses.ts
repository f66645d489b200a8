import { NO_PRESSES, type PressAim } from "../guide/plan";
import { addPresses, badChance, isKnownBad, type Presses, riskAmongPassing } from "../signal/risk";

/** The presses of a test per button, in the middle and on the rim. */
export type ButtonPresses = { middle: Presses; rim: Presses };
export type PressedTest = { at: Date; presses: Readonly<Record<string, ButtonPresses>> };
/** Something that was done inside: at one control, or (null) where nobody wrote down which it can have moved. */
export type DoneInside = { at: Date; control: string | null };

/**
 * All presses of each button since anything was last done at it, failed ones and repeats included. Work at one
 * control leaves what is known of the others.
 */
export function pooledPresses(
  tests: readonly PressedTest[],
  done: readonly DoneInside[],
): Record<string, ButtonPresses> {
  const pooled: Record<string, ButtonPresses> = {};
  for (const { at, presses } of tests)
    for (const [control, of] of Object.entries(presses)) {
      const undone = done.some((d) => d.at >= at && (d.control === null || d.control === control));
      if (undone) continue;
      const so = pooled[control] ?? NO_PRESSES;
      pooled[control] = { middle: addPresses(so.middle, of.middle), rim: addPresses(so.rim, of.rim) };
    }
  return pooled;
}

/** The chance of at least one bad button, in the middle and on the rims; null where none was pressed there. */
export type ReleaseRisk = { middle: number | null; rim: number | null };

export function releaseRisk(pooled: Readonly<Record<string, ButtonPresses>>): ReleaseRisk {
  const all = Object.values(pooled);
  return {
    middle: riskAmongPassing(all.map((of) => of.middle)),
    rim: riskAmongPassing(all.map((of) => of.rim)),
  };
}

/** What a proof still asks, given what the tests before it show; of a unit with so many buttons. */
export const pressAim = (
  pooled: Readonly<Record<string, ButtonPresses>>,
  aim: number,
  buttons: number,
): PressAim => ({ aim, before: pooled, buttons });

/** The buttons whose presses leave more doubt than their part of the risk, the most doubtful first. More presses
 * of one that is bad tell nothing. */
export function doubtfulButtons(
  pooled: Readonly<Record<string, ButtonPresses>>,
  { aim, buttons = 1 }: PressAim,
): string[] {
  const doubt = (of: ButtonPresses) =>
    Math.max(badChance(of.middle), of.rim.presses > 0 ? badChance(of.rim) : 0);
  return Object.entries(pooled)
    .filter(([, of]) => doubt(of) >= aim / buttons && !isKnownBad(doubt(of)))
    .sort(([, a], [, b]) => doubt(b) - doubt(a))
    .map(([id]) => id);
}
