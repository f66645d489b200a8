import "server-only";

import type { Knex } from "knex";

import type { DeedParsed } from "@/contract/deeds";
import { type Catalogue, catalogueSchema, EMPTY_CATALOGUE, type Part, partOf } from "@/core/parts/catalogue";
import { splitCost, takeCost } from "@/core/parts/cost";
import { readOffersCsv, readPartsCsv, readStockCsv, type RowEffect } from "@/core/parts/csv";
import { allowedFor, type Fit, fitOf, partsThatFit } from "@/core/parts/fit";
import type { Use } from "@/core/parts/catalogue";
import type { Slot } from "@/core/profile/slots";
import { nothing, overtaken, Refused, stamp } from "@/platform/deed/base";
import { modelById, modelByKey } from "@/features/models/deeds";
import { loadValue, saveValue } from "@/features/settings/settings";
import { deed, namedUnit, unitOf, type Work } from "@/platform/deed/declare";
import type { BatchRow, UnitRow } from "@/platform/db/tables";
import { mustBeWorkable } from "@/features/case/workable";
import { one } from "@/core/base/one";
import { computed, countOf, nextOf, rowOf, rowsOf } from "@/platform/db/joined";
import type { FittedRow } from "@/platform/db/tables";
import { z } from "@/core/base/schema";
import { sharedRead } from "@/platform/db/batched";
import { say } from "@/features/parts/words/words";
import { rowWords } from "@/features/parts/words/text";
import type { Id } from "@/core/base/ids";

/** The shelf: batches, and every movement of them. A movement is only ever added, and nothing goes below zero. */

export const loadCatalogue = (db: Knex): Promise<{ value: Catalogue; version: number }> =>
  loadValue(db, "catalogue", catalogueSchema, EMPTY_CATALOGUE);

async function keepCatalogue({ db, note }: Work, version: number, catalogue: Catalogue): Promise<void> {
  const held: string[] = await db("batch").distinct("part").pluck("part");
  const gone = held.find((p) => !catalogue.parts.some((x) => x.code === p));
  if (gone) throw new Refused({ code: "part-unknown", part: gone });
  await saveValue(db, "catalogue", version, catalogue);
  note("catalogue-saved", null, { parts: catalogue.parts.length, offers: catalogue.offers.length });
}

export const saveCatalogue = deed("catalogue.save", {}, async (work, { version, catalogue }) => {
  await keepCatalogue(work, version, catalogue);
  return nothing;
});

/** A batch that was locked for the deed. */
function heldBatch({ batches }: Work, id: string): BatchRow {
  const row = batches.get(id);
  if (!row) throw new Refused({ code: "not-found", what: "batch" });
  return row;
}

/** A batch as it is after what the deed did to it so far; locked also where it came after the deed's own locks. */
async function batchNow(db: Knex, id: string): Promise<BatchRow> {
  const row = await db("batch").where({ id }).forUpdate().first();
  if (!row) throw new Refused({ code: "not-found", what: "batch" });
  return row;
}

function mustBeOpen(batch: BatchRow): void {
  if (batch.status !== "open") throw new Refused({ code: "batch-locked", batch: batch.code, status: batch.status });
}

async function mustKnow(db: Knex, code: string): Promise<Part> {
  const part = partOf((await loadCatalogue(db)).value, code);
  if (!part) throw new Refused({ code: "part-unknown", part: code });
  return part;
}

type NewBatch = Pick<BatchRow, "part" | "source" | "supplier" | "bin" | "pieces" | "cost_minor" | "status"> &
  Partial<Pick<BatchRow, "donor_unit_id" | "donor_slot" | "from_batch_id" | "condition" | "figures">>;

