import "server-only";

import type { Knex } from "knex";

import type { DeedParsed } from "@/contract/deeds";
import type { Id } from "@/core/base/ids";
import { one } from "@/core/base/one";
import { takeCost } from "@/core/parts/cost";
import { say } from "@/features/parts/words/words";
import { sharedRead } from "@/platform/db/batched";
import { computed, nextOf, rowsOf } from "@/platform/db/joined";
import type { BatchRow } from "@/platform/db/tables";
import { Refused, nothing, stamp } from "@/platform/deed/base";
import { type Work, deed } from "@/platform/deed/declare";
import { mustKnow } from "./catalogue";

/**
 * The shelf: batches, and every movement of them. A movement is only ever added, and nothing goes below zero.
 */

/** A batch that was locked for the deed. */
export function heldBatch({ batches }: Work, id: string): BatchRow {
  const row = batches.get(id);
  if (!row) throw new Refused({ code: "not-found", what: "batch" });
  return row;
}

/**
 * A batch as it is after what the deed did to it so far; locked also where it came after the deed's own
 * locks.
 */
export async function batchNow(db: Knex, id: string): Promise<BatchRow> {
  const row = await db("batch").where({ id }).forUpdate().first();
  if (!row) throw new Refused({ code: "not-found", what: "batch" });
  return row;
}

export function mustBeOpen(batch: BatchRow): void {
  if (batch.status !== "open")
    throw new Refused({ code: "batch-locked", batch: batch.code, status: batch.status });
}

type NewBatch = Pick<BatchRow, "part" | "source" | "supplier" | "bin" | "pieces" | "cost_minor" | "status"> &
  Partial<Pick<BatchRow, "donor_unit_id" | "donor_slot" | "from_batch_id" | "condition" | "figures">>;

export async function newBatch(
  { db, actor }: Work,
  b: NewBatch,
  why: string,
): Promise<{ id: string; code: string }> {
  const n = await nextOf(db, "batch_number");
  const code = `P-${String(n).padStart(4, "0")}`;
  const row = one(
    (
      await db("batch")
        .insert({
          ...b,
          figures: JSON.stringify(b.figures ?? []),
          code,
          on_hand: b.pieces,
          value_minor: b.cost_minor,
          ...stamp(db, actor),
        })
        .returning("id")
    )[0],
  );
  await db("movement").insert({
    batch_id: row.id,
    kind: b.source === "bought" ? "received" : b.source,
    delta: b.pieces,
    minor: b.cost_minor,
    unit_id: b.donor_unit_id ?? null,
    why,
    ...stamp(db, actor),
  });
  return { id: row.id, code };
}

/**
 * Takes pieces out of a locked batch and writes the movement; answers what they cost. `held` are pieces that
 * are reserved for this.
 */
export async function takeOut(
  { db, actor }: Work,
  batch: BatchRow,
  m: { count: number; held: number; kind: string; unitId: Id<"unit"> | null; why: string },
): Promise<number> {
  const free = batch.on_hand - batch.reserved + Math.min(m.held, m.count);
  if (m.count > free)
    throw new Refused({ code: "stock-short", wanted: m.count, free, reserved: batch.reserved });
  const cost = takeCost(batch.value_minor, batch.on_hand, m.count);
  await db("batch")
    .where({ id: batch.id })
    .update({
      on_hand: batch.on_hand - m.count,
      reserved: batch.reserved - Math.min(m.held, m.count),
      value_minor: batch.value_minor - cost,
      version: db.raw("version + 1"),
    });
  await db("movement").insert({
    batch_id: batch.id,
    kind: m.kind,
    delta: -m.count,
    minor: -cost,
    unit_id: m.unitId,
    why: m.why,
    ...stamp(db, actor),
  });
  return cost;
}

