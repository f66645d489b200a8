import "server-only";

import type { Knex } from "knex";

import { HOUSE_LEXICON, type Lexicon, lexiconSchema } from "@/core/claim/lexicon";

/** The words of complaints, the shop's own or the house's. */
export async function loadLexicon(db: Knex): Promise<{ lexicon: Lexicon; version: number }> {
  const row = await db("setting").where({ key: "lexicon" }).first("value", "version");
  return row ? { lexicon: lexiconSchema.parse(row.value), version: row.version } : { lexicon: HOUSE_LEXICON, version: 0 };
}