export async function newBatch({ db, actor }: Work, b: NewBatch, why: string): Promise<{ id: string; code: string }> {
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

/** Takes pieces out of a locked batch and writes the movement; answers what they cost. `held` are pieces that are reserved for this. */
export async function takeOut(
  { db, actor }: Work,
  batch: BatchRow,
  m: { count: number; held: number; kind: string; unitId: Id<"unit"> | null; why: string },
): Promise<number> {
  const free = batch.on_hand - batch.reserved + Math.min(m.held, m.count);
  if (m.count > free) throw new Refused({ code: "stock-short", wanted: m.count, free, reserved: batch.reserved });
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

async function receiveBatch(work: Work, input: DeedParsed<"stock.receive">): Promise<{ id: string; code: string }> {
  const { db, note } = work;
  const part = await mustKnow(db, input.part);
  const line = input.orderLineId ? await db("order_line").where({ id: input.orderLineId }).forUpdate().first() : null;
  if (input.orderLineId && !line) throw new Refused({ code: "not-found", what: say("orderLine") });
  if (line && (line.batch_id || line.part !== input.part)) throw new Refused({ code: "already", what: "arrival" });
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

/** The slot of a unit's model, from the newest profile that tells what fits. */
export async function slotOf(db: Knex, unit: UnitRow, slotId: string): Promise<{ model: string; slot: Slot }> {
  const own = await modelById(db, unit.profile_id);
  const newest = (await modelByKey(db, own.key)) ?? own;
  const slot = (newest.body.slots ?? []).find((s) => s.id === slotId);
  if (!slot) throw new Refused({ code: "not-found", what: say("partSlot") });
  return { model: own.key, slot };
}

/** What the unit's parts must be good for: sale, or what its owner does with it. */
export const purposeOf = (unit: UnitRow): Use => {
  if (unit.source !== "customer") return "sale";
  return ({ precise: "precise", play: "casual", "own-testing": "own", unknown: "sale" } as const)[unit.intake.use];
};

/** Refuses a part that does not fit the slot or may not be used there, with every reason. */
export async function mustFit(db: Knex, unit: UnitRow, slotId: string, part: Part): Promise<Fit> {
  const { model, slot } = await slotOf(db, unit, slotId);
  const { value: catalogue } = await loadCatalogue(db);
  const place = { model, revision: unit.revision, slot };
  const fit = partsThatFit(catalogue, place).find((f) => f.part === part.code) ?? fitOf(catalogue, place, part);
  if (fit.verdict !== "fits")
    throw new Refused({
      code: "does-not-fit",
      part: part.code,
      why: [...fit.mechanical.why, ...fit.electrical.why],
      known: fit.verdict === "no",
    });
  const use = purposeOf(unit);
  if (!allowedFor(part, use)) throw new Refused({ code: "not-for-this-use", part: part.code, use });
  return fit;
}

/** Pieces of a batch that are reserved for a slot of a unit; they are used up by fitting. */
async function spendReservation(
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

export async function fitPiece(
  work: Work,
  unit: UnitRow,
  f: { batchId: Id<"batch">; slot: string; count: number; mendId: Id<"mend"> | null; why: string },
): Promise<{ cost: number; fittedId: Id<"fitted">; part: Part }> {
  const { db, actor, note } = work;
  const batch = heldBatch(work, f.batchId);
  mustBeOpen(batch);
  const part = await mustKnow(db, batch.part);
  const fit = await mustFit(db, unit, f.slot, part);
  const held = await spendReservation(db, batch.id, unit.id, f.slot, f.count);
  const now = await batchNow(db, batch.id);
  const cost = await takeOut(work, now, { count: f.count, held, kind: "fitted", unitId: unit.id, why: f.why });
  // what does not find room beside it any more was taken out for it
  const { slot } = await slotOf(db, unit, f.slot);
  const there = await db("fitted")
    .where({ unit_id: unit.id, slot: f.slot, removed_at: null })
    .orderBy("at")
    .select("id", "count");
  let room = (slot.fit?.count ?? 1) - f.count - there.reduce((sum, x) => sum + x.count, 0);
  for (const x of there) {
    if (room >= 0) break;
    await db("fitted")
      .where({ id: x.id })
      .update({ removed_at: actor.at ?? db.fn.now(), removed_why: `replaced from ${batch.code}` });
    room += x.count;
  }
  const row = one(
    (
      await db("fitted")
        .insert({
          unit_id: unit.id,
          slot: f.slot,
          part: part.code,
          count: f.count,
          batch_id: batch.id,
          from_unit_id: batch.donor_unit_id,
          mend_id: f.mendId,
          cost_minor: cost,
          condition: batch.condition,
          figures: JSON.stringify(batch.figures),
          deviation: fit.deviation,
          ...stamp(db, actor),
        })
        .returning("id")
    )[0],
  );
  note("part-fitted", unit.id, { batch: batch.code, part: part.code, slot: f.slot, count: f.count });
  return { cost, fittedId: row.id, part };
}

export const take = deed(
  "stock.take",
  { unit: (i) => (i.for.kind === "fit" ? i.for.unitId : null), batch: (i) => i.batchId, workable: true },
  async (work, { batchId, count, for: purpose, why }) => {
    const { note, unit, batch } = work;
    if (purpose.kind === "fit") {
      const done = await fitPiece(work, unit!, { batchId, slot: purpose.slot, count, mendId: purpose.mendId, why });
      return { costMinor: done.cost, fittedId: done.fittedId };
    }
    mustBeOpen(batch);
    const kind = purpose.kind === "use" ? "used" : "lost";
    const unitId = purpose.kind === "use" ? purpose.unitId : null;
    const cost = await takeOut(work, batch, { count, held: 0, kind, unitId, why });
    note("stock-taken", unitId, { batch: batch.code, count, kind });
    return { costMinor: cost, fittedId: null };
  },
);

async function moveBatch({ db, actor, note }: Work, batch: BatchRow, bin: string): Promise<void> {
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

async function setCount({ db, actor, note }: Work, batch: BatchRow, counted: number, why: string): Promise<void> {
  if (counted < batch.reserved)
    throw new Refused({ code: "stock-short", wanted: batch.reserved, free: counted, reserved: batch.reserved });
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

export const count = deed("stock.count", { batch: (i) => i.batchId, seen: "batch" }, async (work, { counted, why }) => {
  await setCount(work, work.batch, counted, why);
  return nothing;
});

export const split = deed("stock.split", { batch: (i) => i.batchId }, async (work, { count: n, lines, bin, why }) => {
  const { db, note, batch } = work;
  mustBeOpen(batch);
  const { value: catalogue } = await loadCatalogue(db);
  const whole = partOf(catalogue, batch.part);
  if (!whole || whole.contents.length === 0) throw new Refused({ code: "part-unknown", part: batch.part });
  if (lines.length !== new Set(lines.map((l) => l.part)).size)
    throw new Refused({ code: "bad-input", issues: [{ path: "lines", message: say("eachPieceOnce") }] });
  const stranger = lines.find((l) => !whole.contents.some((c) => c.part === l.part));
  if (stranger) throw new Refused({ code: "part-unknown", part: stranger.part });
  const cost = await takeOut(work, batch, { count: n, held: 0, kind: "split", unitId: null, why });
  const spread = splitCost(
    cost,
    lines.map((l) => ({ ...l, weight: whole.contents.find((c) => c.part === l.part)!.weight })),
  );
  const codes: string[] = [];
  for (const [i, l] of lines.entries()) {
    if (l.good === 0) continue;
    const made = await newBatch(
      work,
      {
        part: l.part,
        source: "split",
        supplier: batch.supplier,
        from_batch_id: batch.id,
        bin,
        pieces: l.good,
        cost_minor: spread.cost[i]!,
        status: "open",
      },
      `${n} of ${batch.code} taken apart, ${l.good} good, ${l.bad} bad`,
    );
    codes.push(made.code);
  }
  // what the list says and what was in it
  const short = whole.contents.flatMap((c) => {
    const line = lines.find((l) => l.part === c.part);
    const found = (line?.good ?? 0) + (line?.bad ?? 0);
    return found === c.count * n ? [] : [{ part: c.part, listed: c.count * n, found }];
  });
  note("batch-split", null, { batch: batch.code, count: n, cost, into: codes, yield: spread.yield, short });
  return { codes };
});

const splitSchema = z.object({ count: z.number(), cost: z.number(), into: z.array(z.string()) });
export type Split = { id: string; count: number; cost: number; into: string[] };

/** The last taking apart of a batch that still stands, with what it cost; null when there is none, or it is from before costs were noted. */
export async function lastSplit(db: Knex, code: string): Promise<Split | null> {
  const row = await rowOf(
    db("event as e")
      .where({ "e.kind": "batch-split" })
      .whereRaw("e.body->>'batch' = ?", [code])
      .whereRaw("e.body->>'cost' is not null")
      .whereNotExists(db("event as j").where({ "j.kind": "batch-joined" }).whereRaw("(j.body->>'split')::bigint = e.id"))
      .orderBy("e.id", "desc"),
    { e: "event" },
    "e.id",
    "e.body",
  );
  return row ? { id: row.id, ...splitSchema.parse(row.body) } : null;
}

async function piecesOfSplit({ batchId }: { batchId: Id<"batch"> }, db: Knex): Promise<string[]> {
  const batch = await db("batch").where({ id: batchId }).first("code");
  const last = batch ? await lastSplit(db, batch.code) : null;
  return last ? db("batch").whereIn("code", last.into).pluck("id") : [];
}

/** Takes the last taking apart back: the kits are there again at their cost, and the pieces never were. */
export const join = deed("stock.join", { batch: (i) => i.batchId, batches: piecesOfSplit }, async (work) => {
  const { db, actor, note, batch, batches } = work;
  mustBeOpen(batch);
  const last = await lastSplit(db, batch.code);
  if (!last) throw new Refused({ code: "not-found", what: say("takingApartThatCanBeTaken") });
  for (const code of [...last.into].sort()) {
    const piece = [...batches.values()].find((b) => b.code === code)!;
    const moved = await countOf(db("movement").where({ batch_id: piece.id }));
    if (moved !== 1 || piece.reserved > 0 || piece.on_hand !== piece.pieces)
      throw new Refused({ code: "batch-touched", batch: code });
    await takeOut(work, piece, { count: piece.on_hand, held: 0, kind: "joined", unitId: null, why: `into ${batch.code}` });
    await db("batch")
      .where({ id: piece.id })
      .update({ status: "disposed", status_why: `put together again in ${batch.code}` });
  }
  await db("batch")
    .where({ id: batch.id })
    .update({
      on_hand: batch.on_hand + last.count,
      value_minor: batch.value_minor + last.cost,
      version: db.raw("version + 1"),
    });
  await db("movement").insert({
    batch_id: batch.id,
    kind: "joined",
    delta: last.count,
    minor: last.cost,
    why: "the taking apart is taken back",
    ...stamp(db, actor),
  });
  note("batch-joined", null, { batch: batch.code, split: last.id, count: last.count, from: last.into });
  return nothing;
});

/** Puts pieces of a batch aside that was locked for the deed, or made by it. */
export async function reserveFrom(
  { db, actor }: Work,
  r: { unitId: Id<"unit">; slot: string; batchId: Id<"batch">; count: number; allocationId: string | null },
): Promise<void> {
  const batch = await batchNow(db, r.batchId);
  mustBeOpen(batch);
  const free = batch.on_hand - batch.reserved;
  if (r.count > free) throw new Refused({ code: "stock-short", wanted: r.count, free, reserved: batch.reserved });
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

async function batchOfReservation({ reservationId }: { reservationId: Id<"reservation"> }, db: Knex): Promise<string | null> {
  const row: { batch_id: string | null } | undefined = await db("reservation").where({ id: reservationId }).first("batch_id");
  if (!row) throw new Refused({ code: "not-found", what: "reservation" });
  return row.batch_id;
}

export const unreserve = deed("stock.unreserve", { batch: batchOfReservation }, async ({ db, note }, { reservationId }) => {
  const row = one(await db("reservation").where({ id: reservationId }).first("unit_id"));
  if ((await releaseReservations(db, { id: reservationId })) !== 1) throw new Refused({ code: "already", what: "release" });
  note("part-released", row.unit_id, { reservationId });
  return nothing;
});

async function batchOfFitted({ fittedId }: { fittedId: Id<"fitted"> }, db: Knex): Promise<string | null> {
  return (await db("fitted").where({ id: fittedId }).first("batch_id"))?.batch_id ?? null;
}

export const removeFitted = deed(
  "fitted.remove",
  { unit: unitOf("fitted", (i) => i.fittedId, "part"), batch: batchOfFitted, workable: true },
  async (work, { fittedId, to, bin, why }) => {
    const { db, actor, note, batch } = work;
    const row = await db("fitted").where({ id: fittedId, removed_at: null }).forUpdate().first();
    if (!row) throw new Refused({ code: "already", what: "removal" });
    await db("fitted")
      .where({ id: fittedId })
      .update({ removed_at: actor.at ?? db.fn.now(), removed_why: why });
    if (to === "stock") {
      await newBatch(
        work,
        {
          part: row.part,
          source: "returned",
          supplier: batch?.supplier ?? "",
          from_batch_id: row.batch_id,
          donor_unit_id: row.unit_id,
          donor_slot: row.slot,
          bin: bin ?? batch?.bin ?? "back",
          pieces: row.count,
          cost_minor: row.cost_minor,
          // a piece of a bad batch stays batch wherever it has been
          status: batch && (batch.status === "rejected" || batch.status === "disposed") ? "rejected" : "open",
          condition: "used",
          figures: row.figures,
        },
        why,
      );
    }
    note("part-removed", row.unit_id, { part: row.part, slot: row.slot, to, why });
    return nothing;
  },
);

export const rateFeel = deed("fitted.feel", {}, async ({ db, note }, { fittedId, feel, words }) => {
  const rows = await db("fitted").where({ id: fittedId }).update({ feel, feel_words: words }).returning("unit_id");
  if (rows.length !== 1) throw new Refused({ code: "not-found", what: "part" });
  note("part-felt", one(rows[0]).unit_id, { fittedId, feel, words });
  return nothing;
});

/** A swap of two like parts between units: each unit's history says what left it and what came. */
export const swap = deed(
  "part.swap",
  { units: ({ unitId, otherUnitId }) => [unitId, otherUnitId] },
  async ({ db, actor, note, units }, { unitId, slot, otherUnitId, otherSlot, part: code, why }) => {
    if (unitId === otherUnitId) throw new Refused({ code: "bad-input", issues: [{ path: "", message: say("chooseTwoUnits") }] });
    if (units.size < 2) throw new Refused({ code: "not-found", what: "unit" });
    const sides = [
      { unit: units.get(unitId)!, slot, from: units.get(otherUnitId)!, fromSlot: otherSlot },
      { unit: units.get(otherUnitId)!, slot: otherSlot, from: units.get(unitId)!, fromSlot: slot },
    ];
    for (const s of sides) mustBeWorkable(s.unit);
    const asked = await mustKnow(db, code);
    const moves: {
      to: (typeof sides)[number];
      row: Pick<FittedRow, "part" | "count" | "batch_id" | "cost_minor" | "condition" | "deviation"> & { figures: string };
    }[] = [];
    for (const s of sides) {
      const had = await db("fitted")
        .where({ unit_id: s.from.id, slot: s.fromSlot, removed_at: null })
        .orderBy("at", "desc")
        .first();
      const part = had ? await mustKnow(db, had.part) : asked;
      const fit = await mustFit(db, s.unit, s.slot, part);
      moves.push({
        to: s,
        row: {
          part: part.code,
          count: had?.count ?? 1,
          batch_id: had?.batch_id ?? null,
          cost_minor: had?.cost_minor ?? 0,
          condition: had?.condition ?? "used",
          figures: JSON.stringify(had?.figures ?? []),
          deviation: fit.deviation,
        },
      });
      if (had)
        await db("fitted")
          .where({ id: had.id })
          .update({ removed_at: actor.at ?? db.fn.now(), removed_why: `swapped into ${s.unit.tag}: ${why}` });
    }
    for (const { to, row } of moves) {
      await db("fitted").insert({ ...row, unit_id: to.unit.id, slot: to.slot, from_unit_id: to.from.id, ...stamp(db, actor) });
      note("part-swapped", to.unit.id, { slot: to.slot, with: to.from.tag, itsSlot: to.fromSlot, why });
    }
    return nothing;
  },
);

async function batchesInFile({ kind, text }: DeedParsed<"stock.import">, db: Knex): Promise<string[]> {
  if (kind !== "stock") return [];
  const { value: catalogue } = await loadCatalogue(db);
  const named = (readStockCsv(text, catalogue, await stockRows(db)).changes ?? []).flatMap((c) =>
    c.kind === "receive" ? [] : [c.batch],
  );
  return db("batch").whereIn("code", named).pluck("id");
}

export const importCsv = deed("stock.import", { batches: batchesInFile }, async (work, { kind, text, version }) => {
  const { db, batches } = work;
  const { value: catalogue, version: now } = await loadCatalogue(db);
  const refuse = (rows: readonly RowEffect[]): never => {
    throw new Refused({
      code: "csv",
      problems: rows
        .filter((r) => r.effect === "error")
        .map((r) => ({ row: r.row, message: rowWords(r) }))
        .slice(0, 20),
    });
  };
  if (kind === "stock") {
    const read = readStockCsv(text, catalogue, await stockRows(db));
    if (!read.changes) return refuse(read.rows);
    for (const c of read.changes) {
      if (c.kind === "receive") {
        await receiveBatch(work, { ...c, source: "bought", orderLineId: null });
        continue;
      }
      const held = [...batches.values()].find((b) => b.code === c.batch);
      if (!held) throw new Refused({ code: "not-found", what: "batch" });
      const batch = await batchNow(db, held.id); // a file may name it twice
      if (c.kind === "move") await moveBatch(work, batch, c.bin);
      else await setCount(work, batch, c.counted, "by a file");
    }
    return { changed: read.changes.length };
  }
  if (now !== version) throw overtaken();
  const read = (kind === "parts" ? readPartsCsv : readOffersCsv)(text, catalogue);
  if (!read.catalogue) return refuse(read.rows);
  await keepCatalogue(work, version, read.catalogue);
  return { changed: read.rows.filter((r) => r.effect !== "same").length };
});

export async function stockRows(
  db: Knex,
): Promise<{ batch: string; part: string; supplier: string; bin: string; onHand: number; valueMinor: number }[]> {
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
      db.raw("sum(on_hand - reserved)::int as count, round(sum(value_minor)::numeric / sum(on_hand))::int as worth"),
    ),
  ),
);
