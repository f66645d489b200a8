/**
 * Which backups are kept: the newest of each of the last days, weeks and months, by the moment that each was
 * taken (UTC).
 */

export type Kept = { days: number; weeks: number; months: number };
export const HOUSE_KEPT: Kept = { days: 7, weeks: 5, months: 12 };

const DAY_MS = 24 * 3600_000;
const dayOf = (at: Date): number => Math.floor(at.getTime() / DAY_MS);
/** The epoch's first day was a Thursday: weeks begin on Monday. */
const weekOf = (at: Date): number => Math.floor((dayOf(at) + 3) / 7);
const monthOf = (at: Date): number => at.getUTCFullYear() * 12 + at.getUTCMonth();

/** The moments to keep, the newest first: at most days + weeks + months, and always the newest of all. */
export function keptOf(taken: readonly Date[], kept: Kept = HOUSE_KEPT): Date[] {
  const newestFirst = [...taken].sort((a, b) => b.getTime() - a.getTime());
  const keep = new Set<number>();
  for (const [periodOf, most] of [
    [dayOf, kept.days],
    [weekOf, kept.weeks],
    [monthOf, kept.months],
  ] as const) {
    const seen = new Set<number>();
    for (const at of newestFirst) {
      if (seen.has(periodOf(at)) || seen.size >= most) continue;
      seen.add(periodOf(at));
      keep.add(at.getTime());
    }
  }
  if (newestFirst[0]) keep.add(newestFirst[0].getTime());
  return newestFirst.filter(
    (at, i) => keep.has(at.getTime()) && newestFirst.findIndex((x) => x.getTime() === at.getTime()) === i,
  );
}
