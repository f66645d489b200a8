import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { one } from "@/core/base/one";
import { Refused, nothing, stamp } from "@/platform/deed/base";
import { type Work, deed, namedUnit } from "@/platform/deed/declare";
import { mustKnow } from "./catalogue";
import { batchNow, mustBeOpen } from "./deeds";
import { mustFit } from "./fit";

/** Pieces that are promised to a unit. */

/** Pieces of a batch that are reserved for a slot of a unit; they are used up by fitting. */
export async function spendReservation(
  db: Knex,
  batchId: Id<"batch">,
  unitId: Id<"unit">,
  slot: string,
  count: number,
): Promise<number> {
  const held = await db("reservation")
    .where({ batch_id: batchId, unit_id: unitId, slot, status: "open" })
    .orderBy("at")
    .select("id", "count");
  let left = count;
  for (const h of held) {
    if (left <= 0) break;
    await db("reservation").where({ id: h.id }).update({ status: "used" });
    // what a reservation held beyond this is free again
    if (h.count > left)
      await db("batch")
        .where({ id: batchId })
        .update({ reserved: db.raw("reserved - ?", [h.count - left]) });
    left -= Math.min(left, h.count);
  }
  return count - left;
}

/** Puts pieces of a batch aside that was locked for the deed, or made by it. */
export async function reserveFrom(
  { db, actor }: Work,
  r: { unitId: Id<"unit">; slot: string; batchId: Id<"batch">; count: number; allocationId: string | null },
): Promise<void> {
  const batch = await batchNow(db, r.batchId);
  mustBeOpen(batch);
  const free = batch.on_hand - batch.reserved;
  if (r.count > free)
    throw new Refused({ code: "stock-short", wanted: r.count, free, reserved: batch.reserved });
  await db("batch")
    .where({ id: batch.id })
    .update({ reserved: batch.reserved + r.count });
  await db("reservation").insert({
    unit_id: r.unitId,
    slot: r.slot,
    part: batch.part,
    count: r.count,
    batch_id: batch.id,
    allocation_id: r.allocationId,
    ...stamp(db, actor),
  });
}

export const reserve = deed(
  "stock.reserve",
  { unit: namedUnit, batch: (i) => i.batchId, workable: true },
  async (work, { unitId, slot, batchId, count: n }) => {
    const { db, note, unit, batch } = work;
    await mustFit(db, unit, slot, await mustKnow(db, batch.part));
    await reserveFrom(work, { unitId, slot, batchId, count: n, allocationId: null });
    note("part-reserved", unitId, { batch: batch.code, slot, count: n });
    return nothing;
  },
);

/** Lets go of every open reservation that a filter names; what was held is free again. */
export async function releaseReservations(db: Knex, where: Record<string, unknown>): Promise<number> {
  const rows = await db("reservation")
    .where({ ...where, status: "open" })
    .forUpdate()
    .select("id", "batch_id", "count");
  for (const r of rows) {
    await db("reservation").where({ id: r.id }).update({ status: "released" });
    if (r.batch_id)
      await db("batch")
        .where({ id: r.batch_id })
        .update({ reserved: db.raw("reserved - ?", [r.count]) });
  }
  return rows.length;
}

async function batchOfReservation(
  { reservationId }: { reservationId: Id<"reservation"> },
  db: Knex,
): Promise<string | null> {
  const row: { batch_id: string | null } | undefined = await db("reservation")
    .where({ id: reservationId })
    .first("batch_id");
  if (!row) throw new Refused({ code: "not-found", what: "reservation" });
  return row.batch_id;
}

export const unreserve = deed(
  "stock.unreserve",
  { batch: batchOfReservation },
  async ({ db, note }, { reservationId }) => {
    const row = one(await db("reservation").where({ id: reservationId }).first("unit_id"));
    if ((await releaseReservations(db, { id: reservationId })) !== 1)
      throw new Refused({ code: "already", what: "release" });
    note("part-released", row.unit_id, { reservationId });
    return nothing;
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [reserve, unreserve] as const;
