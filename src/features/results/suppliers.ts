import "server-only";

import type { Knex } from "knex";

import type { Report } from "@/contract/reports";
import { wilson } from "@/core/math/binomial";
import { computed, rowsOf } from "@/platform/db/joined";
import { say } from "@/features/results/words/words";
import { type Asked, barsOf, BOUNDS, columns, moments, reportOn } from "./base";

/** The report on suppliers of parts. */

/** What was bought from whom, by the day on which batches came. */
function bought(
  db: Knex,
  a: Asked,
): Promise<{ supplier: string; batches: number; rejected: number; pieces: number; cost: number }[]> {
  const [from, before] = moments(a);
  return rowsOf(
    db("batch as b")
      .where("b.at", ">=", from)
      .where("b.at", "<", before)
      .where({ source: "bought" })
      .groupBy("b.supplier"),
    { b: "batch" },
    "b.supplier",
    computed<{ batches: number }>(db.raw("count(*)::int as batches")),
    computed<{ rejected: number }>(
      db.raw("count(*) filter (where b.status in ('rejected', 'disposed'))::int as rejected"),
    ),
    computed<{ pieces: number }>(db.raw("sum(b.pieces)::int as pieces")),
    computed<{ cost: number }>(db.raw("sum(b.cost_minor)::float8 as cost")),
  );
}

/** Pieces that were measured at incoming inspection. */
function inspected(db: Knex, a: Asked): Promise<{ supplier: string; n: number; bad: number }[]> {
  const [from, before] = moments(a);
  return rowsOf(
    db("piece_reading as r")
      .join("batch as b", "b.id", "r.batch_id")
      .where("b.at", ">=", from)
      .where("b.at", "<", before)
      .groupBy("b.supplier"),
    { r: "piece_reading", b: "batch" },
    "b.supplier",
    computed<{ n: number }>(db.raw("count(*)::int as n")),
    computed<{ bad: number }>(db.raw("count(*) filter (where r.verdict = 'bad')::int as bad")),
  );
}

/** Pieces that were fitted, and those that came back for it. */
function fittedAndBack(db: Knex, a: Asked): Promise<{ supplier: string; n: number; back: number }[]> {
  const [from, before] = moments(a);
  return rowsOf(
    db("fitted as f")
      .join("batch as b", "b.id", "f.batch_id")
      .leftJoin("comeback as c", "c.fitted_id", "f.id")
      .where("f.at", ">=", from)
      .where("f.at", "<", before)
      .groupBy("b.supplier"),
    { f: "fitted", c: "comeback?", b: "batch" },
    "b.supplier",
    computed<{ n: number }>(db.raw("count(distinct f.id)::int as n")),
    computed<{ back: number }>(db.raw("count(distinct c.id)::int as back")),
  );
}

/** Suppliers of parts by the share of bad pieces, at inspection and in units that came back. */
export async function suppliersReport(db: Knex, a: Asked): Promise<Report> {
  const rows = await bought(db, a);
  const readings = await inspected(db, a);
  const fits = await fittedAndBack(db, a);
  const lines = rows
    .filter((r) => r.supplier !== "")
    .map((r) => {
      const m = readings.find((x) => x.supplier === r.supplier);
      const f = fits.find((x) => x.supplier === r.supplier);
      const [low, high] = wilson(m?.bad ?? 0, m?.n ?? 0);
      return {
        supplier: r.supplier.replaceAll("-", " "),
        batches: r.batches,
        rejected: r.rejected,
        spent: r.cost,
        measured: m?.n ?? 0,
        bad: m ? m.bad / m.n : null,
        low: m ? low : null,
        high: m ? high : null,
        fitted: f?.n ?? 0,
        back: f?.back ?? 0,
      };
    })
    .sort((x, y) => (x.bad ?? 2) - (y.bad ?? 2));
  return reportOn(a, {
    id: "suppliers",
    columns: columns(
      ["supplier", say("supplier")],
      ["batches", say("batches"), "count"],
      ["rejected", say("rejected"), "count"],
      ["spent", say("spent"), "money"],
      ["measured", say("piecesMeasured"), "count"],
      ["bad", say("bad"), "share"],
      ...BOUNDS,
      ["fitted", say("fitted"), "count"],
      ["back", say("cameBackForIt"), "count"],
    ),
    rows: lines,
    chart: {
      kind: "bars",
      bars: barsOf(
        lines,
        (l) => l.supplier,
        (l) => l.bad,
      ),
      unit: "share",
      axis: say("shareOfBadPiecesAtInspection"),
    },
    notes: [say("byTheDayOnWhichBatches"), ...(a.model || a.source ? [say("modelAndOriginDoNotApply")] : [])],
  });
}
