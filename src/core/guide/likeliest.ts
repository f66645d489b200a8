/** What is tested first: what was claimed and told at the door makes it likelier to be bad than the rest. */

const OVER_USUAL = 1.5;
const MOST = 4;

/**
 * The few places whose odds stand out, most likely bad first. Where all are alike none is: the usual order handles the
 * unit least.
 * @param odds of each place that nobody tested, 0 to 1
 */
export function likeliestFirst<P extends { place: string; bad: number }>(odds: readonly P[]): P[] {
  if (odds.length === 0) return [];
  const sorted = [...odds].sort((a, b) => b.bad - a.bad);
  const usual = sorted[Math.floor(sorted.length / 2)]!.bad;
  return sorted.filter((o) => o.bad > OVER_USUAL * usual).slice(0, MOST);
}
