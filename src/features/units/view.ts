import "server-only";

import type { Knex } from "knex";

import type { Cause, Settings } from "@/contract/deeds";
import type { Grade } from "@/core/grade/grade";
import { type ModelProfile, outsideOf } from "@/core/profile/profile";
import type { ProofItem } from "@/core/prove/proof";
import {
  baselineOf,
  type Block,
  blocksOf,
  type Ending,
  lastMendOf,
  lineOf,
  type NextAction,
  nextActionOf,
  proofOf,
  type StationWord,
  type TestPurpose,
} from "@/core/record/standing";
import { type Actor, together } from "@/platform/deed/base";
import { factsOf, readFacts } from "@/features/case/facts";
import { modelById, modelsById } from "@/features/models/deeds";
import type { ProofCheckView } from "@/features/case/proving";
import { type PhotoHead, photosOf } from "@/features/intake/photos";
import { certificatesOf } from "@/features/certificate/view";
import { loadSettings } from "@/features/settings/settings";
import { minutesSince } from "@/features/intake/deeds";
import type { UnitRow } from "@/platform/db/tables";
import { dayOf, daysLater } from "@/core/days/days";
import { countOf, type Narrow, rowsOf } from "@/platform/db/joined";
import { one } from "@/core/base/one";
import type { Id } from "@/core/base/ids";

/** What the pages read. Dates are ISO text, so that a value crosses to the browser unchanged. */

export type TrayCard = {
  tray: number;
  tag: string;
  unitId: Id<"unit">;
  model: string;
  modelKey: string;
  stage: string;
  nextAction: NextAction;
  claim: string;
};

export async function trays(db: Knex): Promise<TrayCard[]> {
  const rows = await rowsOf(
    db("unit").join("model_profile as m", "m.id", "unit.profile_id").whereNotNull("tray").orderBy("tray"),
    { unit: "unit", m: "model_profile" },
    "unit.tray",
    "unit.tag",
    "unit.id",
    "m.key",
    "m.name as model",
    "unit.stage",
    "unit.next_action",
    "unit.claim",
  );
  return rows.map((r) => ({
    tray: one(r.tray),
    tag: r.tag,
    unitId: r.id,
    model: r.model,
    modelKey: r.key,
    stage: r.stage,
    nextAction: r.next_action,
    claim: r.claim,
  }));
}

export type UnitLine = {
  id: string;
  tag: string;
  model: string;
  modelKey: string;
  stage: string;
  nextAction: NextAction;
  ending: Ending | null;
  source: "single" | "lot" | "customer";
  claim: string;
  tray: number | null;
  receivedAt: string;
  /** kept as a known-good unit to compare with */
  reference: boolean;
};
export type UnitFilter = {
  stage?: string | undefined;
  model?: string | undefined;
  source?: string | undefined;
  q?: string | undefined;
};
export const UNIT_SORTS = ["tag", "model", "stage", "tray", "source", "receivedAt"] as const;
export type UnitPage = {
  /** from 0 */
  page: number;
  size: number;
  sort: { by: (typeof UNIT_SORTS)[number]; down: boolean };
};
const SORT_COLUMNS: Record<UnitPage["sort"]["by"], string> = {
  tag: "unit.tag",
  model: "m.name",
  stage: "unit.stage",
  tray: "unit.tray",
  source: "unit.source",
  receivedAt: "unit.received_at",
};

const WORD_LETTERS = 3;
const NEWEST = 4000;

const unitLines = (db: Knex, narrow: Narrow) =>
  rowsOf(
    narrow(db("unit").join("model_profile as m", "m.id", "unit.profile_id")),
    { unit: "unit", m: "model_profile" },
    "unit.id",
    "unit.tag",
    "m.name as model",
    "m.key as model_key",
    "unit.stage",
    "unit.next_action",
    "unit.ending",
    "unit.source",
    "unit.claim",
    "unit.tray",
    "unit.received_at",
    "unit.reference_since",
  );

const asLine = (r: Awaited<ReturnType<typeof unitLines>>[number]): UnitLine => ({
  id: r.id,
  tag: r.tag,
  model: r.model,
  modelKey: r.model_key,
  stage: r.stage,
  nextAction: r.next_action,
  ending: r.ending,
  source: r.source,
  claim: r.claim,
  tray: r.tray,
  receivedAt: r.received_at.toISOString(),
  reference: r.reference_since !== null,
});

