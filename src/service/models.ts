import "server-only";

import type { Knex } from "knex";

import type { MendGuide } from "@/core/profile/guide";
import { type ModelProfile, profileSchema } from "@/core/profile/profile";
import { type Deed, note, stamp } from "./base";

export type StoredProfile = { id: string; key: string; version: number; body: ModelProfile; at: Date };

const read = (row: { id: string; key: string; version: number; body: unknown; at: Date }): StoredProfile => ({
  ...row,
  body: profileSchema.parse(row.body),
});
const COLUMNS = ["id", "key", "version", "body", "at"] as const;

/** The newest version of each model. */
export async function listModels(db: Knex): Promise<StoredProfile[]> {
  const rows = await db("model_profile")
    .distinctOn("key")
    .select(COLUMNS)
    .orderBy([{ column: "key" }, { column: "version", order: "desc" }]);
  return rows.map(read);
}

export async function modelByKey(db: Knex, key: string): Promise<StoredProfile | null> {
  const row = await db("model_profile").where({ key }).orderBy("version", "desc").first(COLUMNS);
  return row ? read(row) : null;
}

export async function modelById(db: Knex, id: string): Promise<StoredProfile> {
  return read(await db("model_profile").where({ id }).first(COLUMNS));
}

export const importProfile: Deed<"profile.import"> = async (db, actor, { profile }) => {
  await db.raw("select pg_advisory_xact_lock(hashtext(?))", [`profile ${profile.id}`]);
  const last = await modelByKey(db, profile.id);
  if (last && JSON.stringify(last.body) === JSON.stringify(profile)) return { key: profile.id, version: last.version };
  const version = (last?.version ?? 0) + 1;
  await db("model_profile").insert({ key: profile.id, version, body: JSON.stringify(profile), ...stamp(db, actor) });
  await note(db, actor, "profile-imported", null, { key: profile.id, version });
  return { key: profile.id, version };
};

/** The newest guide of a model: what was learned since a unit came in counts for it too. Null when it has none. */
export async function newestGuide(db: Knex, profile: ModelProfile): Promise<MendGuide | null> {
  return (await modelByKey(db, profile.id))?.body.guide ?? profile.guide ?? null;
}
