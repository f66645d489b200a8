import "server-only";

import type { Knex } from "knex";

import { labourOf } from "@/core/money/rates";
import { partOf } from "@/core/parts/catalogue";
import {
  judgePiece,
  type PieceFinding,
  type PieceReading,
  type UsablePrice,
  usablePrice,
} from "@/core/parts/inspection";
import {
  badShare,
  type BatchVerdict,
  batchVerdict,
  type Risk,
  type SamplingPlan,
  samplingPlan,
} from "@/core/parts/sampling";
import { nothing, Refused, stamp } from "@/platform/deed/base";
import { loadSettings } from "@/features/settings/settings";
import { lastSplit, type Split } from "./split";
import { loadCatalogue } from "./catalogue";
import { releaseReservations } from "./reserve";
import { takeOut } from "./deeds";
import { deed, Stale } from "@/platform/deed/declare";
import type { BatchRow } from "@/platform/db/tables";
import { asked, computed, figuresOf, rowOf, rowsOf } from "@/platform/db/joined";
import { say } from "@/features/parts/words/words";
import type { Id } from "@/core/base/ids";

/** Incoming inspection: readings piece by piece, what they say of the batch, and who holds a piece of a bad one. */

/** Minutes of work again when a bad piece is only found once it is fitted: out, another in, and the retest. House guess. */
const WORK_AGAIN = 25;

const counted = (
  db: Knex,
  batchId: Id<"batch">,
): Promise<{ measured: number; bad: number; minutes: number }> =>
  figuresOf(
    db("piece_reading").where({ batch_id: batchId }),
    db.raw(
      "count(*)::int as measured, count(*) filter (where verdict = 'bad')::int as bad, coalesce(sum(took_ms), 0)::float / 60000 as minutes",
    ),
  );

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
    // nobody releases one of them meanwhile: they were locked with the batch. One that was fitted or split just before it was locked
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

async function familyOf(db: Knex, batchId: Id<"batch">): Promise<string[]> {
  const rows = await asked<{ id: string }>(
    db,
    `with recursive kin as (
       select id from batch where id = ? union select b.id from batch b join kin on b.from_batch_id = kin.id
     ) select id from kin order by id`,
    [batchId],
  );
  return rows.map((r) => r.id);
}

/** The units that hold a piece of a batch or of its kin. */
async function holdingUnits(db: Knex, batchId: Id<"batch">): Promise<string[]> {
  return db("fitted")
    .whereIn("batch_id", await familyOf(db, batchId))
    .whereNull("removed_at")
    .distinct("unit_id")
    .pluck("unit_id");
}

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

export type Holder = {
  unitId: Id<"unit">;
  tag: string;
  model: string;
  slot: string;
  fittedAt: string;
  ending: string | null;
  /** whom to tell: the owner of a customer's unit, or the buyer through the certificate */
  owner: string;
  contact: string;
  soldOn: string | null;
  certificate: string | null;
};

/** Every unit that holds a piece of a batch, in house or gone, with whom to tell. */
export async function holdersOf(db: Knex, batchId: Id<"batch">): Promise<Holder[]> {
  const holding = db("fitted as f")
    .join("unit as u", "u.id", "f.unit_id")
    .join("model_profile as p", "p.id", "u.profile_id")
    .leftJoin("customer as c", "c.id", "u.customer_id")
    .joinRaw(
      "left join lateral (select * from handover where unit_id = u.id order by at desc limit 1) h on u.ending is not null",
    )
    .whereIn("f.batch_id", await familyOf(db, batchId))
    .whereNull("f.removed_at")
    .orderBy("u.tag");
  const rows = await rowsOf(
    holding,
    { f: "fitted", u: "unit", p: "model_profile", h: "handover?" },
    "u.id",
    "u.tag",
    "u.ending",
    "f.slot",
    "f.at",
    "p.name as model",
    "h.handed_on as sold_on",
    computed<{ owner: string | null; contact: string | null; certificate: string | null }>(
      db.raw(
        `coalesce(nullif(h.buyer, ''), c.name) as owner, coalesce(nullif(h.contact, ''), c.contact) as contact,
         (select token from certificate where certificate.unit_id = u.id and revoked_at is null order by at desc limit 1)
           as certificate`,
      ),
    ),
  );
  return rows.map((r) => ({
    unitId: r.id,
    tag: r.tag,
    model: r.model,
    slot: r.slot,
    fittedAt: r.at.toISOString(),
    ending: r.ending,
    owner: r.owner ?? "",
    contact: r.contact ?? "",
    soldOn: r.sold_on,
    certificate: r.certificate,
  }));
}