/** What a filter leaves of the units; words are looked for in tag, claim and model's name. */
async function within(db: Knex, filter: UnitFilter): Promise<Narrow> {
  const models: string[] | null = filter.model ? await db("model_profile").where({ key: filter.model }).pluck("id") : null;
  const like = filter.q ? likeOf(filter.q) : null;
  const called: string[] = like ? await db("model_profile").whereILike("name", like).pluck("id") : [];
  return (of) => {
    if (filter.stage === "open") of.whereNull("ending");
    else if (filter.stage === "reference") of.whereNotNull("reference_since");
    else if (filter.stage) of.where({ stage: filter.stage });
    if (models) of.whereIn("profile_id", models);
    if (filter.source) of.where({ source: filter.source });
    if (like) of.where((w) => w.whereILike("tag", like).orWhereILike("claim", like).orWhereIn("profile_id", called));
    return of;
  };
}
const likeOf = (q: string): string => `%${q.replace(/[%_\\]/g, "\\$&")}%`;

/** One page of the units that a filter leaves, and how many there are of all. */
export async function listUnits(db: Knex, filter: UnitFilter, p: UnitPage): Promise<{ units: UnitLine[]; total: number }> {
  const narrow = await within(db, filter);
  const [rows, count] = await Promise.all([
    unitLines(db, (q) =>
      narrow(q)
        .orderByRaw(`${SORT_COLUMNS[p.sort.by]} ${p.sort.down ? "desc" : "asc"} nulls last`)
        .orderBy("tag", "desc")
        .offset(p.page * p.size)
        .limit(p.size),
    ),
    countOf(narrow(db("unit"))),
  ]);
  return { units: rows.map(asLine), total: count };
}

const FOUND = 8;

/** What a person who types may mean; one or two letters look among the newest units only. */
export async function searchUnits(db: Knex, q: string): Promise<UnitLine[]> {
  const narrow = await within(db, { q });
  const newestOf = (of: Knex.QueryBuilder) => of.orderBy("tag", "desc").limit(FOUND);
  // common words are met among the newest units; rare ones are few, and found by the index of words
  const newest = db("unit").orderBy("tag", "desc").limit(NEWEST).as("unit");
  const idsOf = async (of: Knex.QueryBuilder) => (await rowsOf(of, { unit: "unit" }, "unit.id")).map((r) => r.id);
  const near = await idsOf(newestOf(narrow(db.from(newest))));
  const enough = near.length >= FOUND || q.length < WORD_LETTERS;
  const hits = () => db.withMaterialized("hits", narrow(db("unit")).select("id", "tag")).from("hits as unit");
  const ids = enough ? near : await idsOf(newestOf(hits()));
  return (await unitLines(db, (q) => q.whereIn("unit.id", ids).orderBy("tag", "desc"))).map(asLine);
}

export type BenchView = {
  trays: TrayCard[];
  profiles: Record<string, ModelProfile>;
  next: UnitLine[];
  arrivals: UnitLine[];
  quarantined: UnitLine[];
  /** mends that were good for now, whose day to be looked at again has come within a week */
  reviews: { tag: string; what: string; fallback: string; reviewOn: string }[];
};

const ORDER: NextAction[] = [
  "release",
  "settle-blocks",
  "prove",
  "end",
  "mend",
  "decide",
  "name-faults",
  "dry-out",
  "first-test",
];

/** How long before its day a mend that is good for now is shown. */
const REVIEW_DAYS = 7;

/** The bench: trays with their plan, what to do next (what is nearest to release first), and what arrived and has no tray. */
export async function benchView(db: Knex): Promise<BenchView> {
  const open = (narrow: Narrow) => unitLines(db, (q) => narrow(q.whereNull("ending").whereNull("reference_since")));
  const { settings } = await loadSettings(db);
  const soon = daysLater(dayOf(new Date(), settings.timeZone), REVIEW_DAYS);
  const [cards, profiles, reviews, next, arrivals, quarantined] = await Promise.all([
    trays(db),
    db("unit")
      .whereNotNull("tray")
      .distinct("profile_id")
      .pluck("profile_id")
      .then((ids: string[]) => modelsById(db, ids)),
    rowsOf(
      db("mend as m")
        .join("unit as u", "u.id", "m.unit_id")
        .whereNotNull("m.review_on")
        .where("m.review_on", "<=", soon)
        .whereNull("u.ending")
        .orderBy("m.review_on")
        .limit(5),
      { m: "mend", u: "unit" },
      "u.tag",
      "m.what",
      "m.fallback",
      "m.review_on",
    ),
    open((q) =>
      q
        .whereIn("next_action", ORDER)
        .where((w) => w.whereNotNull("tray").orWhereNot({ next_action: "first-test" }))
        .orderByRaw("array_position(?::text[], next_action), received_at", [ORDER])
        .limit(7),
    ),
    open((q) => q.where({ next_action: "first-test", tray: null }).orderBy("tag", "desc").limit(7)),
    open((q) => q.where({ next_action: "quarantine" }).orderBy("tag", "desc")),
  ]);
  return {
    trays: cards,
    profiles: Object.fromEntries(profiles.map((p) => [p.key, outsideOf(p.body)])),
    next: next.map(asLine),
    arrivals: arrivals.map(asLine),
    quarantined: quarantined.map(asLine),
    reviews: reviews.flatMap((r) =>
      r.review_on === null ? [] : [{ tag: r.tag, what: r.what, fallback: r.fallback, reviewOn: r.review_on }],
    ),
  };
}

