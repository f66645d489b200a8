import { addUp, type Minor } from "../money/money";
import type { ModelProfile } from "./profile";
import type { Market } from "./slots";

/** Pieces of a model that a unit came without: what they cost to replace, and what they take off its price. */

type Piece = ModelProfile["accessories"][number];

/** The pieces of a model by their ids; an id that the model does not have is left out. */
export const piecesOf = (profile: Pick<ModelProfile, "accessories">, ids: readonly string[]): Piece[] =>
  profile.accessories.filter((a) => ids.includes(a.id));

/** The pieces that are not among those that came with it. */
export const missingPieces = (profile: Pick<ModelProfile, "accessories">, came: readonly string[]): Piece[] =>
  profile.accessories.filter((a) => !came.includes(a.id));

export const costOf = (pieces: readonly Piece[]): Minor => addUp(pieces.map((p) => p.costMinor));

/**
 * What a unit brings without some of its pieces: each price less what the buyer has to buy, never below nothing. What a new
 * one costs stays.
 */
export function lessMissing(market: Market, missing: Minor): Market {
  const less = (price: Minor): Minor => Math.max(0, price - missing);
  return {
    ...market,
    aMinor: less(market.aMinor),
    bMinor: less(market.bMinor),
    cMinor: less(market.cMinor),
    asFoundMinor: less(market.asFoundMinor),
  };
}

/** The same with the names of what is missing, for whoever explains it; nothing is said where nothing is. */
export const marketWithout = (market: Market, missing: readonly Piece[]) =>
  missing.length === 0
    ? { market }
    : {
        market: lessMissing(market, costOf(missing)),
        missing: { names: missing.map((p) => p.name), minor: costOf(missing) },
      };