export type ReadingLine = {
  number: number;
  verdict: "good" | "bad";
  findings: PieceFinding[];
  body: PieceReading;
  by: string;
  at: string;
};
export type BatchView = {
  batch: Omit<BatchRow, "at" | "by"> & { at: string; donorTag: string | null; fromCode: string | null };
  plan: SamplingPlan;
  risk: Risk;
  verdict: BatchVerdict;
  share: { seen: number | null; low: number; high: number };
  price: UsablePrice;
  readings: ReadingLine[];
  holders: Holder[];
  movements: {
    kind: string;
    delta: number;
    minor: number;
    unit: string | null;
    why: string;
    by: string;
    at: string;
  }[];
  reservations: { id: string; unit: string; slot: string; count: number }[];
  kin: { code: string; status: string }[];
  /** of each taking apart that stands: the share of good pieces */
  yields: number[];
  /** what can be taken back */
  lastSplit: Split | null;
};

export async function slipMinorOf(db: Knex): Promise<number> {
  const { settings } = await loadSettings(db);
  return labourOf(WORK_AGAIN + settings.rates.retestMinutes, settings.rates);
}

export async function batchView(db: Knex, code: string): Promise<BatchView | null> {
  const row = await rowOf(
    db("batch as b")
      .leftJoin("unit as u", "u.id", "b.donor_unit_id")
      .leftJoin("batch as f", "f.id", "b.from_batch_id")
      .where("b.code", code),
    { b: "batch", f: "batch?", u: "unit?" },
    "b.*",
    "u.tag as donorTag",
    "f.code as fromCode",
  );
  if (!row) return null;
  const { settings } = await loadSettings(db);
  const [count, readings, holders, movements, reservations, slipMinor, kin, splits, last] = await Promise.all(
    [
      counted(db, row.id),
      rowsOf(
        db("piece_reading as r")
          .join("person as p", "p.id", "r.by")
          .where({ batch_id: row.id })
          .orderBy("number"),
        { r: "piece_reading", p: "person" },
        "r.*",
        "p.name as person",
      ),
      holdersOf(db, row.id),
      rowsOf(
        db("movement as m")
          .join("person as p", "p.id", "m.by")
          .leftJoin("unit as u", "u.id", "m.unit_id")
          .where({ batch_id: row.id })
          .orderBy("m.id", "desc"),
        { m: "movement", u: "unit?", p: "person" },
        "m.*",
        "p.name as person",
        "u.tag",
      ),
      rowsOf(
        db("reservation as r")
          .join("unit as u", "u.id", "r.unit_id")
          .where({ batch_id: row.id, status: "open" }),
        { r: "reservation", u: "unit" },
        "r.*",
        "u.tag",
      ),
      slipMinorOf(db),
      db("batch").where({ from_batch_id: row.id }).orderBy("code").select("code", "status"),
      db("event")
        .where({ kind: "batch-split" })
        .whereRaw("body->>'batch' = ?", [row.code])
        .whereNotExists(
          db("event as j")
            .where({ "j.kind": "batch-joined" })
            .whereRaw("(j.body->>'split')::bigint = event.id"),
        )
        .orderBy("id")
        .pluck("body"),
      lastSplit(db, row.code),
    ],
  );
  const plan = samplingPlan(row.pieces, settings.risk);
  const { by: _by, ...batch } = row;
  return {
    batch: { ...batch, at: row.at.toISOString() },
    plan,
    risk: settings.risk,
    verdict: batchVerdict(plan, count.measured, count.bad),
    share: badShare(row.pieces, count.measured, count.bad),
    price: usablePrice(
      { pieces: row.pieces, costMinor: row.cost_minor, ...count, slipMinor },
      settings.rates,
    ),
    readings: readings.map((r) => ({
      number: r.number,
      verdict: r.verdict,
      findings: r.findings,
      body: r.body,
      by: r.person,
      at: r.at.toISOString(),
    })),
    holders,
    movements: movements.map((m) => ({
      kind: m.kind,
      delta: m.delta,
      minor: m.minor,
      unit: m.tag,
      why: m.why,
      by: m.person,
      at: m.at.toISOString(),
    })),
    reservations: reservations.map((r) => ({ id: r.id, unit: r.tag, slot: r.slot, count: r.count })),
    kin,
    lastSplit: last,
    yields: splits.flatMap((b) => (typeof b.yield === "number" ? [b.yield] : [])),
  };
}

