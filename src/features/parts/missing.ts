import "server-only";

import type { Knex } from "knex";

import { missingPieces } from "@/core/profile/missing";
import type { Minor } from "@/core/money/money";
import { rowsOf } from "@/platform/db/joined";

/** One kind of piece that open units of the shop's own came without. */
export type MissingLine = { model: string; piece: string; costMinor: Minor; tags: string[] };

/** What the shop's own open units came without, the dearest in all first. A customer's is theirs to bring. */
export async function missingLines(db: Knex): Promise<MissingLine[]> {
  const units = await rowsOf(
    db("unit as u")
      .join("model_profile as m", "m.id", "u.profile_id")
      .whereNull("u.ending")
      .whereNot("u.source", "customer")
      .orderBy("u.tag"),
    { u: "unit", m: "model_profile" },
    "u.tag",
    "u.intake",
    "m.body",
  );
  const lines = new Map<string, MissingLine>();
  for (const { tag, intake, body } of units)
    for (const piece of missingPieces(body, intake.accessories)) {
      const key = `${body.id} ${piece.id}`;
      const line = lines.get(key) ?? {
        model: body.name,
        piece: piece.name,
        costMinor: piece.costMinor,
        tags: [],
      };
      line.tags.push(tag);
      lines.set(key, line);
    }
  const inAll = (l: MissingLine): Minor => l.costMinor * l.tags.length;
  return [...lines.values()].sort((a, b) => inAll(b) - inAll(a));
}
