import "server-only";

import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import type { Knex } from "knex";

import { profileSchema } from "@/core/profile/profile";

const FOLDER = join(process.cwd(), "profiles");

/** Gives a workshop the model profiles that ship with Birdcage; a model that it has already stays as it is. */
export async function importShippedProfiles(db: Knex, by: string): Promise<void> {
  for (const file of readdirSync(FOLDER).sort()) {
    const body = profileSchema.parse(JSON.parse(readFileSync(join(FOLDER, file), "utf8")));
    await db("model_profile")
      .insert({ key: body.id, version: 1, body: JSON.stringify(body), by })
      .onConflict(["key", "version"])
      .ignore();
  }
}
