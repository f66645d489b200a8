import "server-only";

import type { Knex } from "knex";

import type { MendGuide } from "@/core/profile/guide";
import { type ModelProfile } from "@/core/profile/profile";
import { deed } from "@/platform/deed/declare";
import { Refused, stamp } from "@/platform/deed/base";
import { one } from "@/core/base/one";
import { rowsBy } from "@/platform/db/batched";
import { rowsOf } from "@/platform/db/joined";
import { keepHalves } from "./shipped";

export type StoredProfile = { id: string; key: string; version: number; body: ModelProfile; at: Date };

// a version of a profile never changes once it is stored, and reading one takes longer than fetching it
const known = new Map<string, StoredProfile>();
const MOST_KNOWN = 500;

async function readAll(db: Knex, ids: readonly string[]): Promise<StoredProfile[]> {
  const missing = ids.filter((id) => !known.has(id));
  if (missing.length) {
    const rows = await db("model_profile")
      .whereIn("id", missing)
      .select("id", "key", "version", "body", "at");
    if (known.size + rows.length > MOST_KNOWN) known.clear();
    for (const row of rows) known.set(row.id, row);
    if (missing.length < ids.length && known.size === rows.length) return readAll(db, ids); // the rest was let go just now
  }
  return ids.flatMap((id) => known.get(id) ?? []);
}

/** The newest version of each model. */
export async function listModels(db: Knex): Promise<StoredProfile[]> {
  const ids: string[] = await db("model_profile")
    .distinctOn("key")
    .orderBy([{ column: "key" }, { column: "version", order: "desc" }])
    .pluck("id");
  return readAll(db, ids);
}

export async function modelByKey(db: Knex, key: string): Promise<StoredProfile | null> {
  const [newest] = await newestBy(db, key);
  return newest ? one((await readAll(db, [newest.id]))[0]) : null;
}
const newestBy = rowsBy((db, keys) =>
  rowsOf(
    db("model_profile as m")
      .distinctOn("m.key")
      .whereIn("m.key", keys)
      .orderBy([{ column: "m.key" }, { column: "m.version", order: "desc" }]),
    { m: "model_profile" },
    "m.id",
    "m.key as of",
  ),
);

export const modelsById = (db: Knex, ids: readonly string[]): Promise<StoredProfile[]> => readAll(db, ids);

export async function modelById(db: Knex, id: string): Promise<StoredProfile> {
  return (await readAll(db, [id]))[0]!;
}

/** What the models are called, for a list to choose from. */
export const modelNames = async (db: Knex): Promise<{ key: string; name: string }[]> =>
  (await listModels(db)).map((m) => ({ key: m.key, name: m.body.name }));

export const importProfile = deed("profile.import", {}, async ({ db, actor, note }, { profile }) => {
  // a half follows its pair, whatever somebody changed in its own file
  if (profile.half) throw new Refused({ code: "half-follows-pair", pair: profile.half.of });
  await db.raw("select pg_advisory_xact_lock(hashtext(?))", [`profile ${profile.id}`]);
  const last = await modelByKey(db, profile.id);
  if (last && JSON.stringify(last.body) === JSON.stringify(profile))
    return { key: profile.id, version: last.version };
  const version = (last?.version ?? 0) + 1;
  await db("model_profile").insert({
    key: profile.id,
    version,
    body: JSON.stringify(profile),
    ...stamp(db, actor),
  });
  await keepHalves(db, actor.id);
  note("profile-imported", null, { key: profile.id, version });
  return { key: profile.id, version };
});

/**
 * The newest guide of a model: what was learned since a unit came in counts for it too. Null when it has
 * none.
 */
export async function newestGuide(db: Knex, profile: ModelProfile): Promise<MendGuide | null> {
  return (await modelByKey(db, profile.id))?.body.guide ?? profile.guide ?? null;
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [importProfile] as const;
