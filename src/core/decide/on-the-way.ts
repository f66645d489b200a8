import type { PartKind, Slot } from "../profile/slots";

/** What a mend passes on its way in, and what it costs in odds where that cannot be had again. */

/** What hands break on the way without meaning to. */
const FRAGILE: readonly PartKind[] = [
  "flex",
  "latch",
  "antenna",
  "spring",
  "gear",
  "cap",
  "cell-contact",
  "cord",
];

/**
 * Fragile parts as deep as a mend goes that nobody sells: broken, they end the unit, where another is bought and fitted.
 * The parts that the mend is at are its own matter.
 */
export const unbuyable = (slots: readonly Slot[], depth: number, places: readonly string[]): Slot[] =>
  slots.filter(
    (s) =>
      s.stripMinutes <= depth &&
      FRAGILE.includes(s.kind) &&
      s.offers.length === 0 &&
      !s.serves.some((id) => places.includes(id)),
  );

/**
 * Chance that a mend breaks something for good: the route's own, more where fragile parts on its way cannot be bought. Where
 * none of them can be it is twice as much. A house guess.
 */
export function breaksOnTheWay(
  breaks: number,
  slots: readonly Slot[],
  depth: number,
  places: readonly string[],
): number {
  const fragile = slots.filter((s) => s.stripMinutes <= depth && FRAGILE.includes(s.kind));
  if (fragile.length === 0) return breaks;
  return Math.min(1, breaks * (1 + unbuyable(slots, depth, places).length / fragile.length));
}
