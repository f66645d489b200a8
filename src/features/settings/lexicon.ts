import "server-only";

import type { Knex } from "knex";

import { HOUSE_LEXICON, type Lexicon, lexiconSchema } from "@/core/claim/lexicon";
import { loadValue } from "./settings";

/** The words of complaints, the shop's own or the house's. */
export async function loadLexicon(db: Knex): Promise<{ lexicon: Lexicon; version: number }> {
  const { value, version } = await loadValue(db, "lexicon", lexiconSchema, HOUSE_LEXICON);
  return { lexicon: value, version };
}
