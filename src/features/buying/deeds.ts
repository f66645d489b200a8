import "server-only";

import type { Knex } from "knex";

import type { DeedParsed } from "@/contract/deeds";
import type { EventKind } from "@/contract/events";

import { type FamilyRecord, highestBid, type ProspectBase, readListing, suspectedOf } from "@/core/decide/buying";
import { type Family, familyOf } from "@/core/decide/families";
import type { SpreadWay } from "@/core/decide/lot";
import type { Lexicon } from "@/core/claim/lexicon";
import type { ModelProfile } from "@/core/profile/profile";
import { nothing, overtaken, Refused, stamp, together } from "@/platform/deed/base";
import { loadModelMoney, loadRoutes, routeRecord } from "@/features/decide/deeds";
import { loadLexicon } from "@/features/settings/lexicon";
import { listModels, modelByKey } from "@/features/models/deeds";
import { untilNoted } from "@/platform/deed/noted";
import { loadSettings } from "@/features/settings/settings";
import { deed } from "@/platform/deed/declare";
import { one } from "@/core/base/one";
import { offThread } from "@/platform/work/pool";
import { computed, countOf, rowsOf } from "@/platform/db/joined";

/** Buying: listings, lots and sellers. */

export type BuyBase = Omit<ProspectBase, "profile"> & { profile: ModelProfile };

/** What a bid on one model is worked out from. */
export async function buyBase(
  db: Knex,
  key: string,
): Promise<{ base: BuyBase; families: FamilyRecord; lexicon: Lexicon } | null> {
  const profile = await modelByKey(db, key);
  if (!profile) return null;
  const [{ value: routes }, { value: money }, record, { settings }, { lexicon }, families] = await together(
    db,
    () => loadRoutes(db),
    () => loadModelMoney(db, profile.body),
    () => routeRecord(db),
    () => loadSettings(db),
    () => loadLexicon(db),
    () => familyRecord(db, profile.body),
  );
  const { wiring: _wiring, ...slim } = profile.body; // the graph is not needed to bid
  return {
    base: {
      profile: slim,
      revision: null,
      market: money.market,
      rates: settings.rates,
      routes,
      record,
      rules: money.rules.map(({ family, also, route }) => ({ family, also, route })),
    },
    families,
    lexicon,
  };
}

/** Of the units of a model that had a full test here: how many had a fault of each family. */
const familyRecord = (db: Knex, profile: ModelProfile): Promise<FamilyRecord> =>
  untilNoted(db, `families ${profile.id}`, ["recording-stored", "fault-named", "fault-settled"], async () => {
    const { rows }: { rows: { faults: { place: string; measure: string | null }[] | null; units: number }[] } = await db.raw(
      `select faults, count(*)::int as units from
         (select jsonb_agg(distinct jsonb_build_object('place', f.place, 'measure', f.measure)) filter (where f.id is not null) as faults
          from unit u left join fault f on f.unit_id = u.id and f.status <> 'withdrawn'
          where u.profile_id in (select id from model_profile where key = ?) and u.reference_since is null
            and exists (select 1 from recording r where r.unit_id = u.id and r.purpose = 'full')
          group by u.id) tested
       group by faults`,
      [profile.id],
    );
    const tested = rows.reduce((s, r) => s + r.units, 0);
    const having = new Map<Family, number>();
    for (const r of rows)
      for (const family of new Set((r.faults ?? []).flatMap((f) => familyOf(profile, f.place, f.measure) ?? [])))
        having.set(family, (having.get(family) ?? 0) + r.units);
    return Object.fromEntries([...having].map(([family, yes]) => [family, { yes, no: tested - yes }]));
  });

export const MOST_SECONDS = 20;

/** What a listing says and may bring, on another thread. */
async function prospectFor({ profileKey, words }: DeedParsed<"listing.keep">, db: Knex) {
  const loaded = await buyBase(db, profileKey);
  if (!loaded) throw new Refused({ code: "not-found", what: "model" });
  const { base, families, lexicon } = loaded;
  const reading = readListing(words, base.profile, lexicon);
  const suspected = suspectedOf(base.profile, reading, families);
  return { reading, prospect: await offThread("prospect", { base, suspected }, MOST_SECONDS) };
}

export const keepListing = deed("listing.keep", { prepare: prospectFor }, async ({ db, actor, note, prepared }, input) => {
  const { reading, prospect } = prepared;
  const row = one(
    (
      await db("listing")
        .insert({
          profile_key: input.profileKey,
          words: input.words,
          seller: input.seller,
          price_minor: input.priceMinor,
          carriage_minor: input.carriageMinor,
          status: input.status,
          risk: reading.risk,
          worth_minor: Math.round(prospect.worth),
          highest_minor: highestBid(prospect, input.carriageMinor, WISHED_MARGIN, ACCEPTED_LOSS).bid,
          ...stamp(db, actor),
        })
        .returning("id")
    )[0],
  );
  note("listing-kept", null, { listing: row.id, status: input.status });
  return { id: row.id };
});

/** What the page begins with; each look can wish for another. */
export const WISHED_MARGIN = 500;
export const ACCEPTED_LOSS = 0.35;

export const settleListing = deed("listing.settle", {}, async ({ db, note }, { listingId, version, status }) => {
  const changed = await db("listing")
    .where({ id: listingId, version })
    .whereNot({ status: "arrived" })
    .update({ status, version: version + 1 });
  if (changed !== 1) throw overtaken();
  note("listing-settled", null, { listing: listingId, status });
  return nothing;
});

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
export type SellerView = {
  seller: string;
  units: number;
  closed: number;
  marginMinor: number;
  faultsFound: number;
  faultsClaimed: number;
  poorParcels: number;
  differs: number;
};
export type ClaimLine = { tag: string; seller: string; until: string; why: "differs" | "more-faults" | "not-tested" };

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

