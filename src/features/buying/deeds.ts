import "server-only";

import type { Knex } from "knex";

import type { DeedParsed } from "@/contract/deeds";
import { one } from "@/core/base/one";
import type { Lexicon } from "@/core/claim/lexicon";
import {
  type FamilyRecord,
  type ProspectBase,
  highestBid,
  readListing,
  suspectedOf,
} from "@/core/decide/buying";
import { type Family, familyOf } from "@/core/decide/families";
import type { ModelProfile } from "@/core/profile/profile";
import { modelByKey } from "@/features/models/deeds";
import { loadModelMoney, loadRoutes, routeRecord } from "@/features/routes/deeds";
import { loadLexicon } from "@/features/settings/lexicon";
import { loadSettings } from "@/features/settings/settings";
import { Refused, nothing, overtaken, stamp, together } from "@/platform/deed/base";
import { deed } from "@/platform/deed/declare";
import { untilNoted } from "@/platform/deed/noted";
import { offThread } from "@/platform/work/pool";

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
    const {
      rows,
    }: { rows: { faults: { place: string; measure: string | null }[] | null; units: number }[] } =
      await db.raw(
        `select faults, count(*)::int as units from
         (select jsonb_agg(distinct jsonb_build_object('place', f.place, 'measure', f.measure)) filter (where f.id is not null) as faults
          from unit u left join (
            select id, unit_id, place, measure from fault where status <> 'withdrawn'
            union all
            select s.id, s.unit_id, s.place, s.measure from symptom s join fault h on h.id = s.fault_id
            where h.status <> 'withdrawn') f on f.unit_id = u.id
          where u.profile_id in (select id from model_profile where key = ?) and u.reference_since is null
            and exists (select 1 from recording r where r.unit_id = u.id and r.purpose = 'full')
          group by u.id) tested
       group by faults`,
        [profile.id],
      );
    const tested = rows.reduce((s, r) => s + r.units, 0);
    const having = new Map<Family, number>();
    for (const r of rows)
      for (const family of new Set(
        (r.faults ?? []).flatMap((f) => familyOf(profile, f.place, f.measure) ?? []),
      ))
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

export const keepListing = deed(
  "listing.keep",
  { prepare: prospectFor },
  async ({ db, actor, note, prepared }, input) => {
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
  },
);

/** What the page begins with; each look can wish for another. */
export const WISHED_MARGIN = 500;

export const ACCEPTED_LOSS = 0.35;

export const settleListing = deed(
  "listing.settle",
  {},
  async ({ db, note }, { listingId, version, status }) => {
    const changed = await db("listing")
      .where({ id: listingId, version })
      .whereNot({ status: "arrived" })
      .update({ status, version: version + 1 });
    if (changed !== 1) throw overtaken();
    note("listing-settled", null, { listing: listingId, status });
    return nothing;
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [keepListing, settleListing] as const;
