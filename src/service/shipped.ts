import "server-only";

import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { isDeepStrictEqual } from "node:util";

import type { Knex } from "knex";

import { type ModelProfile, profileSchema } from "@/core/profile/profile";

const FOLDER = join(process.cwd(), "profiles");

const shipped = (): ModelProfile[] =>
  readdirSync(FOLDER)
    .sort()
    .map((file) => profileSchema.parse(JSON.parse(readFileSync(join(FOLDER, file), "utf8"))));

/** Gives a workshop the model profiles that ship with Birdcage; a model that it has already stays as it is. */
export async function importShippedProfiles(db: Knex, by: string): Promise<void> {
  for (const body of shipped())
    await db("model_profile")
      .insert({ key: body.id, version: 1, body: JSON.stringify(body), by })
      .onConflict(["key", "version"])
      .ignore();
}

/**
 * Gives shipped models that a workshop took before there were part slots and going prices their newer version. A model that
 * the shop changed in anything else stays as it is.
 */
export async function addSlotsToShipped(db: Knex): Promise<void> {
  const bare = ({ slots: _slots, market: _market, ...rest }: ModelProfile) => rest;
  for (const body of shipped()) {
    const last = await db("model_profile").where({ key: body.id }).orderBy("version", "desc").first("version", "body", "by");
    if (!last || last.body.slots) continue;
    if (!isDeepStrictEqual(bare(profileSchema.parse(last.body)), bare(body))) continue; // the database sorts keys
    await db("model_profile").insert({ key: body.id, version: last.version + 1, body: JSON.stringify(body), by: last.by });
  }
}
