import type { Minor } from "../money/money";
import { labourOf } from "../money/rates";
import type { PartKind, Slot } from "../profile/slots";
import type { DecideInput } from "./asked";
import type { Route } from "./routes";

/** Everything that wears made new at once, where a mend lays all of it open anyway. */

/** What wears in any unit, whoever holds it. */
const WEARS: readonly PartKind[] = ["stick-module", "dome", "membrane", "cell", "cap"];
/** A refresh is more than the like part. */
const LEAST_PARTS = 2;

export type Refreshed = {
  place: string;
  slot: Slot;
  route: Route;
  /** part and hands, the unit being open for it */
  costMinor: Minor;
  /** what opening it for this part alone would cost */
  savesMinor: Minor;
};

/**
 * The parts of a full refresh beside one place that is mended: every part that wears, where the mend's own strip-down lays
 * all of them open. Empty where some lie deeper, where a part is not to be had, and where it would be one part alone. Parts at a
 * faulty place are the mend's own matter and left out.
 * @param make the make that the mend takes, which is taken for all; another where a slot has none of it
 */
export function refreshBeside(
  {
    profile,
    routes,
    rates,
    faults,
    lacking,
  }: Pick<DecideInput, "profile" | "routes" | "rates" | "faults" | "lacking">,
  place: string,
  make: string | null,
): Refreshed[] {
  const slots = profile.slots ?? [];
  const depth = Math.max(
    0,
    ...slots.filter((s) => s.serves.includes(place) && WEARS.includes(s.kind)).map((s) => s.stripMinutes),
  );
  const faulty = new Set(faults.map((f) => f.place));
  const worn = slots.filter((s) => WEARS.includes(s.kind) && !s.serves.some((id) => faulty.has(id)));
  if (worn.length < LEAST_PARTS || worn.some((s) => s.stripMinutes > depth)) return [];
  const parts = worn.flatMap((slot): Refreshed[] => {
    const may = routes.flatMap((route) => {
      const offer = slot.offers.find((o) => o.make === route.part?.make);
      const has = route.part?.kind === slot.kind && !route.changesCharacter;
      return offer && has && !route.tools.some((t) => lacking?.includes(t)) ? [{ route, offer }] : [];
    });
    const best =
      may.find((m) => m.offer.make === make) ??
      [...may].sort((a, b) => a.offer.priceMinor - b.offer.priceMinor)[0];
    if (!best) return [];
    return [
      {
        place: slot.serves[0]!,
        slot,
        route: best.route,
        costMinor: best.offer.priceMinor + labourOf(best.route.minutes, rates),
        savesMinor: labourOf(slot.stripMinutes, rates),
      },
    ];
  });
  return parts.length === worn.length ? parts : [];
}
