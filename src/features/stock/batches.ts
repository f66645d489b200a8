import "server-only";

import { partOf } from "@/core/parts/catalogue";
import { judgePiece } from "@/core/parts/inspection";
import { batchVerdict, samplingPlan } from "@/core/parts/sampling";
import { say } from "@/features/parts/words/words";
import { loadSettings } from "@/features/settings/settings";
import { Refused, nothing, stamp } from "@/platform/deed/base";
import { Stale, deed } from "@/platform/deed/declare";
import { counted, familyOf } from "./batch-rows";
import { holdingUnits } from "./holding";
import { loadCatalogue } from "./catalogue";
import { takeOut } from "./deeds";
import { releaseReservations } from "./reserve";

export const readPiece = deed(
  "batch.read",
  { batch: (i) => i.batchId },
  async (work, { batchId, number, reading, instrument, tookMs }) => {
    const { db, actor, note, batch } = work;
    if (batch.status === "rejected" || batch.status === "disposed")
      throw new Refused({ code: "batch-locked", batch: batch.code, status: batch.status });
    const part = partOf((await loadCatalogue(db)).value, batch.part);
    if (!part?.check) throw new Refused({ code: "not-found", what: say("wayToJudgeThisPart") });
    if (number > batch.pieces) throw new Refused({ code: "already", what: "piece" });
    const judged = judgePiece(part.check, reading);
    if (judged.verdict === "not-tested")
      throw new Refused({
        code: "bad-input",
        issues: judged.findings.map((f) => ({
          path: f.code === "missing" ? f.what : "",
          message: "is still to be measured",
        })),
      });
    const rows = await db("piece_reading")
      .insert({
        batch_id: batchId,
        number,
        body: JSON.stringify(reading),
        verdict: judged.verdict,
        findings: JSON.stringify(judged.findings),
        instrument,
        took_ms: tookMs,
        ...stamp(db, actor),
      })
      .onConflict(["batch_id", "number"])
      .ignore()
      .returning("id");
    if (rows.length !== 1) throw new Refused({ code: "already", what: "piece" });
    // a bad piece of a batch that is on the shelf already leaves it
    if (batch.status === "open" && judged.verdict === "bad" && batch.on_hand > batch.reserved)
      await takeOut(work, batch, { count: 1, held: 0, kind: "lost", unitId: null, why: "bad at inspection" });
    note("piece-read", null, { batch: batch.code, number, verdict: judged.verdict });
    return { verdict: judged.verdict };
  },
);

export const judgeBatch = deed(
  "batch.judge",
  {
    batch: (i) => i.batchId,
    batches: ({ batchId, verdict }, db) => (verdict === "reject" ? familyOf(db, batchId) : []),
    units: ({ batchId, verdict }, db) => (verdict === "reject" ? holdingUnits(db, batchId) : []),
    seen: "batch",
  },
  async (work, { batchId, verdict, why }) => {
    const { db, actor, note, units, batch, batches } = work;
    if (batch.status === "disposed")
      throw new Refused({ code: "batch-locked", batch: batch.code, status: batch.status });
    const { measured, bad } = await counted(db, batchId);
    if (verdict === "accept") {
      // what was rejected stays locked: nobody accepts it back
      if (batch.status !== "waiting")
        throw new Refused({ code: "batch-locked", batch: batch.code, status: batch.status });
      const said = batchVerdict(
        samplingPlan(batch.pieces, (await loadSettings(db)).settings.risk),
        measured,
        bad,
      );
      if (said.verdict === "more") throw new Refused({ code: "needs-measuring", left: said.measure });
      // against the rule only a lead, with a reason
      if (said.verdict === "reject") {
        if (actor.role !== "lead") throw new Refused({ code: "lead-only-limit" });
        if (why === "") throw new Refused({ code: "limit-needs-reason" });
      }
      // bad pieces that were found do not go to the shelf
      const out = Math.min(bad, batch.on_hand - batch.reserved);
      if (out > 0)
        await takeOut(work, batch, {
          count: out,
          held: 0,
          kind: "lost",
          unitId: null,
          why: "bad at inspection",
        });
      await db("batch")
        .where({ id: batchId })
        .update({ status: "open", status_why: why, version: db.raw("version + 1") });
      note("batch-accepted", null, { batch: batch.code, measured, bad, why });
      return nothing;
    }
    if (why === "") throw new Refused({ code: "limit-needs-reason" });
    // pieces split from it or put back from it are of the same make
    const family = await familyOf(db, batchId);
    if (family.some((id) => !batches.has(id))) throw new Stale();
    for (const id of family) {
      const units: string[] = await db("reservation")
        .where({ batch_id: id, status: "open" })
        .pluck("unit_id");
      await releaseReservations(db, { batch_id: id });
      for (const unitId of new Set(units))
        note("part-released", unitId, { batch: batch.code, why: "batch rejected" });
      await db("batch")
        .where({ id })
        .whereNot({ status: "disposed" })
        .update({ status: "rejected", status_why: why, version: db.raw("version + 1") });
    }
    // nobody releases one of them meanwhile: they were locked with the batch. One that was fitted or split
    // just before it was locked
    // is not among them yet
    const holders = (await holdingUnits(db, batchId)).sort();
    if (holders.some((id) => !units.has(id))) throw new Stale();
    for (const unitId of holders) {
      note("batch-recalled", unitId, { batch: batch.code, why });
    }
    note("batch-rejected", null, { batch: batch.code, measured, bad, why, units: holders.length });
    return nothing;
  },
);

export const disposeBatch = deed(
  "batch.dispose",
  { batch: (i) => i.batchId, seen: "batch" },
  async (work, { batchId, how }) => {
    const { db, note, batch } = work;
    if (batch.status !== "rejected")
      throw new Refused({ code: "batch-locked", batch: batch.code, status: batch.status });
    if (batch.on_hand > 0)
      await takeOut(work, batch, { count: batch.on_hand, held: 0, kind: "disposed", unitId: null, why: how });
    await db("batch")
      .where({ id: batchId })
      .update({ status: "disposed", status_why: how, version: db.raw("version + 1") });
    note("batch-disposed", null, { batch: batch.code, how });
    return nothing;
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [disposeBatch, judgeBatch, readPiece] as const;
