import "server-only";

import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { isDeepStrictEqual } from "node:util";

import type { Knex } from "knex";

import { type Catalogue, readCatalogue } from "@/core/parts/catalogue";
import { type ModelProfile, profileSchema } from "@/core/profile/profile";

const FOLDER = join(process.cwd(), "profiles");

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
}

/**
 * Gives shipped models that a workshop took before there were part slots, going prices, fit or a guide their
 * newer version. A model that the shop changed in anything else stays as it is.
 */
export async function addSlotsToShipped(db: Knex): Promise<void> {
  const withoutGuide = ({ guide: _guide, ...rest }: ModelProfile) => rest;
  type Bare = ReturnType<typeof withoutGuide>;
  const withoutSlots = ({ slots: _slots, market: _market, ...rest }: Bare) => rest;
  const withoutFit = (p: Bare) => ({ ...p, slots: p.slots?.map(({ fit: _fit, ...s }) => s) });
  for (const body of shipped()) {
    const last = await db("model_profile")
      .where({ key: body.id })
      .orderBy("version", "desc")
      .first("version", "body", "by");
    if (!last || last.body.guide) continue;
    const had = profileSchema.parse(last.body);
    const now = withoutGuide(body);
    const alikeOf = () => {
      if (had.slots?.some((s) => s.fit)) return isDeepStrictEqual(had, now);
      if (had.slots) return isDeepStrictEqual(withoutFit(had), withoutFit(now));
      return isDeepStrictEqual(withoutSlots(had), withoutSlots(now));
    };
    const alike = alikeOf(); // the database sorts keys
    if (alike)
      await db("model_profile").insert({
        key: body.id,
        version: last.version + 1,
        body: JSON.stringify(body),
        by: last.by,
      });
  }
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
