import "server-only";

import type { Knex } from "knex";

import type { PlanOffer } from "@/core/allocate/problem";
import type { Catalogue } from "@/core/parts/catalogue";
import { computed, figuresOf, rowsOf } from "@/platform/db/joined";

/** How fast parts are used, what is on its way, and who offers them. */

/** Pieces that left the shelf a week, over the last half year or since the first. */
export const demandOf = async (db: Knex): Promise<Map<string, { perWeek: number; weeks: number }>> => {
  const first = await figuresOf<{ at: Date | null }>(db("fitted"), db.raw("min(at) as at"));
  const weeks = first.at
    ? Math.max(1, Math.min(26, (Date.now() - first.at.getTime()) / (7 * 24 * 3600_000)))
    : 0;
  if (weeks === 0) return new Map();
  const rows = await rowsOf(
    db("fitted").whereNotNull("batch_id").whereRaw("at > now() - interval '26 weeks'").groupBy("part"),
    { fitted: "fitted" },
    "fitted.part",
    computed<{ used: number }>(db.raw("sum(count)::int as used")),
  );
  return new Map(rows.map((r) => [r.part, { perWeek: r.used / weeks, weeks }]));
};

/** Pieces that are ordered and not here, or here and not yet measured, by part. */
export async function onTheWay(db: Knex): Promise<Map<string, number>> {
  const waiting = await rowsOf(
    db("batch").where({ status: "waiting" }).groupBy("part"),
    { batch: "batch" },
    "batch.part",
    computed<{ n: number }>(db.raw("sum(on_hand)::int as n")),
  );
  const ordered = await rowsOf(
    db("order_line as l")
      .join("purchase_order as o", "o.id", "l.order_id")
      .where({ "o.status": "open", "l.batch_id": null })
      .groupBy("l.part"),
    { l: "order_line", o: "purchase_order" },
    "l.part",
    computed<{ n: number }>(db.raw("sum(l.pack * l.packs)::int as n")),
  );
  const all = new Map<string, number>();
  for (const r of [...waiting, ...ordered]) all.set(r.part, (all.get(r.part) ?? 0) + r.n);
  return all;
}

const MOST_PACKS = 12;
export const offersOf = (c: Catalogue): PlanOffer[] =>
  c.offers.map((o) => ({
    id: `${o.supplier} ${o.part} ${o.pack}`,
    supplier: o.supplier,
    part: o.part,
    pack: o.pack,
    breaks: o.breaks,
    mostPacks: MOST_PACKS,
  }));
