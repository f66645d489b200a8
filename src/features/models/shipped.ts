import "server-only";

import { createHash } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import type { Knex } from "knex";

import { z } from "@/core/base/schema";
import { type Catalogue, readCatalogue } from "@/core/parts/catalogue";
import { halvesOf } from "@/core/profile/half";
import { type ModelProfile, profileSchema } from "@/core/profile/profile";

const FOLDER = join(process.cwd(), "profiles");
const FORMER = join(process.cwd(), "catalogue", "former-models.json");

const shipped = (): ModelProfile[] =>
  readdirSync(FOLDER)
    .sort()
    .map((file) => profileSchema.parse(JSON.parse(readFileSync(join(FOLDER, file), "utf8"))));

/**
 * Gives a workshop the model profiles that ship with Birdcage; a model that it has already stays as it is.
 */
export async function importShippedProfiles(db: Knex, by: string): Promise<void> {
  for (const body of shipped())
    await db("model_profile")
      .insert({ key: body.id, version: 1, body: JSON.stringify(body), by })
      .onConflict(["key", "version"])
      .ignore();
  await keepHalves(db, by);
}

/**
 * Keeps the models of single halves as their pairs say them: a pair that is new or was changed writes both halves anew.
 */
export async function keepHalves(db: Knex, by: string): Promise<void> {
  const newest = await db("model_profile")
    .distinctOn("key")
    .orderBy([{ column: "key" }, { column: "version", order: "desc" }])
    .select("key", "version", "body");
  for (const half of newest.flatMap((m) => halvesOf(m.body))) {
    const last = newest.find((m) => m.key === half.id);
    if (last && digestOf(last.body) === digestOf(half)) continue;
    await db("model_profile").insert({
      key: half.id,
      version: (last?.version ?? 0) + 1,
      body: JSON.stringify(half),
      by,
    });
  }
}

/** JSON with its keys in order: the database sorts them its own way. */
const ordered = (value: unknown): unknown => {
  if (Array.isArray(value)) return value.map(ordered);
  if (value === null || typeof value !== "object") return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, v]) => [key, ordered(v)]),
  );
};
/** What a profile holds, as one short text. */
export const digestOf = (body: unknown): string =>
  createHash("sha256")
    .update(JSON.stringify(ordered(profileSchema.parse(body))))
    .digest("hex");

const formerSchema = z.strictObject({ digests: z.array(z.string().length(64)) });

/**
 * Gives shipped models that a workshop took and did not change their newer version: what they were is told by the
 * digests of what was shipped before (`npm run former` writes them). A model that the shop changed stays as it is.
 */
export async function renewShipped(db: Knex): Promise<void> {
  const former = new Set(formerSchema.parse(JSON.parse(readFileSync(FORMER, "utf8"))).digests);
  for (const body of shipped()) {
    const last = await db("model_profile")
      .where({ key: body.id })
      .orderBy("version", "desc")
      .first("version", "body", "by");
    if (!last || !former.has(digestOf(last.body)) || digestOf(last.body) === digestOf(body)) continue;
    await db("model_profile").insert({
      key: body.id,
      version: last.version + 1,
      body: JSON.stringify(body),
      by: last.by,
    });
  }
  const first = await db("model_profile").orderBy("at").first("by");
  if (first) await keepHalves(db, first.by);
}

/**
 * The catalogue that ships with the demonstration; a workshop of its own begins with an empty one and imports
 * its own.
 */
export const shippedCatalogue = (): Catalogue => {
  const read = readCatalogue(readFileSync(join(process.cwd(), "catalogue", "house.json"), "utf8"));
  if (!read.ok) throw new Error(`${read.problem.path}: ${read.problem.message}`);
  return read.value;
};
