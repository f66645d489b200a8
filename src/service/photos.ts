import "server-only";

import { createHash } from "node:crypto";

import type { Knex } from "knex";
import sharp from "sharp";
import { z } from "@/core/base/schema";

import { type Actor, type Deed, note, nothing, Refused, stamp } from "./base";
import { lockUnit } from "./facts";

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
    const thumb = await sharp(image.data).resize(THUMB, THUMB, { fit: "cover" }).jpeg({ quality: 72 }).toBuffer();
    return { image: image.data, width: image.info.width, height: image.info.height, thumb };
  } catch {
    throw new Refused({ code: "not-an-image" });
  }
}

/** Keeps a photograph of a unit; the same picture again is kept once. */
export async function storePhoto(
  db: Knex,
  actor: Actor,
  unitId: string,
  caption: string,
  sent: Buffer,
  step: string | null = null,
): Promise<{ id: string }> {
  const made = await remake(sent);
  const sha256 = createHash("sha256").update(sent).digest("hex");
  return db.transaction(async (trx) => {
    const unit = await lockUnit(trx, unitId, null, actor);
    const [row] = await trx("photo")
      .insert({ unit_id: unit.id, ...made, sha256, caption, step, ...stamp(trx, actor) })
      .onConflict(["unit_id", "sha256"])
      .merge(step === null ? { removed: false } : { removed: false, step })
      .returning("id");
    await note(trx, actor, "photo-kept", unit.id, { photo: row.id });
    return { id: row.id };
  });
}

export const removePhoto: Deed<"photo.remove"> = async (db, actor, { photoId }) => {
  const rows = await db("photo").where({ id: photoId, removed: false }).update({ removed: true }).returning("unit_id");
  if (rows.length !== 1) throw new Refused({ code: "not-found", what: "photograph" });
  await note(db, actor, "photo-removed", rows[0].unit_id, { photo: photoId });
  return nothing;
};

export async function photoBytes(db: Knex, id: string, small: boolean): Promise<Buffer | null> {
  if (!z.uuid().safeParse(id).success) return null;
  const row = await db("photo")
    .where({ id, removed: false })
    .first(small ? "thumb as bytes" : "image as bytes");
  return row?.bytes ?? null;
}

export type PhotoHead = { id: string; caption: string; width: number; height: number };
export const photosOf = (db: Knex, unitId: string): Promise<PhotoHead[]> =>
  db("photo").where({ unit_id: unitId, removed: false }).orderBy("at").select("id", "caption", "width", "height");