export type SupplierPrice = {
  part: string;
  supplier: string;
  batches: number;
  rejected: number;
  price: UsablePrice;
  feel: number | null;
  felt: number;
};

/** The price of a usable piece, supplier beside supplier, from every batch that was measured; with how fitted ones felt. */
export async function supplierPrices(db: Knex): Promise<SupplierPrice[]> {
  const { settings } = await loadSettings(db);
  const slipMinor = await slipMinorOf(db);
  const tallies = db("batch as b")
    .where("b.source", "bought")
    .leftJoin(
      db("piece_reading")
        .groupBy("batch_id")
        .select("batch_id")
        .select(
          db.raw(
            "count(*)::int as measured, count(*) filter (where verdict = 'bad')::int as bad, sum(took_ms)::float / 60000 as minutes",
          ),
        )
        .as("r"),
      "r.batch_id",
      "b.id",
    )
    .groupBy("b.part", "b.supplier")
    .orderBy(["b.part", "b.supplier"]);
  const rows = await rowsOf(
    tallies,
    { b: "batch" },
    "b.part",
    "b.supplier",
    computed<Record<"batches" | "rejected" | "pieces" | "cost" | "measured" | "bad" | "minutes", number>>(
      db.raw(
        `count(*)::int as batches, count(*) filter (where b.status in ('rejected','disposed'))::int as rejected, sum(b.pieces)::int as pieces,
         sum(b.cost_minor)::int as cost, coalesce(sum(r.measured), 0)::int as measured, coalesce(sum(r.bad), 0)::int as bad,
         coalesce(sum(r.minutes), 0)::float as minutes`,
      ),
    ),
  );
  const felt = await rowsOf(
    db("fitted as f")
      .join("batch as b", "b.id", "f.batch_id")
      .whereNotNull("f.feel")
      .groupBy("b.part", "b.supplier"),
    { f: "fitted", b: "batch" },
    "b.part",
    "b.supplier",
    computed<{ feel: number; felt: number }>(db.raw("avg(f.feel)::float as feel, count(*)::int as felt")),
  );
  return rows.map((r) => {
    const f = felt.find((x) => x.part === r.part && x.supplier === r.supplier);
    return {
      part: r.part,
      supplier: r.supplier,
      batches: r.batches,
      rejected: r.rejected,
      price: usablePrice(
        {
          pieces: r.pieces,
          costMinor: r.cost,
          measured: r.measured,
          bad: r.bad,
          minutes: r.minutes,
          slipMinor,
        },
        settings.rates,
      ),
      feel: f?.feel ?? null,
      felt: f?.felt ?? 0,
    };
  });
}
