import "server-only";

import type { Knex } from "knex";

import type { SpreadWay } from "@/core/decide/lot";
import { listModels } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { countOf, rowsOf } from "@/platform/db/joined";
import { untilNoted } from "@/platform/deed/noted";
import { type ClaimLine, SELLER_KINDS, type SellerView, claimsView, sellersView } from "./sellers";

/** What the Buying page shows. */

export type ListingView = {
  id: string;
  model: string;
  modelKey: string;
  words: string;
  seller: string;
  priceMinor: number;
  carriageMinor: number;
  risk: string;
  worthMinor: number;
  highestMinor: number | null;
  status: "watched" | "bought" | "passed" | "arrived";
  version: number;
  at: string;
};

export type LotView = {
  id: string;
  code: string;
  seller: string;
  costMinor: number;
  carriageMinor: number;
  way: SpreadWay;
  version: number;
  unitsPromised: number | null;
  units: {
    id: string;
    tag: string;
    model: string;
    role: string;
    shareMinor: number | null;
    handMinor: number | null;
    claim: string;
  }[];
  toComeMinor: number;
  history: { way: string; why: string; by: string; at: string; shares: { unit: string; minor: number }[] }[];
};

export type BuyingView = {
  listings: ListingView[];
  lots: LotView[];
  /** how many lots there are; only some of them are shown */
  lotCount: number;
  lotAsked: { code: string; found: boolean } | null;
  sellers: SellerView[];
  claims: ClaimLine[];
  models: { key: string; name: string }[];
};

/** `lotCode`: a lot to show beside those that are open and the newest. */
export async function buyingView(db: Knex, lotCode: string | null): Promise<BuyingView> {
  const { settings } = await loadSettings(db);
  const [models, listings, lots, sellers, claims] = await Promise.all([
    listModels(db),
    db("listing").orderBy("at", "desc").limit(60),
    lotsView(db, lotCode),
    untilNoted(db, "sellers", SELLER_KINDS, () => sellersView(db)),
    claimsView(db, settings.rates.claimDays),
  ]);
  const nameOf = new Map(models.map((m) => [m.key, m.body.name]));
  return {
    models: models.map((m) => ({ key: m.key, name: m.body.name })),
    listings: listings.map((l) => ({
      id: l.id,
      model: nameOf.get(l.profile_key) ?? l.profile_key,
      modelKey: l.profile_key,
      words: l.words,
      seller: l.seller,
      priceMinor: l.price_minor,
      carriageMinor: l.carriage_minor,
      risk: l.risk,
      worthMinor: l.worth_minor,
      highestMinor: l.highest_minor,
      status: l.status,
      version: l.version,
      at: l.at.toISOString(),
    })),
    ...lots,
    sellers,
    claims,
  };
}

const MOST_LOTS = 12;

/**
 * Lots with units in house or still to come, then the newest; and the one that somebody asks for, before all
 * others.
 */
async function lotsView(
  db: Knex,
  code: string | null,
): Promise<Pick<BuyingView, "lots" | "lotCount" | "lotAsked">> {
  const open = db.raw(
    `(exists (select 1 from unit u where u.lot_id = lot.id and u.ending is null)
      or coalesce(lot.units_promised, 0) > (select count(*) from unit u where u.lot_id = lot.id)) desc`,
  );
  const [count, shown, asked] = await Promise.all([
    countOf(db("lot")),
    rowsOf(db("lot").orderByRaw(open).orderBy("at", "desc").limit(MOST_LOTS), { lot: "lot" }, "lot.*"),
    rowsOf(db("lot").whereRaw("upper(code) = upper(?)", [code ?? ""]), { lot: "lot" }, "lot.*"),
  ]);
  const lots = [...asked, ...shown.filter((l) => l.id !== asked[0]?.id)];
  const ids = lots.map((l) => l.id);
  const [units, spreads] = await Promise.all([
    rowsOf(
      db("unit as u")
        .join("model_profile as p", "p.id", "u.profile_id")
        .whereIn("u.lot_id", ids)
        .orderBy("u.tag"),
      { u: "unit", p: "model_profile" },
      "u.id",
      "u.lot_id",
      "u.tag",
      "u.ending",
      "u.stage",
      "u.claim",
      "u.lot_share_minor",
      "u.hand_share_minor",
      "p.name as model",
    ),
    rowsOf(
      db("lot_spread as s")
        .join("person", "person.id", "s.by")
        .whereIn("s.lot_id", ids)
        .orderBy("s.at", "desc"),
      { s: "lot_spread", person: "person" },
      "s.*",
      "person.name as person",
    ),
  ]);
  const views = lots.map((l): LotView => {
    const mine = units.filter((u) => u.lot_id === l.id);
    const cost = l.price_minor + l.carriage_minor;
    return {
      id: l.id,
      code: l.code,
      seller: l.seller,
      costMinor: cost,
      carriageMinor: l.carriage_minor,
      way: l.spread_way,
      version: l.version,
      unitsPromised: l.units_promised,
      toComeMinor: mine.length ? cost - mine.reduce((s, u) => s + (u.lot_share_minor ?? 0), 0) : cost,
      units: mine.map((u) => ({
        id: u.id,
        tag: u.tag,
        model: u.model,
        role: u.ending ?? "in house",
        shareMinor: u.lot_share_minor,
        handMinor: u.hand_share_minor,
        claim: u.claim,
      })),
      history: spreads
        .filter((s) => s.lot_id === l.id)
        .slice(0, 12)
        .map((s) => ({ way: s.way, why: s.why, by: s.person, at: s.at.toISOString(), shares: s.shares })),
    };
  });
  return { lots: views, lotCount: count, lotAsked: code ? { code, found: asked.length > 0 } : null };
}

/** A listing that was bought and has not arrived, to fill in the intake; null for any other. */
export async function boughtListing(
  db: Knex,
  id: string,
): Promise<{
  id: string;
  modelKey: string;
  words: string;
  seller: string;
  priceMinor: number;
  carriageMinor: number;
} | null> {
  if (!/^[0-9a-f-]{36}$/i.test(id)) return null;
  const l = await db("listing").where({ id, status: "bought" }).first();
  return l
    ? {
        id: l.id,
        modelKey: l.profile_key,
        words: l.words,
        seller: l.seller,
        priceMinor: l.price_minor,
        carriageMinor: l.carriage_minor,
      }
    : null;
}
