import type { Minor } from "../money/money";
import type { Market } from "../profile/slots";

/** What one half of a pair brings: alone, or only with its mate. */

export type HalfSold = "alone" | "with-mate" | "no-mate";

export type HalfMoney = {
  sold: HalfSold;
  /** what a new one costs: the half, or the whole pair where no half is to be had new */
  newIs: "half" | "pair";
  market: Market;
};

/**
 * Prices that a mend of one half is reckoned with. Where it may not be sold alone, a mended half is worth what the pair brings
 * with it, less what its mate brings without it; with no mate it brings what it does as found and no more.
 * @param half what a half alone goes for; `newMinor` 0: none is sold new
 * @param mate whether the other half is there to go with it
 */
export function halfMoney(half: Market, pair: Market, soldAlone: boolean, mate: boolean): HalfMoney {
  const newIs = half.newMinor > 0 ? "half" : "pair";
  const newMinor = newIs === "half" ? half.newMinor : pair.newMinor;
  if (soldAlone) return { sold: "alone", newIs, market: { ...half, newMinor } };
  const { asFoundMinor } = half;
  const grown = (whole: Minor): Minor => (mate ? Math.max(asFoundMinor, whole - asFoundMinor) : asFoundMinor);
  return {
    sold: mate ? "with-mate" : "no-mate",
    newIs,
    market: {
      newMinor,
      aMinor: grown(pair.aMinor),
      bMinor: grown(pair.bMinor),
      cMinor: grown(pair.cMinor),
      asFoundMinor,
    },
  };
}

/** Prices to ask for a half that goes with its mate: half of what the pair brings. */
export function shareOfPair(pair: Market, half: Market): Market {
  const share = (whole: Minor): Minor => Math.round(whole / 2);
  return {
    ...half,
    aMinor: share(pair.aMinor),
    bMinor: share(pair.bMinor),
    cMinor: share(pair.cMinor),
  };
}
