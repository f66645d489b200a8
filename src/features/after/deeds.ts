import "server-only";

import type { Knex } from "knex";

import type { EventKind } from "@/contract/events";

import { type Rates, labourOf } from "@/core/money/rates";
import { certificateSchema } from "@/contract/certificate";
import { CONDITION_WORDS, listingText } from "@/features/release/words/text";
import { type Cover, coversOf, isCovered } from "@/core/prove/cover";
import { nothing, Refused, stamp, touched } from "@/platform/deed/base";
import { partsIn } from "@/features/certificate/view";
import { loadRoutes } from "@/features/routes/deeds";
import { untilNoted } from "@/platform/deed/noted";
import { loadSettings } from "@/features/settings/settings";
import { deed, namedUnit } from "@/platform/deed/declare";
import { dayOf, daysLater } from "@/core/days/days";
import { one } from "@/core/base/one";
import { computed, type Narrow, countOf, figuresOf, rowOf, rowsOf } from "@/platform/db/joined";
import { say } from "@/features/after/words/words";
import type { Id } from "@/core/base/ids";

/** Handing over, cover, and what comes back. Cover runs from the day of handing over. */

const GONE = ["released", "sold-as-found", "returned-unmended"];

/** Sold, or returned to its owner. Said again, it corrects: the last one counts. */
export const handOver = deed(
  "unit.hand-over",
  { unit: namedUnit },
  async ({ db, actor, note, unit }, input) => {
    if (unit.ending === null || !GONE.includes(unit.ending)) throw new Refused({ code: "not-released" });
    if (input.kind === "returned" && unit.source !== "customer")
      throw new Refused({ code: "not-a-customers" });
    if (input.kind === "sold" && unit.source === "customer") throw new Refused({ code: "is-a-customers" });
    const ending = one(
      await db("ending")
        .where({ unit_id: unit.id })
        .orderBy("at", "desc")
        .first("id", "kind", "warranty_days"),
    );
    // a part's cover is said at the release; whatever leaves otherwise has none
    const parts = ending.kind === "released" ? await partsIn(db, unit.id) : [];
    const partDays = Math.max(0, ...parts.map((p) => p.coverDays ?? 0));
    await db("handover").insert({
      unit_id: unit.id,
      ending_id: ending.id,
      kind: input.kind,
      channel: input.channel,
      price_minor: input.priceMinor,
      fees_minor: input.feesMinor,
      handed_on: input.handedOn,
      unit_until: ending.warranty_days ? daysLater(input.handedOn, ending.warranty_days) : null,
      parts_until: partDays > 0 ? daysLater(input.handedOn, partDays) : null,
      buyer: input.buyer,
      contact: input.contact,
      ...stamp(db, actor),
    });
    await db("unit")
      .where({ id: unit.id })
      .update({ handed_on: input.handedOn, ...touched(db, actor) });
    note("unit-handed-over", unit.id, { kind: input.kind, channel: input.channel, handedOn: input.handedOn });
    return nothing;
  },
);

export type Standing = {
  kind: "sold" | "returned";
  channel: string;
  priceMinor: number | null;
  feesMinor: number;
  handedOn: string;
  buyer: string;
  contact: string;
  by: string;
  covers: Cover[];
};

/** How a unit was handed over after its last ending, and what is covered until when. Null while it is still here. */
export async function standingAfter(db: Knex, unitId: Id<"unit">): Promise<Standing | null> {
  const ending = await db("ending").where({ unit_id: unitId }).orderBy("at", "desc").first();
  if (!ending) return null;
  const h = await rowOf(
    db("handover as h")
      .join("person as p", "p.id", "h.by")
      .where({ ending_id: ending.id })
      .orderBy("h.at", "desc"),
    { h: "handover", p: "person" },
    "h.*",
    "h.handed_on as day",
    "p.name as person",
  );
  if (!h) return null;
  const parts = ending.kind === "released" ? await partsIn(db, unitId) : [];
  return {
    kind: h.kind,
    channel: h.channel,
    priceMinor: h.price_minor,
    feesMinor: h.fees_minor,
    handedOn: h.day,
    buyer: h.buyer,
    contact: h.contact,
    by: h.person,
    covers: coversOf({
      handedOn: h.day,
      unitDays: ending.warranty_days ?? 0,
      parts: parts.map((p) => ({ id: p.id, name: `${p.name}, ${p.place}`, days: p.coverDays ?? 0 })),
    }),
  };
}

/**
 * A unit comes back: it is opened again, tied to the mend, its route and person, and to the fitted part and its batch; whether it is
 * covered is worked out. The route's odds follow at once, since they are read from this record.
 */
export const cameBack = deed(
  "unit.came-back",
  { unit: namedUnit, seen: "unit" },
  async ({ db, actor, note, unit }, { unitId, mendId, fittedId, words }) => {
    if (unit.ending !== "released") throw new Refused({ code: "not-released" });
    const mend = mendId ? await db("mend").where({ id: mendId, unit_id: unitId }).first() : null;
    if (mendId && !mend) throw new Refused({ code: "not-found", what: "mend" });
    const fitted = fittedId ? await db("fitted").where({ id: fittedId, unit_id: unitId }).first("id") : null;
    if (fittedId && !fitted) throw new Refused({ code: "not-found", what: say("fittedPart") });
    const ending = one(await db("ending").where({ unit_id: unitId }).orderBy("at", "desc").first("id"));
    const standing = await standingAfter(db, unitId);
    const { settings } = await loadSettings(db);
    const today = dayOf(actor.at ?? new Date(), settings.timeZone);
    const inWarranty = standing ? isCovered(standing.covers, today, fittedId) : null;
    await db("comeback").insert({
      unit_id: unitId,
      mend_id: mendId,
      fitted_id: fittedId,
      ending_id: ending.id,
      in_warranty: inWarranty,
      words,
      released_at: one(unit.closed_at),
      ...stamp(db, actor),
    });
    if (mend?.fault_id)
      await db("fault")
        .where({ id: mend.fault_id })
        .update({ status: "open", status_why: `came back: ${words}`, version: db.raw("version + 1") });
    await db("unit")
      .where({ id: unitId })
      .update({ ending: null, closed_at: null, handed_on: null, ...touched(db, actor) });
    await db("certificate")
      .where({ unit_id: unitId, revoked_at: null })
      .update({ revoked_at: actor.at ?? db.fn.now(), revoked_why: `The unit came back: ${words}` });
    note("unit-came-back", unitId, { mend: mend?.number ?? null, words, inWarranty });
    return nothing;
  },
);

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
