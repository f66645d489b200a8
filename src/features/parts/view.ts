import "server-only";

import type { Knex } from "knex";

import type { Catalogue } from "@/core/parts/catalogue";
import type { ModelProfile } from "@/core/profile/profile";
import type { Slot } from "@/core/profile/slots";
import { type BuyingList, buyingList } from "./orders";
import { type PlanView, planView } from "./plan";
import { type WakeUp, wakeUps } from "./wake-ups";
import { type SupplierPrice, supplierPrices } from "@/features/stock/batch-view";
import { type DonorView, listDonors } from "./donors";
import { listModels } from "@/features/models/deeds";
import { loadCatalogue } from "@/features/stock/catalogue";
import { rowsOf } from "@/platform/db/joined";
import { say } from "@/features/parts/words/words";

/** What the Parts page shows, tab by tab: only what the tab needs is loaded. */

export type StockLine = {
  id: string;
  code: string;
  part: string;
  name: string;
  cls: string;
  bin: string;
  onHand: number;
  reserved: number;
  valueMinor: number;
  status: string;
  supplier: string;
  source: string;
  unit: string;
  low: boolean;
  uses: string;
  version: number;
  at: string;
};
export type FitModel = { id: string; name: string; revisions: { id: string; name: string }[]; slots: Slot[] };

export async function stockLines(db: Knex, catalogue: Catalogue): Promise<StockLine[]> {
  const rows = await rowsOf(
    db("batch as b")
      .leftJoin("unit as u", "u.id", "b.donor_unit_id")
      // what is used up long ago is found by its code, not in the list
      .whereRaw("b.on_hand > 0 or b.status in ('waiting', 'rejected') or b.at > now() - interval '90 days'")
      .orderBy("b.code", "desc"),
    { b: "batch", u: "unit?" },
    "b.*",
    "u.tag",
  );
  const open = new Map<string, number>();
  for (const r of rows) if (r.status === "open") open.set(r.part, (open.get(r.part) ?? 0) + r.on_hand);
  return rows.map((r) => {
    const part = catalogue.parts.find((p) => p.code === r.part);
    return {
      id: r.id,
      code: r.code,
      part: r.part,
      name: part?.name ?? r.part,
      cls: part?.class ?? "part",
      bin: r.bin,
      onHand: r.on_hand,
      reserved: r.reserved,
      valueMinor: r.value_minor,
      status: r.status,
      supplier: r.tag
        ? say("outOfTag", { tag: r.tag })
        : (catalogue.suppliers.find((s) => s.id === r.supplier)?.name ?? r.supplier),
      source: r.source,
      unit: part?.unit ?? "piece",
      low: part !== undefined && part.low > 0 && (open.get(r.part) ?? 0) < part.low,
      uses: part?.uses ?? "",
      version: r.version,
      at: r.at.toISOString(),
    };
  });
}

export const fitModels = async (db: Knex): Promise<FitModel[]> =>
  (await listModels(db)).map(({ body }: { body: ModelProfile }) => ({
    id: body.id,
    name: body.name,
    revisions: body.revisions.map((r) => ({ id: r.id, name: r.name })),
    slots: body.slots ?? [],
  }));

export const PART_TABS = ["stock", "catalogue", "suppliers", "donors", "plan", "buy"] as const;
export type PartTab = (typeof PART_TABS)[number];

export type PartsView = {
  catalogue: Catalogue;
  version: number;
  stock: StockLine[];
  wakes: WakeUp[];
  models: FitModel[];
  suppliers: SupplierPrice[];
  donors: DonorView[];
  plan: PlanView | null;
  buy: BuyingList | null;
};

export async function partsView(db: Knex, tab: PartTab, hours: number): Promise<PartsView> {
  const { value: catalogue, version } = await loadCatalogue(db);
  const plan = tab === "plan" || tab === "buy" ? await planView(db, hours) : null;
  return {
    catalogue,
    version,
    stock: tab === "stock" || tab === "catalogue" ? await stockLines(db, catalogue) : [],
    wakes: tab === "stock" ? await wakeUps(db) : [],
    models: tab === "catalogue" ? await fitModels(db) : [],
    suppliers: tab === "suppliers" ? await supplierPrices(db) : [],
    donors: tab === "donors" ? await listDonors(db) : [],
    plan: tab === "plan" ? plan : null,
    buy: tab === "buy" ? await buyingList(db, await reservedShort(db, plan!)) : null,
  };
}

/**
 * Pieces that the backlog calls for: the needs of each unit's best way to mend, one way a unit, by what is on
 * the shelf, else by the cheapest part that fits.
 */
async function reservedShort(db: Knex, plan: PlanView): Promise<Map<string, number>> {
  const held = await db("reservation").where({ status: "open" }).select("unit_id", "slot");
  const wanted = new Map<string, number>();
  const left = new Map(plan.problem.stock.map((s) => [s.part, s.count]));
  const price = (part: string) =>
    Math.min(
      ...plan.problem.offers.filter((o) => o.part === part).map((o) => o.breaks[0]!.priceMinor / o.pack),
    );
  const cheapest = (parts: readonly string[]) =>
    parts.reduce<string | null>((a, p) => (a === null || price(p) < price(a) ? p : a), null);
  for (const u of plan.problem.units) {
    const best = u.options.filter((o) => o.choice === "mend").sort((a, b) => b.value - a.value)[0];
    for (const n of best?.needs ?? []) {
      if (held.some((h) => h.unit_id === u.id && h.slot === n.slot)) continue;
      const part = n.from.find((p) => (left.get(p) ?? 0) >= n.count) ?? cheapest(n.from);
      if (!part) continue;
      left.set(part, (left.get(part) ?? 0) - n.count);
      wanted.set(part, (wanted.get(part) ?? 0) + n.count);
    }
  }
  return wanted;
}
