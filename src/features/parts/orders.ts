import "server-only";

import type { Knex } from "knex";

import type { PlanOffer, PlanProblem } from "@/core/allocate/problem";
import { one } from "@/core/base/one";
import { dayOf, daysLater } from "@/core/days/days";
import { partOf, piecePrice } from "@/core/parts/catalogue";
import { type Reorder, reorder } from "@/core/parts/reorder";
import { loadSettings } from "@/features/settings/settings";
import { loadCatalogue } from "@/features/stock/catalogue";
import { freeStock } from "@/features/stock/deeds";
import { nextOf, rowsOf } from "@/platform/db/joined";
import { Refused, nothing, stamp, together } from "@/platform/deed/base";
import { deed } from "@/platform/deed/declare";
import { missingLines, type MissingLine } from "./missing";
import { offersOf } from "./supply";
import { demandOf, onTheWay } from "./supply";

export type BuyLine = Reorder & {
  part: string;
  name: string;
  free: number;
  onOrder: number;
  backlog: number;
  perWeek: number;
  weeks: number;
  leadDays: number;
  pieceMinor: number;
};

export type OrderView = {
  id: string;
  code: string;
  supplier: string;
  status: string;
  expectedOn: string;
  by: string;
  carriageMinor: number;
  lines: { id: string; part: string; pieces: number; costMinor: number; batch: string | null }[];
};

export type BuyingList = {
  lines: BuyLine[];
  offers: PlanOffer[];
  suppliers: PlanProblem["suppliers"];
  leads: Record<string, number>;
  orders: OrderView[];
  /** pieces that the shop's own units came without */
  missing: MissingLine[];
};

/** What the backlog and the expected demand need: per part its reorder point and how many to order now. */
export async function buyingList(db: Knex, backlog: ReadonlyMap<string, number>): Promise<BuyingList> {
  const [{ value: catalogue }, { settings }, stock, demand, orders, missing] = await together(
    db,
    () => loadCatalogue(db),
    () => loadSettings(db),
    () => freeStock(db),
    () => demandOf(db),
    () => ordersOf(db),
    () => missingLines(db),
  );
  const onOrder = await onTheWay(db);
  const lines = catalogue.parts.flatMap((p): BuyLine[] => {
    const price = piecePrice(catalogue, p.code);
    const d = demand.get(p.code) ?? { perWeek: 0, weeks: 0 };
    const wanted = backlog.get(p.code) ?? 0;
    const free = stock.find((s) => s.part === p.code)?.count ?? 0;
    const runningOut = p.low > 0 && free < p.low;
    if (!price || (d.perWeek === 0 && wanted === 0 && !runningOut)) return [];
    const carriage = Math.min(
      ...catalogue.offers
        .filter((o) => o.part === p.code)
        .map((o) => catalogue.suppliers.find((s) => s.id === o.supplier)?.carriageMinor ?? 0),
    );
    const r = reorder({
      demand: d,
      leadDays: price.leadDays,
      free,
      onOrder: onOrder.get(p.code) ?? 0,
      backlog: wanted,
      pieceMinor: price.minor,
      orderMinor: carriage,
      waitPerDay: settings.rates.shelfPerDay + Math.round(settings.rates.labourPerHour / 60),
    });
    const coming = onOrder.get(p.code) ?? 0;
    const quantity = runningOut ? Math.max(r.quantity, Math.ceil(p.low - free - coming)) : r.quantity;
    return [
      {
        ...r,
        quantity,
        why: quantity > r.quantity ? "below-point" : r.why,
        point: Math.max(r.point, Math.ceil(p.low)),
        part: p.code,
        name: p.name,
        free,
        onOrder: coming,
        backlog: wanted,
        perWeek: d.perWeek,
        weeks: d.weeks,
        leadDays: price.leadDays,
        pieceMinor: price.minor,
      },
    ];
  });
  return {
    lines,
    offers: offersOf(catalogue).map((o) => ({ ...o, mostPacks: 40 })),
    suppliers: catalogue.suppliers.map((s) => ({
      id: s.id,
      carriageMinor: s.carriageMinor,
      freeFromMinor: s.freeFromMinor,
    })),
    leads: Object.fromEntries(catalogue.offers.map((o) => [`${o.supplier} ${o.part} ${o.pack}`, o.leadDays])),
    orders,
    missing,
  };
}

async function ordersOf(db: Knex): Promise<OrderView[]> {
  const rows = await rowsOf(
    db("purchase_order as o").join("person as p", "p.id", "o.by").orderBy("o.at", "desc").limit(50),
    { o: "purchase_order", p: "person" },
    "o.*",
    "p.name as person",
  );
  const lines = await rowsOf(
    db("order_line as l")
      .leftJoin("batch as b", "b.id", "l.batch_id")
      .whereIn(
        "order_id",
        rows.map((r) => r.id),
      )
      .orderBy("l.part"),
    { l: "order_line", b: "batch?" },
    "l.*",
    "b.code",
  );
  return rows.map((o) => ({
    id: o.id,
    code: o.code,
    supplier: o.supplier,
    status: o.status,
    expectedOn: o.expected_on,
    by: o.person,
    carriageMinor: o.carriage_minor,
    lines: lines
      .filter((l) => l.order_id === o.id)
      .map((l) => ({
        id: l.id,
        part: l.part,
        pieces: l.pack * l.packs,
        costMinor: l.cost_minor,
        batch: l.code,
      })),
  }));
}

export const placeOrder = deed("order.place", {}, async ({ db, actor, note }, input) => {
  const { value: catalogue } = await loadCatalogue(db);
  const stranger = input.lines.find((l) => !partOf(catalogue, l.part));
  if (stranger) throw new Refused({ code: "part-unknown", part: stranger.part });
  const { settings } = await loadSettings(db);
  const n = await nextOf(db, "order_number");
  const code = `O-${String(n).padStart(4, "0")}`;
  const row = one(
    (
      await db("purchase_order")
        .insert({
          code,
          supplier: input.supplier,
          carriage_minor: input.carriageMinor,
          expected_on: daysLater(dayOf(actor.at ?? new Date(), settings.timeZone), input.days),
          ...stamp(db, actor),
        })
        .returning("id")
    )[0],
  );
  await db("order_line").insert(
    input.lines.map((l) => ({
      order_id: row.id,
      part: l.part,
      pack: l.pack,
      packs: l.packs,
      cost_minor: l.costMinor,
    })),
  );
  note("order-placed", null, { order: code, supplier: input.supplier, lines: input.lines.length });
  return { code };
});

export const cancelOrder = deed("order.cancel", {}, async ({ db, note }, { orderId }) => {
  const rows = await db("purchase_order")
    .where({ id: orderId, status: "open" })
    .update({ status: "cancelled" })
    .returning("code");
  if (rows.length !== 1) throw new Refused({ code: "already", what: "order" });
  note("order-cancelled", null, { order: one(rows[0]).code });
  return nothing;
});

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [cancelOrder, placeOrder] as const;
