import "server-only";

import type { Knex } from "knex";

import type { Cause } from "@/contract/mend";
import type { Settings } from "@/contract/deeds";
import type { Id } from "@/core/base/ids";
import type { Grade } from "@/core/grade/grade";
import type { ModelProfile } from "@/core/profile/profile";
import type { ProofItem } from "@/core/prove/proof";
import {
  type Block,
  type Ending,
  type NextAction,
  type StationWord,
  type TestPurpose,
  baselineOf,
  blocksOf,
  lastMendOf,
  lineOf,
  nextActionOf,
  proofOf,
} from "@/core/record/standing";
import type { PressAim } from "@/core/guide/plan";
import { controlsOf } from "@/core/profile/profile";
import { doubtfulButtons, pressAim, type ReleaseRisk } from "@/core/prove/presses";
import { factsOf, pressesOf, readFacts } from "@/features/case/facts";
import { matesOf, type MatesOf } from "@/features/case/mates";
import type { ProofCheckView } from "@/features/case/proving";
import { certificatesOf } from "@/features/certificate/view";
import { minutesSince } from "@/features/case/presence";
import { type PhotoHead, photosOf } from "@/features/intake/photos";
import { modelById } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { rowsOf } from "@/platform/db/joined";
import type { UnitRow } from "@/platform/db/tables";
import { type Actor, together } from "@/platform/deed/base";