export async function receiveBatch(
  work: Work,
  input: DeedParsed<"stock.receive">,
): Promise<{ id: string; code: string }> {
  const { db, note } = work;
  const part = await mustKnow(db, input.part);
  const line = input.orderLineId
    ? await db("order_line").where({ id: input.orderLineId }).forUpdate().first()
    : null;
  if (input.orderLineId && !line) throw new Refused({ code: "not-found", what: say("orderLine") });
  if (line && (line.batch_id || line.part !== input.part))
    throw new Refused({ code: "already", what: "arrival" });
  const made = await newBatch(
    work,
    {
      part: part.code,
      source: input.source,
      supplier: input.supplier,
      bin: input.bin,
      pieces: input.pieces,
      cost_minor: input.costMinor,
      // what has something to be measured is not used before somebody did
      status: part.check && input.source === "bought" ? "waiting" : "open",
    },
    line ? "as ordered" : "",
  );
  if (line) {
    await db("order_line").where({ id: line.id }).update({ batch_id: made.id });
    const open = await db("order_line").where({ order_id: line.order_id, batch_id: null }).first("id");
    if (!open) await db("purchase_order").where({ id: line.order_id }).update({ status: "arrived" });
  }
  note("batch-received", null, { batch: made.code, part: part.code, pieces: input.pieces });
  return made;
}

export const receive = deed("stock.receive", {}, receiveBatch);

export async function moveBatch({ db, actor, note }: Work, batch: BatchRow, bin: string): Promise<void> {
  await db("batch")
    .where({ id: batch.id })
    .update({ bin, version: db.raw("version + 1") });
  await db("movement").insert({
    batch_id: batch.id,
    kind: "moved",
    delta: 0,
    minor: 0,
    why: `${batch.bin} to ${bin}`,
    ...stamp(db, actor),
  });
  note("stock-moved", null, { batch: batch.code, from: batch.bin, to: bin });
}

export const move = deed("stock.move", { batch: (i) => i.batchId }, async (work, { bin }) => {
  await moveBatch(work, work.batch, bin);
  return nothing;
});

export async function setCount(
  { db, actor, note }: Work,
  batch: BatchRow,
  counted: number,
  why: string,
): Promise<void> {
  if (counted < batch.reserved)
    throw new Refused({
      code: "stock-short",
      wanted: batch.reserved,
      free: counted,
      reserved: batch.reserved,
    });
  const value =
    counted < batch.on_hand
      ? batch.value_minor - takeCost(batch.value_minor, batch.on_hand, batch.on_hand - counted)
      : batch.value_minor; // what turns up costs nothing more
  await db("batch")
    .where({ id: batch.id })
    .update({ on_hand: counted, value_minor: counted === 0 ? 0 : value, version: db.raw("version + 1") });
  await db("movement").insert({
    batch_id: batch.id,
    kind: "counted",
    delta: counted - batch.on_hand,
    minor: (counted === 0 ? 0 : value) - batch.value_minor,
    why,
    ...stamp(db, actor),
  });
  note("stock-counted", null, { batch: batch.code, from: batch.on_hand, to: counted, why });
}

export const count = deed(
  "stock.count",
  { batch: (i) => i.batchId, seen: "batch" },
  async (work, { counted, why }) => {
    await setCount(work, work.batch, counted, why);
    return nothing;
  },
);

export async function stockRows(
  db: Knex,
): Promise<
  { batch: string; part: string; supplier: string; bin: string; onHand: number; valueMinor: number }[]
> {
  const rows = await db("batch").whereNot({ status: "disposed" }).orderBy("code");
  return rows.map((r) => ({
    batch: r.code,
    part: r.part,
    supplier: r.supplier,
    bin: r.bin,
    onHand: r.on_hand,
    valueMinor: r.value_minor,
  }));
}

/** Pieces that anybody may take now, by part, with what one costs. */
export const freeStock = sharedRead((db): Promise<{ part: string; count: number; worth: number }[]> =>
  rowsOf(
    db("batch").where({ status: "open" }).whereRaw("on_hand > reserved").groupBy("part"),
    { batch: "batch" },
    "batch.part",
    computed<{ count: number; worth: number }>(
      db.raw(
        "sum(on_hand - reserved)::int as count, round(sum(value_minor)::numeric / sum(on_hand))::int as worth",
      ),
    ),
  ),
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [count, move, receive] as const;
