import { incompleteBeta } from "../math/binomial";

/** Cued presses of a button and how many it missed. */
export type Presses = { presses: number; missed: number };

/** Of buttons that come through here, this share is bad until the shop's own record says otherwise. */
const HOUSE_BAD_SHARE = 0.01;
const GOOD_MISSES = 0.01;
const BAD_FROM = 0.1;

/**
 * The chance that a button is bad, given its presses since anything was last done at it. A bad one misses at a
 * rate that lies evenly between 10 and 100 %, a good one at 1 %; `badShare` of them are bad. Bayes' rule; the
 * integral over the bad one's rate is an incomplete beta function.
 * @example badChance({ presses: 20, missed: 0 }) // 0.0000715
 */
export function badChance({ presses, missed }: Presses, badShare = HOUSE_BAD_SHARE): number {
  const a = missed + 1;
  const b = presses - missed + 1;
  // both sides without the binomial coefficient; the beta function by its product, exact for whole a and b
  const bad = (beta(a, b) * (1 - incompleteBeta(BAD_FROM, a, b))) / (1 - BAD_FROM);
  const good = GOOD_MISSES ** missed * (1 - GOOD_MISSES) ** (presses - missed);
  const wrong = badShare * bad;
  return wrong / (wrong + (1 - badShare) * good);
}

export const addPresses = (a: Presses, b: Presses): Presses => ({
  presses: a.presses + b.presses,
  missed: a.missed + b.missed,
});

/** B(a, b) for whole numbers from 1 on. */
function beta(a: number, b: number): number {
  let product = 1 / (a + b - 1);
  for (let i = 1; i < Math.min(a, b); i++) product *= i / (a + b - 1 - i);
  return product;
}

const KNOWN_BAD = 0.5;
export const isKnownBad = (chance: number): boolean => chance >= KNOWN_BAD;

/**
 * The chance of a bad button among those that passed, as a sum. One that misses so often that it is bad more
 * likely than not is a fault of its own, no risk that it goes by unseen; null when none was pressed.
 */
export function riskAmongPassing(pressed: readonly Presses[]): number | null {
  const chances = pressed.filter((p) => p.presses > 0).map((p) => badChance(p));
  return releaseRiskOf(chances.filter((chance) => !isKnownBad(chance)));
}

/** The chance that a unit holds at least one bad button, as the sum over its buttons; null when none was pressed. */
export function releaseRiskOf(chances: readonly (number | null)[]): number | null {
  const known = chances.filter((c) => c !== null);
  return known.length ? known.reduce((sum, c) => sum + c, 0) : null;
}
