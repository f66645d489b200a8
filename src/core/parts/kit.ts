import type { Minor } from "../money/money";
import { type Catalogue, partOf, piecePrice } from "./catalogue";
import { kitAgainstPieces, type KitLine } from "./cost";

/** A kit before it is bought: against its pieces one by one, without the tools that the shop has already. */

type Offered = {
  priceMinor: Minor;
  lines: (KitLine & { name: string })[];
  /** wanted ones that only the kit brings */
  onlyHere: string[];
} & ReturnType<typeof kitAgainstPieces>;

/**
 * Pieces of a larger pack count by their share of it, since the rest is used up by other jobs. Null of what is no kit, and of
 * one that nobody sells.
 * @param owned parts that lie on the shelf; only tools among them are not wanted again
 */
export function kitOffered(
  c: Pick<Catalogue, "parts" | "offers">,
  code: string,
  owned: ReadonlySet<string>,
): Offered | null {
  const kit = partOf(c, code);
  const price = piecePrice(c, code);
  if (!kit || kit.class !== "kit" || !price) return null;
  const lines = kit.contents.map((x) => {
    const piece = partOf(c, x.part);
    const tool = piece?.class === "tool";
    return {
      ...x,
      name: piece?.name ?? x.part,
      tool,
      owned: tool && owned.has(x.part),
      worth: piecePrice(c, x.part)?.minor ?? null,
    };
  });
  return {
    priceMinor: price.minor,
    lines,
    onlyHere: lines.filter((l) => !l.owned && l.worth === null).map((l) => l.name),
    ...kitAgainstPieces(price.minor, lines),
  };
}
