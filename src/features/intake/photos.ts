import "server-only";

import { createHash } from "node:crypto";

import type { Knex } from "knex";
import sharp from "sharp";
import { z } from "@/core/base/schema";

import { type Actor, nothing, Refused, stamp } from "@/platform/deed/base";
import { change, deed } from "@/platform/deed/declare";
import { runChange } from "@/platform/run/run";
import { one } from "@/core/base/one";
import type { Id } from "@/core/base/ids";

export const MAX_PHOTO_BYTES = 15 * 1024 * 1024;
const MAX_PIXELS = 50_000_000;
const LARGEST_SIDE = 1800;
const THUMB = 320;
const FORMATS = new Set(["jpeg", "png", "webp", "heif", "avif", "gif", "tiff"]);

sharp.cache(false);

/** Makes a picture of whatever was sent anew: upright, without metadata, at most 1800 pixels wide or high. */
async function remake(sent: Buffer) {
  try {
    const input = sharp(sent, { limitInputPixels: MAX_PIXELS, failOn: "error" });
    const { format } = await input.metadata();
    if (!FORMATS.has(format ?? "")) throw new Error("not a photograph");
    const upright = input.rotate();
    const image = await upright
      .clone()
      .resize(LARGEST_SIDE, LARGEST_SIDE, { fit: "inside", withoutEnlargement: true })
      .flatten({ background: "#ffffff" })
      .jpeg({ quality: 82 })
      .toBuffer({ resolveWithObject: true });
    const thumb = await sharp(image.data)
      .resize(THUMB, THUMB, { fit: "cover" })
      .jpeg({ quality: 72 })
      .toBuffer();
    return { image: image.data, width: image.info.width, height: image.info.height, thumb };
  } catch {
    throw new Refused({ code: "not-an-image" });
  }
}

type Made = Awaited<ReturnType<typeof remake>> & { sha256: string; caption: string; step: string | null };
const keepPhoto = change(
  { unit: (i: { unitId: Id<"unit">; made: Made }) => i.unitId },
  async ({ db, actor, note, unit }, { made }) => {
    const row = one(
      (
        await db("photo")
          .insert({ unit_id: unit.id, ...made, ...stamp(db, actor) })
          .onConflict(["unit_id", "sha256"])
          .merge(made.step === null ? { removed: false } : { removed: false, step: made.step })
          .returning("id")
      )[0],
    );
    note("photo-kept", unit.id, { photo: row.id });
    return { id: row.id as string };
  },
);

/** Keeps a photograph of a unit; the same picture again is kept once. */
export async function storePhoto(
  db: Knex,
  actor: Actor,
  unitId: Id<"unit">,
  caption: string,
  sent: Buffer,
  step: string | null = null,
): Promise<{ id: string }> {
  const made = await remake(sent);
  const sha256 = createHash("sha256").update(sent).digest("hex");
  return db.transaction((trx) =>
    runChange(trx, actor, keepPhoto, { unitId, made: { ...made, sha256, caption, step } }),
  );
}

export const removePhoto = deed("photo.remove", {}, async ({ db, note }, { photoId }) => {
  const rows = await db("photo")
    .where({ id: photoId, removed: false })
    .update({ removed: true })
    .returning("unit_id");
  if (rows.length !== 1) throw new Refused({ code: "not-found", what: "photograph" });
  note("photo-removed", one(rows[0]).unit_id, { photo: photoId });
  return nothing;
});

export async function photoBytes(db: Knex, id: string, small: boolean): Promise<Buffer | null> {
  if (!z.uuid().safeParse(id).success) return null;
  const [photo] = await db("photo")
    .where({ id, removed: false })
    .pluck(small ? "thumb" : "image");
  return photo ?? null;
}

export type PhotoHead = { id: string; caption: string; width: number; height: number };
export const photosOf = (db: Knex, unitId: Id<"unit">): Promise<PhotoHead[]> =>
  db("photo")
    .where({ unit_id: unitId, removed: false })
    .orderBy("at")
    .select("id", "caption", "width", "height");

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [removePhoto] as const;
