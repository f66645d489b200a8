import "server-only";

import type { Knex } from "knex";

import { type Catalogue, EMPTY_CATALOGUE, type Part, catalogueSchema, partOf } from "@/core/parts/catalogue";
import { loadValue, saveValue } from "@/features/settings/settings";
import { Refused, nothing } from "@/platform/deed/base";
import { type Work, deed } from "@/platform/deed/declare";

/** The catalogue of parts, as the shop keeps it. */

export const loadCatalogue = (db: Knex): Promise<{ value: Catalogue; version: number }> =>
  loadValue(db, "catalogue", catalogueSchema, EMPTY_CATALOGUE);

export async function keepCatalogue(
  { db, note }: Work,
  version: number,
  catalogue: Catalogue,
): Promise<void> {
  const held: string[] = await db("batch").distinct("part").pluck("part");
  const gone = held.find((p) => !catalogue.parts.some((x) => x.code === p));
  if (gone) throw new Refused({ code: "part-unknown", part: gone });
  await saveValue(db, "catalogue", version, catalogue);
  note("catalogue-saved", null, { parts: catalogue.parts.length, offers: catalogue.offers.length });
}

export const saveCatalogue = deed("catalogue.save", {}, async (work, { version, catalogue }) => {
  await keepCatalogue(work, version, catalogue);
  return nothing;
});

export async function mustKnow(db: Knex, code: string): Promise<Part> {
  const part = partOf((await loadCatalogue(db)).value, code);
  if (!part) throw new Refused({ code: "part-unknown", part: code });
  return part;
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [saveCatalogue] as const;