/** Lots with units in house or still to come, then the newest; and the one that somebody asks for, before all others. */
async function lotsView(db: Knex, code: string | null): Promise<Pick<BuyingView, "lots" | "lotCount" | "lotAsked">> {
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
      db("unit as u").join("model_profile as p", "p.id", "u.profile_id").whereIn("u.lot_id", ids).orderBy("u.tag"),
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
      db("lot_spread as s").join("person", "person.id", "s.by").whereIn("s.lot_id", ids).orderBy("s.at", "desc"),
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

const SELLER_DAYS = 730;
const SELLER_KINDS: readonly EventKind[] = [
  "unit-taken-in",
  "unit-ended",
  "unit-reopened",
  "unit-handed-over",
  "unit-came-back",
  "intake-changed",
  "fault-named",
  "fault-settled",
  "lot-spread",
];

/** Every seller of bought units of the last two years: what came of them, and how they came. */
async function sellersView(db: Knex): Promise<SellerView[]> {
  const rows = await rowsOf(
    db("outcome as o")
      .whereNot({ "o.source": "customer" })
      .whereNot({ "o.seller": "" })
      .whereRaw("o.closed_at > now() - make_interval(days => ?)", [SELLER_DAYS])
      .groupBy("o.seller"),
    { o: "outcome" },
    "o.seller",
    computed<{ closed: number }>(db.raw("count(*)::int as closed")),
    computed<{ margin: number }>(db.raw("sum(o.margin_minor)::int as margin")),
    computed<{ found: number }>(db.raw("sum(o.faults)::int as found")),
    computed<{ claimed: number }>(db.raw("sum(o.faults_claimed)::int as claimed")),
    computed<{ poor: number }>(db.raw("count(*) filter (where o.poor_parcel)::int as poor")),
    computed<{ differs: number }>(db.raw("count(*) filter (where o.differed)::int as differs")),
  );
  const inHouse = db("unit as u")
    .leftJoin(
      db("fault")
        .whereNot({ status: "withdrawn" })
        .whereIn("unit_id", db("unit").whereNull("ending").select("id"))
        .groupBy("unit_id")
        .select("unit_id", db.raw("count(*)::int as found"), db.raw("count(*) filter (where claimed)::int as claimed"))
        .as("f"),
      "f.unit_id",
      "u.id",
    )
    .whereNull("u.ending")
    .whereNot({ "u.source": "customer" })
    .whereNot({ "u.seller": "" })
    .groupBy("u.seller");
  const open = await rowsOf(
    inHouse,
    { u: "unit" },
    "u.seller",
    computed<{ units: number } & Record<"found" | "claimed" | "poor" | "differs", number>>(
      db.raw(
        `count(*)::int as units, coalesce(sum(f.found), 0)::int as found, coalesce(sum(f.claimed), 0)::int as claimed,
         count(*) filter (where u.intake->>'parcel' in ('poor', 'damaged'))::int as poor,
         count(*) filter (where u.intake->>'differs' <> '')::int as differs`,
      ),
    ),
  );
  const names = [...new Set([...rows, ...open].map((r) => r.seller))];
  return names
    .map((seller) => {
      const c = rows.find((r) => r.seller === seller);
      const o = open.find((r) => r.seller === seller);
      const both = (key: "found" | "claimed" | "poor" | "differs"): number => (c?.[key] ?? 0) + (o?.[key] ?? 0);
      return {
        seller,
        units: (c?.closed ?? 0) + (o?.units ?? 0),
        closed: c?.closed ?? 0,
        marginMinor: c?.margin ?? 0,
        faultsFound: both("found"),
        faultsClaimed: both("claimed"),
        poorParcels: both("poor"),
        differs: both("differs"),
      };
    })
    .sort((a, b) => b.marginMinor / Math.max(1, b.closed) - a.marginMinor / Math.max(1, a.closed));
}

/** Bought units whose seller can still be asked, while something speaks for asking. */
async function claimsView(db: Knex, days: number): Promise<ClaimLine[]> {
  const rows = await rowsOf(
    db("unit as u")
      .whereNot("u.source", "customer")
      .whereNull("u.ending")
      .whereNull("u.reference_since")
      .whereRaw("u.received_at > now() - make_interval(days => ?)", [days])
      .orderBy("u.received_at"),
    { u: "unit" },
    "u.tag",
    "u.seller",
    "u.received_at",
    "u.intake",
    computed<{ more: number }>(
      db.raw("(select count(*)::int from fault f where f.unit_id = u.id and not f.claimed and f.status <> 'withdrawn') as more"),
    ),
    computed<{ tested: boolean }>(db.raw("exists (select 1 from recording r where r.unit_id = u.id) as tested")),
  );
  return rows.flatMap((r): ClaimLine[] => {
    const why = r.intake.differs ? "differs" : r.more > 0 ? "more-faults" : !r.tested ? "not-tested" : null;
    const until = new Date(r.received_at.getTime() + days * 24 * 3600_000).toISOString();
    return why ? [{ tag: r.tag, seller: r.seller, until, why }] : [];
  });
}

/** A listing that was bought and has not arrived, to fill in the intake; null for any other. */
export async function boughtListing(
  db: Knex,
  id: string,
): Promise<{ id: string; modelKey: string; words: string; seller: string; priceMinor: number; carriageMinor: number } | null> {
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