export type FaultView = {
  id: string;
  number: number;
  place: string;
  kind: string;
  words: string;
  foundWhen: "intake" | "test" | "opened" | "proof";
  claimed: boolean;
  measure: string | null;
  recordingId: Id<"recording"> | null;
  status: "open" | "mended" | "accepted" | "withdrawn";
  statusWhy: string;
  cause: Cause;
  version: number;
  by: string;
  at: string;
};
export type MendView = {
  id: string;
  number: number;
  faultId: Id<"fault"> | null;
  what: string;
  part: string;
  minutes: number;
  remark: string;
  /** good for now: the part it falls back on and the day it is looked at again */
  provisional: { fallback: string; reviewOn: string } | null;
  opened: boolean;
  afterRecordingId: string | null;
  version: number;
  by: string;
  at: string;
};
export type RecordingLine = {
  id: string;
  purpose: TestPurpose;
  spot: { controls: string[]; force: string } | null;
  source: string;
  grade: Grade;
  startedAt: string;
  durationMs: number;
  by: string;
  /** whether it may be a proof, and who took it as one although it was not made here */
  proves: boolean;
  repeated: boolean;
  taken: { by: string; why: string } | null;
};
export type CheckView = {
  functionId: string;
  result: "pass" | "fail" | "not-tested" | "not-fitted";
  note: string;
  by: string;
  at: string;
};
/** A line of the proof sheet; an answer from before the last mend is stale and counts no more. */
export type ProofLine = ProofItem & { answer: (Omit<ProofCheckView, "key"> & { stale: boolean }) | null };
export type EventView = { id: string; kind: string; body: Record<string, unknown>; by: string | null; at: string };

export type UnitView = {
  unit: Omit<UnitRow, "received_at" | "changed_at" | "closed_at" | "reference_since"> & {
    referenceSince: string | null;
    receivedAt: string;
    changedAt: string;
    closedAt: string | null;
  };
  origin: { lot: string | null; customer: string | null };
  profile: ModelProfile;
  profileVersion: number;
  line: StationWord[];
  nextAction: NextAction;
  blocks: Block[];
  proofId: string | null;
  baselineId: string | null;
  recordings: RecordingLine[];
  checks: CheckView[];
  faults: FaultView[];
  mends: MendView[];
  /** what the proof asks beside the test, each line with its latest answer */
  proofSheet: ProofLine[];
  minutesNow: number;
  photos: PhotoHead[];
  certificates: { id: string; token: string; revokedAt: string | null; revokedWhy: string; grade: Grade; releasedAt: string }[];
  endings: {
    kind: Ending;
    grade: Grade | null;
    priceMinor: number | null;
    known: string;
    limit: string;
    reason: string;
    by: string;
    at: string;
  }[];
  settings: Settings;
};

type EndingRow = {
  kind: Ending;
  grade: Grade | null;
  price_minor: number | null;
  known: string;
  limit_text: string;
  reason: string;
  at: Date;
  person: string;
};

