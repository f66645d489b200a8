import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { labourOf } from "@/core/money/rates";
import { type PieceFinding, type PieceReading, type UsablePrice, usablePrice } from "@/core/parts/inspection";
import {
  type BatchVerdict,
  type Risk,
  type SamplingPlan,
  badShare,
  batchVerdict,
  samplingPlan,
} from "@/core/parts/sampling";
import { loadSettings } from "@/features/settings/settings";
import { computed, rowOf, rowsOf } from "@/platform/db/joined";
import type { BatchRow } from "@/platform/db/tables";
import { WORK_AGAIN, counted, familyOf } from "./batch-rows";
import { type Split, lastSplit } from "./split";

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

async function readingsOf(db: Knex, batchId: Id<"batch">): Promise<BatchView["readings"]> {
  const rows = await rowsOf(
    db("piece_reading as r")
      .join("person as p", "p.id", "r.by")
      .where({ batch_id: batchId })
      .orderBy("number"),
    { r: "piece_reading", p: "person" },
    "r.*",
    "p.name as person",
  );
  return rows.map(({ number, verdict, findings, body, person, at }) => ({
    number,
    verdict,
    findings,
    body,
    by: person,
    at: at.toISOString(),
  }));
}

async function movementsOf(db: Knex, batchId: Id<"batch">): Promise<BatchView["movements"]> {
  const rows = await rowsOf(
    db("movement as m")
      .join("person as p", "p.id", "m.by")
      .leftJoin("unit as u", "u.id", "m.unit_id")
      .where({ batch_id: batchId })
      .orderBy("m.id", "desc"),
    { m: "movement", u: "unit?", p: "person" },
    "m.*",
    "p.name as person",
    "u.tag",
  );
  return rows.map(({ kind, delta, minor, tag, why, person, at }) => ({
    kind,
    delta,
    minor,
    unit: tag,
    why,
    by: person,
    at: at.toISOString(),
  }));
}

async function reservationsOf(db: Knex, batchId: Id<"batch">): Promise<BatchView["reservations"]> {
  const rows = await rowsOf(
    db("reservation as r")
      .join("unit as u", "u.id", "r.unit_id")
      .where({ batch_id: batchId, status: "open" }),
    { r: "reservation", u: "unit" },
    "r.*",
    "u.tag",
  );
  return rows.map((r) => ({ id: r.id, unit: r.tag, slot: r.slot, count: r.count }));
}

/** Of each taking apart that stands: the share of good pieces. */
async function yieldsOf(db: Knex, code: string): Promise<number[]> {
  const splits: { yield?: unknown }[] = await db("event")
    .where({ kind: "batch-split" })
    .whereRaw("body->>'batch' = ?", [code])
    .whereNotExists(
      db("event as j").where({ "j.kind": "batch-joined" }).whereRaw("(j.body->>'split')::bigint = event.id"),
    )
    .orderBy("id")
    .pluck("body");
  return splits.flatMap((b) => (typeof b.yield === "number" ? [b.yield] : []));
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
  const [count, readings, holders, movements, reservations, slipMinor, kin, yields, last] = await Promise.all(
    [
      counted(db, row.id),
      readingsOf(db, row.id),
      holdersOf(db, row.id),
      movementsOf(db, row.id),
      reservationsOf(db, row.id),
      slipMinorOf(db),
      db("batch").where({ from_batch_id: row.id }).orderBy("code").select("code", "status"),
      yieldsOf(db, row.code),
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
    readings,
    holders,
    movements,
    reservations,
    kin,
    lastSplit: last,
    yields,
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

/**
 * The price of a usable piece, supplier beside supplier, from every batch that was measured; with how fitted
 * ones felt.
 */
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
