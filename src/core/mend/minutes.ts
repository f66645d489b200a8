/**
 * How long a step takes here: the guide's figure until the log says better, for each person, the first time
 * against later ones.
 */

export type StepTime = { step: string; person: string; minutes: number };

/** How many times of its own the guide's figure counts for. */
const STATED_CASES = 3;
const MOST = 6; // a time of more than six times the stated one was a walk away from the bench

export type LearnedMinutes = {
  minutes: number;
  cases: number;
  mine: number;
  first: number | null;
  later: number | null;
};

/** Logged times, oldest first, and whose hands knew the model already before the first of them. */
export type StepLog = { times: readonly StepTime[]; hands: readonly string[] };

/**
 * Mean of the stated figure (three cases) and the logged ones; a person's own log counts on top of the shop's
 * in the same way. Times are given oldest first; the first time of one of the `hands` was earlier than these.
 */
export function learnMinutes(
  stated: number,
  times: readonly StepTime[],
  person: string | null,
  hands: readonly string[] = [],
): LearnedMinutes {
  const usable = times.filter((t) => t.minutes > 0 && t.minutes <= stated * MOST);
  const blend = (base: number, own: readonly StepTime[]) =>
    (base * STATED_CASES + own.reduce((sum, t) => sum + t.minutes, 0)) / (STATED_CASES + own.length);
  const shop = blend(stated, usable);
  const mine = person === null ? [] : usable.filter((t) => t.person === person);
  const seen = new Set<string>(hands);
  const firsts: number[] = [];
  const laters: number[] = [];
  for (const t of usable) {
    (seen.has(t.person) ? laters : firsts).push(t.minutes);
    seen.add(t.person);
  }
  const mean = (v: number[]) => (v.length ? v.reduce((a, b) => a + b, 0) / v.length : null);
  return {
    minutes: mine.length ? blend(shop, mine) : shop,
    cases: usable.length,
    mine: mine.length,
    first: mean(firsts),
    later: mean(laters),
  };
}
