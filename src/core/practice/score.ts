import type { Disposition } from "@/core/decide/ends";
import type { Hidden } from "./hidden";
import type { HeldCause, ReviewStep } from "./review";

/**
 * How a practice unit was handled, held against what was hidden and against the advice that the shop would
 * have followed.
 */

export type Handled = {
  hidden: readonly Hidden[];
  /** places that were named as faulty */
  named: readonly string[];
  /** minutes by the clock of the tests and checks that were made */
  minutes: number;
  /** minutes of a whole test, which finds all of it */
  bestMinutes: number;
  /**
   * expected value of what was decided and of the best, by the ladder on the true faults; null while nothing
   * was decided
   */
  chosenMinor: number | null;
  bestMinor: number;
  /** what the acts lost one by one, by what was known before each; null where none was weighed */
  stepsLostMinor: number | null;
};
export type Score = {
  found: string[];
  missed: string[];
  /** named, and nothing was wrong with it */
  wrong: string[];
  minutes: number;
  bestMinutes: number;
  lostMinor: number | null;
  /** out of 100: half for the causes, a quarter each for the decision and the time */
  points: number;
};

export function scoreOf(h: Handled): Score {
  const places = [...new Set(h.hidden.map((x) => x.place))];
  const named = [...new Set(h.named)];
  const found = places.filter((p) => named.includes(p));
  const wrong = named.filter((p) => !places.includes(p));
  const decided = h.chosenMinor === null ? null : Math.max(0, Math.round(h.bestMinor - h.chosenMinor));
  const lost = h.stepsLostMinor ?? decided;
  const causes = Math.max(0, (found.length - wrong.length / 2) / places.length);
  const money = lost === null ? 0 : 1 - Math.min(1, lost / Math.max(500, Math.abs(h.bestMinor)));
  // untested is not fast: without a cause found, time earns nothing
  const time = found.length === 0 ? 0 : Math.min(1, h.bestMinutes / Math.max(h.bestMinutes, h.minutes));
  return {
    found,
    missed: places.filter((p) => !named.includes(p)),
    wrong,
    minutes: h.minutes,
    bestMinutes: h.bestMinutes,
    lostMinor: lost,
    points: Math.round(50 * causes + 25 * money + 25 * time),
  };
}

/** What was decided, held against what the truth would have advised; values in minor units. */
export type Review = {
  best: Disposition;
  route: string;
  bestMinor: number;
  chosen: Disposition | null;
  chosenRoute: string;
  chosenMinor: number | null;
  /** each act with what it lost; older exercises have none */
  steps?: ReviewStep[];
  /** the parts that were really broken, with what the case held of each in the end */
  held?: HeldCause[];
};
export type Scored = Score & { review: Review };