/** One unit as its pages read it. Dates are ISO text, so that a value crosses to the browser unchanged. */

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
  /** what else this cause shows itself by */
  symptoms: SymptomView[];
};
export type SymptomView = {
  id: string;
  place: string;
  kind: string;
  words: string;
  measure: string | null;
  recordingId: Id<"recording"> | null;
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
  /** tells testers apart: what measured it, on which host */
  tester: string;
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

export type EventView = {
  id: string;
  kind: string;
  body: Record<string, unknown>;
  by: string | null;
  at: string;
};

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
  /** what a full test now must make sure of its buttons; null before the first */
  pressAim: PressAim | null;
  /** buttons that want more presses before it may leave, the most doubtful first */
  doubtful: string[];
  /** the chance that one of its buttons is bad, by all presses since the last work at each */
  risk: ReleaseRisk;
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
  /** the units that it belongs with */
  mates: MatesOf;
  certificates: {
    id: string;
    token: string;
    revokedAt: string | null;
    revokedWhy: string;
    grade: Grade;
    releasedAt: string;
  }[];
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

const endingsOf = (db: Knex, unitId: Id<"unit">): Promise<EndingRow[]> =>
  rowsOf(
    db("ending")
      .join("person", "person.id", "ending.by")
      .where({ unit_id: unitId })
      .orderBy("ending.at", "desc"),
    { ending: "ending", person: "person" },
    "ending.*",
    "person.name as person",
  );

/** A lot or a customer, where it came from one. */
async function originOf(db: Knex, unit: UnitRow): Promise<UnitView["origin"]> {
  const [lot, customer] = await together(
    db,
    async () => (unit.lot_id ? db("lot").where({ id: unit.lot_id }).first("code") : undefined),
    async () => (unit.customer_id ? db("customer").where({ id: unit.customer_id }).first("name") : undefined),
  );
  return { lot: lot?.code ?? null, customer: customer?.name ?? null };
}

function headOf(unit: UnitRow): UnitView["unit"] {
  const { received_at, changed_at, closed_at, reference_since, ...rest } = unit;
  return {
    ...rest,
    receivedAt: received_at.toISOString(),
    changedAt: changed_at.toISOString(),
    closedAt: closed_at?.toISOString() ?? null,
    referenceSince: reference_since?.toISOString() ?? null,
  };
}

type Facts = Awaited<ReturnType<typeof readFacts>>;
type Known = Awaited<ReturnType<typeof factsOf>>;

const asRecording = (known: Known, r: Facts["tests"][number]): RecordingLine => ({
  id: r.id,
  purpose: r.purpose,
  spot: r.spot,
  source: r.source,
  grade: r.grade,
  startedAt: r.started_at.toISOString(),
  durationMs: r.duration_ms,
  tester: known.tests.find((t) => t.id === r.id)!.tester,
  by: r.person,
  proves: known.tests.find((t) => t.id === r.id)!.proves,
  repeated: r.repeated,
  taken: r.taken_why === null ? null : { by: r.taken_person!, why: r.taken_why },
});

const asCheck = (c: Facts["checks"][number]): CheckView => ({
  functionId: c.function_id,
  result: c.result,
  note: c.note,
  by: c.person,
  at: c.at.toISOString(),
});

const asFault = (f: Facts["faults"][number], symptoms: Facts["symptoms"]): FaultView => ({
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
  symptoms: symptoms.flatMap(({ id, faultId, place, kind, words, measure, recordingId }) =>
    faultId === f.id ? [{ id, place, kind, words, measure, recordingId }] : [],
  ),
});

const asMend = (m: Facts["mends"][number]): MendView => ({
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
});

/** The sheet with its answers; one from before the last work on the unit counts no more. */
function sheetOf(known: Known, answers: Facts["proving"]["answers"]): ProofLine[] {
  const lastWork = lastMendOf(known);
  return known.proving.sheet.map((item) => {
    const answer = answers.find((c) => c.key === item.key);
    if (!answer) return { ...item, answer: null };
    return {
      ...item,
      answer: { ...answer, stale: lastWork !== null && answer.at <= lastWork.toISOString() },
    };
  });
}

const asCertificate = (
  c: Awaited<ReturnType<typeof certificatesOf>>[number],
): UnitView["certificates"][number] => ({
  id: c.id,
  token: c.token,
  revokedAt: c.revokedAt?.toISOString() ?? null,
  revokedWhy: c.revokedWhy,
  grade: c.body.grade,
  releasedAt: c.body.releasedAt,
});

const asEnding = (e: EndingRow): UnitView["endings"][number] => ({
  kind: e.kind,
  grade: e.grade,
  priceMinor: e.price_minor,
  known: e.known,
  limit: e.limit_text,
  reason: e.reason,
  by: e.person,
  at: e.at.toISOString(),
});

/** Who has not mended yet is asked of the last half day. */
const FIRST_STRETCH_MS = 12 * 3600_000;

/** Everything about one unit, by its tag. Null when there is none. */
export async function unitView(db: Knex, tag: string, actor: Actor): Promise<UnitView | null> {
  const unit = await db("unit").whereRaw("tag = upper(?)", [tag]).first();
  if (!unit) return null;
  const [profile, { settings }] = await together(
    db,
    () => modelById(db, unit.profile_id),
    () => loadSettings(db),
  );
  const [rows, photos, certificates, endings, origin, mates] = await together(
    db,
    () => readFacts(db, unit),
    () => photosOf(db, unit.id),
    () => certificatesOf(db, unit.id),
    () => endingsOf(db, unit.id),
    () => originOf(db, unit),
    () => matesOf(db, unit, profile.body, settings.timeZone),
  );
  const known = await factsOf(db, unit, profile.body, settings.floor, rows);
  const pressed = pressesOf(rows, profile.body, unit.revision);
  const buttons = controlsOf(profile.body, unit.revision).filter((c) => c.kind === "button").length;
  const aim = pressAim(pressed, settings.prove.releaseRisk, Math.max(1, buttons));
  const lastOwn = rows.mends.filter((m) => m.by === actor.id).at(-1);
  const since = lastOwn?.at ?? new Date(Date.now() - FIRST_STRETCH_MS);
  return {
    unit: headOf(unit),
    origin,
    profile: profile.body,
    profileVersion: profile.version,
    line: lineOf(known),
    nextAction: nextActionOf(known),
    blocks: unit.ending === null ? blocksOf(known) : [],
    // the first test of a unit is to find faults; what comes after it may be its proof
    pressAim: known.tests.some((t) => t.purpose === "full") ? aim : null,
    doubtful: doubtfulButtons(pressed, aim),
    risk: known.proving.risk,
    proofId: proofOf(known)?.id ?? null,
    baselineId: baselineOf(known)?.id ?? null,
    recordings: rows.tests.toReversed().map((r) => asRecording(known, r)),
    checks: rows.checks.map(asCheck),
    faults: rows.faults.map((f) => asFault(f, rows.symptoms)),
    mends: rows.mends.map(asMend),
    proofSheet: sheetOf(known, rows.proving.answers),
    minutesNow: await minutesSince(db, unit.id, actor, since),
    photos,
    mates,
    certificates: certificates.map(asCertificate),
    endings: endings.map(asEnding),
    settings,
  };
}

/** The record of who did what with a unit, newest first. */
export async function eventsOf(db: Knex, unitId: Id<"unit">): Promise<EventView[]> {
  const rows = await rowsOf(
    db("event")
      .leftJoin("person", "person.id", "event.by")
      .where({ unit_id: unitId })
      .orderBy("event.id", "desc")
      .limit(300),
    { event: "event", person: "person?" },
    "event.id",
    "event.kind",
    "event.body",
    "person.name as person",
    "event.at",
  );
  return rows.map((r) => ({
    id: String(r.id),
    kind: r.kind,
    body: r.body,
    by: r.person ?? null,
    at: r.at.toISOString(),
  }));
}
