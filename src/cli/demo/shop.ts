import { HOUSE_RISK, samplingPlan } from "@/core/parts/sampling";
import { SimulatedPiece } from "@/core/simulate/pieces";
import { listModels } from "@/features/models/deeds";
import { insertPerson } from "@/features/people/deeds";
import { loadSettings } from "@/features/settings/settings";
import { importShippedProfiles, shippedCatalogue } from "@/features/models/shipped";
import { DEMO_SHOP } from "./units";
import { one } from "@/core/base/one";

import type { Workshop } from "./workshop";

/** People, partners, the shelf and orders of the demonstration. */

export async function people(shop: Workshop): Promise<void> {
  for (const { name, role, password } of DEMO_SHOP.people) {
    const id = await insertPerson(shop.db, name, role, password);
    shop.actors.set(name, { id, name, role });
  }
  await nameShop(shop);
  await importShippedProfiles(shop.db, shop.actors.get("ida")!.id);
  shop.models = await listModels(shop.db);
}

async function nameShop(shop: Workshop): Promise<void> {
  const { settings, version } = await loadSettings(shop.db);
  await shop.deed("ida", 15.5 * 24, "settings.save", {
    version,
    settings: { ...settings, shopName: "Reedbed Controller Works", town: "Oxmere" },
  });
}

export async function partners(shop: Workshop): Promise<void> {
  for (const { name, contact } of DEMO_SHOP.customers)
    shop.ids.set(name, (await shop.deed("ida", 15 * 24, "customer.add", { name, contact })).id);
  for (const lot of DEMO_SHOP.lots)
    shop.ids.set(lot.code, (await shop.deed("ida", 14.5 * 24, "lot.add", lot)).id);
}

/** The catalogue and the shelf, each batch measured as far as its rule asks. */
export async function stock(shop: Workshop): Promise<void> {
  await shop.deed("ida", 15.2 * 24, "catalogue.save", { version: 0, catalogue: shippedCatalogue() });
  const { parts } = shippedCatalogue();
  for (const { part, supplier, pieces, costMinor, bin, daysAgo, measured, badShare } of DEMO_SHOP.shelf) {
    const made = await shop.deed("oona", daysAgo * 24, "stock.receive", {
      part,
      supplier,
      pieces,
      costMinor,
      bin,
      source: supplier ? "bought" : "found",
    });
    shop.ids.set(`${part} ${supplier}`, made.id);
    const check = parts.find((p) => p.code === part)!.check;
    if (!check || measured === 0) continue;
    for (let number = 1; number <= samplingPlan(pieces, HOUSE_RISK).sample; number++) {
      const piece = new SimulatedPiece(number * 977 + pieces, badShare, check.thicknessMm ? 2.1 : 1);
      const ohms = async () => {
        const got = await piece.read("ohms");
        return got.ok ? got.value : null;
      };
      const feelOf = () => {
        if (check.feelMin) {
          if (number % 4 === 0) return 3;
          return 4;
        }
        return null;
      };
      await shop.deed("oona", daysAgo * 24 - 0.01 * number, "batch.read", {
        batchId: made.id,
        number,
        reading: {
          ohms: check.imbalanceMax ? [await ohms(), await ohms()] : null,
          thicknessMm: check.thicknessMm ? (check.thicknessMm[0] + check.thicknessMm[1]) / 2 : null,
          feel: feelOf(),
          tells: check.tells ? [] : null,
        },
        instrument: "simulated meter and gauge",
        tookMs: Math.round(check.minutes * 60_000 * (0.8 + 0.05 * (number % 8))),
      });
    }
    const row = one(await shop.db("batch").where({ id: made.id }).first("version"));
    await shop.deed("oona", daysAgo * 24 - 1, "batch.judge", {
      batchId: made.id,
      version: row.version,
      verdict: "accept",
      why: "",
    });
  }
  const used = (part: string, supplier: string, count: number, why: string, daysAgo: number) =>
    shop.deed("bram", daysAgo * 24, "stock.take", {
      batchId: shop.ids.get(`${part} ${supplier}`)!,
      count,
      for: { kind: "use", unitId: null },
      why,
    });
  await used("ALCOHOL", "tidewater-parts", 380, "cleaning", 3);
  await used("SOLDER", "tidewater-parts", 22, "stick modules", 4);
  await used("SWABS", "longshore-packs", 90, "cleaning", 2);
}

/** Orders on their way, once the units are there. */
export async function orders(shop: Workshop): Promise<void> {
  await shop.deed("ida", 50, "order.place", {
    supplier: "harbour-originals",
    carriageMinor: 590,
    days: 8,
    lines: [{ part: "SM-DUN-O", pack: 1, packs: 2, costMinor: 1800 }],
  });
}

export async function listings(shop: Workshop): Promise<void> {
  for (const [i, l] of DEMO_SHOP.listings.entries())
    await shop.deed("ida", 40 - i * 9, "listing.keep", {
      ...l,
      status: (["watched", "bought", "passed"] as const)[i]!,
    });
}