/** Everything about one unit, by its tag. Null when there is none. */
export async function unitView(db: Knex, tag: string, actor: Actor): Promise<UnitView | null> {
  const row = await db("unit").whereRaw("tag = upper(?)", [tag]).first();
  if (!row) return null;
  const unit = row;
  const [profile, { settings }] = await together(
    db,
    () => modelById(db, unit.profile_id),
    () => loadSettings(db),
  );
  const [rows, photos, certificates, endings, lot, customer] = await together(
    db,
    () => readFacts(db, unit),
    () => photosOf(db, unit.id),
    () => certificatesOf(db, unit.id),
    (): Promise<EndingRow[]> =>
      rowsOf(
        db("ending").join("person", "person.id", "ending.by").where({ unit_id: unit.id }).orderBy("ending.at", "desc"),
        { ending: "ending", person: "person" },
        "ending.*",
        "person.name as person",
      ),
    async (): Promise<{ code: string } | undefined> =>
      unit.lot_id ? db("lot").where({ id: unit.lot_id }).first("code") : undefined,
    async (): Promise<{ name: string } | undefined> =>
      unit.customer_id ? db("customer").where({ id: unit.customer_id }).first("name") : undefined,
  );
  const { checks, faults, mends } = rows;
  const facts = await factsOf(db, unit, profile.body, settings.floor, rows);
  const { answers } = rows.proving;
  const lastMend = mends.filter((m) => m.by === actor.id).at(-1);
  const lastWork = lastMendOf(facts);
  const minutesNow = await minutesSince(db, unit.id, actor, lastMend?.at ?? new Date(Date.now() - 12 * 3600_000));
  const { received_at, changed_at, closed_at, reference_since, ...rest } = unit;
  return {
    unit: {
      ...rest,
      receivedAt: received_at.toISOString(),
      changedAt: changed_at.toISOString(),
      closedAt: closed_at?.toISOString() ?? null,
      referenceSince: reference_since?.toISOString() ?? null,
    },
    origin: { lot: lot?.code ?? null, customer: customer?.name ?? null },
    profile: profile.body,
    profileVersion: profile.version,
    line: lineOf(facts),
    nextAction: nextActionOf(facts),
    blocks: unit.ending === null ? blocksOf(facts) : [],
    proofId: proofOf(facts)?.id ?? null,
    baselineId: baselineOf(facts)?.id ?? null,
    recordings: rows.tests.toReversed().map((r) => ({
      id: r.id,
      purpose: r.purpose,
      spot: r.spot,
      source: r.source,
      grade: r.grade,
      startedAt: r.started_at.toISOString(),
      durationMs: r.duration_ms,
      by: r.person,
      proves: facts.tests.find((t) => t.id === r.id)!.proves,
      repeated: r.repeated,
      taken: r.taken_why === null ? null : { by: r.taken_person!, why: r.taken_why },
    })),
    checks: checks.map((c) => ({
      functionId: c.function_id,
      result: c.result,
      note: c.note,
      by: c.person,
      at: c.at.toISOString(),
    })),
    faults: faults.map((f) => ({
      id: f.id,
      number: f.number,
      place: f.place,
      kind: f.kind,
      words: f.words,
      foundWhen: f.found_when,
      claimed: f.claimed,
      measure: f.measure,
      recordingId: f.recording_id,
      status: f.status,
      statusWhy: f.status_why,
      cause: f.cause,
      version: f.version,
      by: f.person,
      at: f.at.toISOString(),
    })),
    mends: mends.map((m) => ({
      id: m.id,
      number: m.number,
      faultId: m.fault_id,
      what: m.what,
      part: m.part,
      minutes: m.minutes,
      remark: m.remark,
      provisional: m.review_on ? { fallback: m.fallback, reviewOn: m.review_on } : null,
      opened: m.opened,
      afterRecordingId: m.after_recording_id,
      version: m.version,
      by: m.person,
      at: m.at.toISOString(),
    })),
    proofSheet: facts.proving.sheet.map((item) => {
      const answer = answers.find((c) => c.key === item.key);
      return {
        ...item,
        answer: answer ? { ...answer, stale: lastWork !== null && answer.at <= lastWork.toISOString() } : null,
      };
    }),
    minutesNow,
    photos,
    certificates: certificates.map((c) => ({
      id: c.id,
      token: c.token,
      revokedAt: c.revokedAt?.toISOString() ?? null,
      revokedWhy: c.revokedWhy,
      grade: c.body.grade,
      releasedAt: c.body.releasedAt,
    })),
    endings: endings.map((e) => ({
      kind: e.kind,
      grade: e.grade,
      priceMinor: e.price_minor,
      known: e.known,
      limit: e.limit_text,
      reason: e.reason,
      by: e.person,
      at: e.at.toISOString(),
    })),
    settings,
  };
}

/** The record of who did what with a unit, newest first. */
export async function eventsOf(db: Knex, unitId: Id<"unit">): Promise<EventView[]> {
  const rows = await rowsOf(
    db("event").leftJoin("person", "person.id", "event.by").where({ unit_id: unitId }).orderBy("event.id", "desc").limit(300),
    { event: "event", person: "person?" },
    "event.id",
    "event.kind",
    "event.body",
    "person.name as person",
    "event.at",
  );
  return rows.map((r) => ({ id: String(r.id), kind: r.kind, body: r.body, by: r.person ?? null, at: r.at.toISOString() }));
}
