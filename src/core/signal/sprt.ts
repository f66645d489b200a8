export type Decision = "good" | "bad" | "continue";

/** Two miss rates to tell apart and the chance of error allowed either way. */
export type MissTest = { goodRate: number; badRate: number; error: number };
export const HOUSE_MISS_TEST: MissTest = { goodRate: 0.02, badRate: 0.2, error: 0.05 };

/**
 * Wald's sequential probability ratio test on all cues so far (Wald 1945).
 * @example sprt(15, 0) // "good"; sprt(14, 0) // "continue"; sprt(27, 1) // "good"
 */
export function sprt(cues: number, missed: number, test: MissTest = HOUSE_MISS_TEST): Decision {
  const perMiss = Math.log(test.badRate / test.goodRate);
  const perPress = Math.log((1 - test.badRate) / (1 - test.goodRate));
  const logRatio = missed * perMiss + (cues - missed) * perPress;
  const bound = Math.log((1 - test.error) / test.error);
  if (logRatio >= bound) return "bad";
  if (logRatio <= -bound) return "good";
  return "continue";
}
