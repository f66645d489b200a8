import "server-only";

import type { Knex } from "knex";

import { certificateSchema } from "@/contract/certificate";
import type { EventKind } from "@/contract/events";
import type { Id } from "@/core/base/ids";
import { one } from "@/core/base/one";
import { dayOf, daysLater } from "@/core/days/days";
import { type Rates, labourOf } from "@/core/money/rates";
import { CONDITION_WORDS, listingText } from "@/features/release/words/text";
import { loadRoutes } from "@/features/routes/deeds";
import { loadSettings } from "@/features/settings/settings";
import { type Narrow, computed, countOf, figuresOf, rowsOf } from "@/platform/db/joined";
import { untilNoted } from "@/platform/deed/noted";

export type ReturnView = {
  tag: string;
  model: string;
  words: string;
  at: string;
  days: number;
  inWarranty: boolean | null;
  /** what it points to: the mend, its route and person, the part and its batch */
  mend: string;
  route: string;
  person: string;
  part: string;
  batch: string;
  /** what it cost since: bench time, parts and carriage */
  costMinor: number;
  open: boolean;
};

/** What mending it again cost: everything logged on the unit from its coming back to its next ending. */
const costOf = (minutes: number, parts: number, rates: Rates) =>
  labourOf(minutes, rates) + parts + rates.returnCarriage;

export async function returnsOf(db: Knex, unitId: Id<"unit"> | null, most = 100): Promise<ReturnView[]> {
  const [{ settings }, { value: routes }] = [await loadSettings(db), await loadRoutes(db)];
  const query = db("comeback as c")
    .join("unit as u", "u.id", "c.unit_id")
    .join("model_profile as m", "m.id", "u.profile_id")
    .leftJoin("mend as w", "w.id", "c.mend_id")
    .leftJoin("person as p", "p.id", "w.by")
    .leftJoin("fitted as f", "f.id", "c.fitted_id")
    .leftJoin("batch as b", "b.id", "f.batch_id")
    .orderBy("c.at", "desc")
    .limit(most);
  if (unitId !== null) query.where("c.unit_id", unitId);
  const since = (column: "minutes" | "part_minor") =>
    `(select coalesce(sum(x.${column}), 0)::int from mend x where x.unit_id = c.unit_id and x.at > c.at
        and x.at < coalesce((select min(e.at) from ending e where e.unit_id = c.unit_id and e.at > c.at), 'infinity'))`;
  const rows = await rowsOf(
    query,
    { c: "comeback", u: "unit", m: "model_profile", w: "mend?", p: "person?", f: "fitted?", b: "batch?" },
    "u.tag",
    "m.name as model",
    "c.words",
    "c.at",
    "c.released_at",
    "c.in_warranty",
    "w.what",
    "w.route",
    "p.name as person",
    "f.part",
    "b.code as batch",
    "u.ending",
    computed<{ minutes: number; parts: number }>(
      db.raw(`${since("minutes")} as minutes, ${since("part_minor")} as parts`),
    ),
  );
  return rows.map((r) => ({
    tag: r.tag,
    model: r.model,
    words: r.words,
    at: r.at.toISOString(),
    days: Math.max(0, Math.round((r.at.getTime() - r.released_at.getTime()) / (24 * 3600_000))),
    inWarranty: r.in_warranty,
    mend: r.what ?? "",
    route: routes.find((route) => route.id === r.route)?.name ?? r.route ?? "",
    person: r.person ?? "",
    part: r.part ?? "",
    batch: r.batch ?? "",
    costMinor: costOf(r.minutes, r.parts, settings.rates),
    open: r.ending === null,
  }));
}

export type SaleLine = {
  tag: string;
  model: string;
  kind: "sold" | "returned";
  channel: string;
  priceMinor: number | null;
  feesMinor: number;
  handedOn: string;
  coverUntil: string | null;
  partCoverUntil: string | null;
  grade: string | null;
};

const sales = (db: Knex, narrow: Narrow) =>
  rowsOf(
    narrow(
      db("handover as h")
        .join("ending as e", "e.id", "h.ending_id")
        .join("unit as u", "u.id", "h.unit_id")
        .join("model_profile as m", "m.id", "u.profile_id")
        // a corrected handover counts once, as it was said last
        .whereNotExists(
          db("handover as later").whereRaw("later.ending_id = h.ending_id and later.at > h.at"),
        ),
    ),
    { h: "handover", m: "model_profile", u: "unit", e: "ending" },
    "u.tag",
    "m.name as model",
    "h.kind",
    "h.channel",
    "h.price_minor",
    "h.fees_minor",
    "e.grade",
    "h.handed_on as day",
    "h.unit_until",
    "h.parts_until as part_until",
  );

const asSale = (r: Awaited<ReturnType<typeof sales>>[number]): SaleLine => ({
  tag: r.tag,
  model: r.model,
  kind: r.kind,
  channel: r.channel,
  priceMinor: r.price_minor,
  feesMinor: r.fees_minor,
  handedOn: r.day,
  coverUntil: r.unit_until,
  partCoverUntil: r.part_until,
  grade: r.grade,
});

