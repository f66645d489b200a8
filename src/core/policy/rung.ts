import type { Cap, LadderProblem } from "./problem";

/** What a policy comes to, to be followed act by act. */

/** A place on the way: what to try or to look at, or where it ends. */
export type Rung =
  | {
      do: "try";
      attempt: number;
      value: number;
      cost: number;
      minutes: number;
      /** chance that it works by all that is known there */
      success: number;
      worked: () => Rung;
      failed: () => Rung;
    }
  | {
      do: "check";
      check: number;
      value: number;
      cost: number;
      minutes: number;
      outcomes: { chance: number; then: () => Rung }[];
    }
  | { do: "sell"; value: number; cap: Cap; share: number; comeback: number }
  | { do: "give-up"; value: number };

/** An act now and what it brings if the best is done after it; an ending has no index. */
export type ActNow = { do: "try" | "check" | "end"; index: number; value: number };

/** Whether a problem knows what may be behind its faults. */
export const isExplained = (p: LadderProblem): boolean => (p.explanations?.length ?? 0) > 0;
