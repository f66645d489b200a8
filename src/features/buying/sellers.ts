import "server-only";

import type { Knex } from "knex";

import type { EventKind } from "@/contract/events";
import { computed, rowsOf } from "@/platform/db/joined";

/** Sellers by what their units turned out to be, and claims that can still be made. */

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

export type ClaimLine = {
  tag: string;
  seller: string;
  until: string;
  why: "differs" | "more-faults" | "not-tested";
};

const SELLER_DAYS = 730;

export const SELLER_KINDS: readonly EventKind[] = [
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
export async function sellersView(db: Knex): Promise<SellerView[]> {
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
        .select(
          "unit_id",
          db.raw("count(*)::int as found"),
          db.raw("count(*) filter (where claimed)::int as claimed"),
        )
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
      const both = (key: "found" | "claimed" | "poor" | "differs"): number =>
        (c?.[key] ?? 0) + (o?.[key] ?? 0);
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
export async function claimsView(db: Knex, days: number): Promise<ClaimLine[]> {
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
      db.raw(
        "(select count(*)::int from fault f where f.unit_id = u.id and not f.claimed and f.status <> 'withdrawn') as more",
      ),
    ),
    computed<{ tested: boolean }>(
      db.raw("exists (select 1 from recording r where r.unit_id = u.id) as tested"),
    ),
  );
  return rows.flatMap((r): ClaimLine[] => {
    const whyOf = () => {
      if (r.intake.differs) return "differs";
      if (r.more > 0) return "more-faults";
      if (!r.tested) return "not-tested";
      return null;
    };
    const why = whyOf();
    const until = new Date(r.received_at.getTime() + days * 24 * 3600_000).toISOString();
    return why ? [{ tag: r.tag, seller: r.seller, until, why }] : [];
  });
}