/** What was handed over, newest first. */
export const recentSales = async (db: Knex, most = 100): Promise<SaleLine[]> =>
  (
    await sales(db, (q) =>
      q
        .orderBy([
          { column: "h.handed_on", order: "desc" },
          { column: "h.at", order: "desc" },
        ])
        .limit(most),
    )
  ).map(asSale);

/** Everything that was handed over, oldest first, for the file of sales. */
export const allSales = async (db: Knex): Promise<SaleLine[]> =>
  (await sales(db, (q) => q.orderBy(["h.handed_on", "u.tag"]))).map(asSale);

const endsWithin = (today: string, last: string) => (w: Knex.QueryBuilder) =>
  w.whereBetween("h.unit_until", [today, last]).orWhereBetween("h.parts_until", [today, last]);

/** Covers that end within some days, the soonest first: the last moment to look into a doubt. */
export const coversEnding = (db: Knex, days: number, most: number): Promise<SaleLine[]> =>
  untilNoted(db, `covers ${days} ${most}`, COVER_KINDS, () => findCoversEnding(db, days, most));

const COVER_KINDS: readonly EventKind[] = [
  "unit-handed-over",
  "unit-ended",
  "unit-reopened",
  "unit-came-back",
];

async function findCoversEnding(db: Knex, days: number, most: number): Promise<SaleLine[]> {
  const { settings } = await loadSettings(db);
  const today = dayOf(new Date(), settings.timeZone);
  const soonest =
    "least(greatest(h.unit_until, ?::date), greatest(h.parts_until, ?::date)), h.handed_on, h.id";
  const rows = await sales(db, (q) =>
    q
      .whereNotNull("u.ending")
      .where(endsWithin(today, daysLater(today, days)))
      .orderByRaw(soonest, [today, today])
      .limit(most),
  );
  return rows.map(asSale);
}

export type ReadyLine = {
  tag: string;
  model: string;
  grade: string | null;
  priceMinor: number | null;
  releasedAt: string;
  token: string | null;
  source: string;
};

/** Released and not handed over yet: what a listing offers, or what its owner can fetch. */
export async function readyToGo(db: Knex, most: number): Promise<ReadyLine[]> {
  const ready = db("unit as u")
    .join("model_profile as m", "m.id", "u.profile_id")
    .joinRaw("join lateral (select * from ending where unit_id = u.id order by at desc limit 1) e on true")
    .joinRaw(
      "left join lateral (select token from certificate where ending_id = e.id and revoked_at is null limit 1) c on true",
    )
    .where("u.ending", "released")
    .whereNull("u.handed_on")
    .orderBy("u.closed_at", "desc")
    .limit(most);
  const rows = await rowsOf(
    ready,
    { u: "unit", m: "model_profile", e: "ending", c: "certificate?" },
    "u.tag",
    "m.name as model",
    "e.grade",
    "e.price_minor",
    "u.closed_at",
    "c.token",
    "u.source",
  );
  return rows.map((r) => ({
    tag: r.tag,
    model: r.model,
    grade: r.grade,
    priceMinor: r.price_minor,
    releasedAt: one(r.closed_at).toISOString(),
    token: r.token,
    source: r.source,
  }));
}

/** How many there are of what the page shows only the first of. */
export const afterCounts = (db: Knex, days: number): Promise<{ ready: number; ending: number }> =>
  untilNoted(db, `after ${days}`, COVER_KINDS, () => countAfter(db, days));

async function countAfter(db: Knex, days: number): Promise<{ ready: number; ending: number }> {
  const { settings } = await loadSettings(db);
  const today = dayOf(new Date(), settings.timeZone);
  const ready = await countOf(db("unit").where({ ending: "released", handed_on: null }));
  const ending = await figuresOf<{ n: number }>(
    db("handover as h")
      .join("unit as u", "u.id", "h.unit_id")
      .whereNotNull("u.ending")
      .where(endsWithin(today, daysLater(today, days))),
    db.raw("count(distinct h.unit_id)::int as n"),
  );
  return { ready, ending: ending.n };
}

export type ListingLine = {
  tag: string;
  model: string;
  grade: string;
  condition: string;
  priceMinor: number | null;
  warrantyDays: number;
  text: string;
  token: string;
};

/** A listing for each unit that waits to be sold, in the words of its certificate. */
export async function listings(db: Knex): Promise<ListingLine[]> {
  const ready = (await readyToGo(db, 5000)).filter((r) => r.source !== "customer" && r.token !== null);
  const rows: { token: string; body: unknown }[] = await db("certificate")
    .whereIn(
      "token",
      ready.map((r) => r.token),
    )
    .select("token", "body");
  return ready.flatMap((r): ListingLine[] => {
    const row = rows.find((x) => x.token === r.token);
    if (!row) return [];
    const body = certificateSchema.parse(row.body);
    return [
      {
        tag: r.tag,
        model: body.model,
        grade: body.grade,
        condition: body.condition ? CONDITION_WORDS[body.condition.grade] : "",
        priceMinor: r.priceMinor,
        warrantyDays: body.warrantyDays,
        text: listingText(body),
        token: row.token,
      },
    ];
  });
}
