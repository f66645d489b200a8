import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { one } from "@/core/base/one";
import type { Part } from "@/core/parts/catalogue";
import { mustBeWorkable } from "@/features/case/workable";
import { say } from "@/features/parts/words/words";
import type { FittedRow, UnitRow } from "@/platform/db/tables";
import { Refused, nothing, stamp } from "@/platform/deed/base";
import { type Work, deed, unitOf } from "@/platform/deed/declare";
import { mustKnow } from "./catalogue";
import { batchNow, heldBatch, mustBeOpen, newBatch, takeOut } from "./deeds";
import { mustFit, slotOf } from "./fit";
import { spendReservation } from "./reserve";

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
  const cost = await takeOut(work, now, {
    count: f.count,
    held,
    kind: "fitted",
    unitId: unit.id,
    why: f.why,
  });
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
      const done = await fitPiece(work, unit!, {
        batchId,
        slot: purpose.slot,
        count,
        mendId: purpose.mendId,
        why,
      });
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
  const rows = await db("fitted")
    .where({ id: fittedId })
    .update({ feel, feel_words: words })
    .returning("unit_id");
  if (rows.length !== 1) throw new Refused({ code: "not-found", what: "part" });
  note("part-felt", one(rows[0]).unit_id, { fittedId, feel, words });
  return nothing;
});

/** A swap of two like parts between units: each unit's history says what left it and what came. */
export const swap = deed(
  "part.swap",
  { units: ({ unitId, otherUnitId }) => [unitId, otherUnitId] },
  async ({ db, actor, note, units }, { unitId, slot, otherUnitId, otherSlot, part: code, why }) => {
    if (unitId === otherUnitId)
      throw new Refused({ code: "bad-input", issues: [{ path: "", message: say("chooseTwoUnits") }] });
    if (units.size < 2) throw new Refused({ code: "not-found", what: "unit" });
    const sides = [
      { unit: units.get(unitId)!, slot, from: units.get(otherUnitId)!, fromSlot: otherSlot },
      { unit: units.get(otherUnitId)!, slot: otherSlot, from: units.get(unitId)!, fromSlot: slot },
    ];
    for (const s of sides) mustBeWorkable(s.unit);
    const asked = await mustKnow(db, code);
    const moves: {
      to: (typeof sides)[number];
      row: Pick<FittedRow, "part" | "count" | "batch_id" | "cost_minor" | "condition" | "deviation"> & {
        figures: string;
      };
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
      await db("fitted").insert({
        ...row,
        unit_id: to.unit.id,
        slot: to.slot,
        from_unit_id: to.from.id,
        ...stamp(db, actor),
      });
      note("part-swapped", to.unit.id, { slot: to.slot, with: to.from.tag, itsSlot: to.fromSlot, why });
    }
    return nothing;
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [rateFeel, removeFitted, swap, take] as const;
