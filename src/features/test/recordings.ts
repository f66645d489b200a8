import "server-only";

import type { Knex } from "knex";
import { z } from "@/core/base/schema";

import type { Refusal } from "@/contract/refusals";
import { type Grade, type Reason, worstGrade } from "@/core/grade/grade";
import type { RecordingSource, TestPurpose } from "@/core/record/standing";
import { type RecordingHead, recordingHeadSchema, type Spot, type Tester } from "@/contract/recording";
import { type Plots } from "@/core/plots/plots";
import { profileMap } from "@/core/profile/profile";
import type { QuickControl } from "@/core/quicklook/quick-look";
import type { Analysis } from "@/core/analyse/analyse";
import { csvProblemText } from "@/text/problems";
import { offThread, TooMuchWork } from "@/platform/work/pool";
import type { Upload, UploadRead } from "@/platform/work/tasks";
import { type Actor, nothing, Refused, stamp } from "@/platform/deed/base";
import { modelById } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { change, deed, unitOf } from "@/platform/deed/declare";
import { runChange } from "@/platform/run/run";
import { mustBeWorkable } from "@/features/case/workable";
import { one } from "@/core/base/one";
import { computed, rowOf, rowsOf } from "@/platform/db/joined";
import { say } from "@/features/test/words/words";
import type { Id } from "@/core/base/ids";

export const MAX_UPLOAD_BYTES = 32 * 1024 * 1024;

/** Longer than the largest recording takes on a slow machine; what needs more was made to need it. */
const MOST_SECONDS = 60;

/** Unzips, reads and measures what was sent, on another thread. */
async function readSent(upload: Upload, stop?: AbortSignal): Promise<Extract<UploadRead, { ok: true }>> {
  const read = await offThread("readUpload", upload, MOST_SECONDS, stop).catch((error: unknown) => {
    if (error instanceof TooMuchWork)
      throw new Refused(unreadable(say("theFileTakesLongerThanMOSTSECONDS", { mOSTSECONDS: MOST_SECONDS })));
    throw error;
  });
  if (read.ok) return read;
  if (read.problem.code === "unfolds-too-far")
    throw new Refused({
      code: "too-large",
      limit: say("limitMbMBOfText", { limitMb: read.problem.limitMb }),
    });
  if (read.problem.code === "damaged") throw new Refused(unreadable(say("theFileIsDamagedItCannot")));
  throw new Refused(unreadable(csvProblemText(read.problem)));
}

const unreadable = (message: string): Refusal => ({ code: "recording", message });

type Kept = {
  head: z.output<typeof recordingHeadSchema>;
  read: Extract<UploadRead, { ok: true }>;
  grade: Grade;
  profileId: string;
  revision: string | null;
};

/** Stores what was read of a recording, however often it is sent. */
const keepRecording = change(
  { unit: ({ head }: Kept) => head.unitId, workable: true },
  async ({ db, actor, note, unit }, { head, read, grade, profileId, revision }) => {
    if (unit.liquid && !unit.liquid_cleared) throw new Refused({ code: "wet" });
    const { analysis, quick } = read;
    const stored = await db("recording")
      .insert({
        id: head.id,
        unit_id: head.unitId,
        purpose: head.purpose,
        source: head.source,
        opened_at: await openedFor(db, head),
        tester: JSON.stringify(head.tester),
        spot: head.spot ? JSON.stringify(head.spot) : null,
        profile_id: profileId,
        revision,
        started_at: new Date((actor.at?.getTime() ?? Date.now()) - head.startedAgoMs),
        samples: analysis.sampling.samples,
        duration_ms: Math.round(analysis.sampling.durationMs),
        csv_gz: Buffer.from(read.csvGz),
        sha256: read.sha256,
        analysis: JSON.stringify(analysis),
        plots: JSON.stringify(read.plots),
        grades: JSON.stringify(read.grades),
        quick: quick && JSON.stringify(quick),
        grade,
        ...stamp(db, actor),
      })
      .onConflict("id")
      .ignore()
      .returning("id");
    if (stored.length === 0) {
      // sent twice at once: the same recording is one, another unit's under its id is none
      const first = one(await db("recording").where({ id: head.id }).first("unit_id"));
      if (first.unit_id !== head.unitId) throw new Refused({ code: "already", what: "recording" });
      return;
    }
    note("recording-stored", head.unitId, {
      recording: head.id,
      purpose: head.purpose,
      source: head.source,
      grade,
    });
  },
);

/**
 * Takes a recording: analyses it here by the core and stores it with that result; figures made elsewhere are
 * not taken. The same id again has no further effect and answers as the first time.
 */
export async function storeRecording(
  db: Knex,
  actor: Actor,
  given: RecordingHead,
  sent: Buffer,
  stop?: AbortSignal,
): Promise<{ id: string; grade: Grade }> {
  const head = recordingHeadSchema.parse(given);
  const known = await db("recording").where({ id: head.id }).first("id", "grade", "unit_id");
  if (known) {
    if (known.unit_id !== head.unitId) throw new Refused({ code: "already", what: "recording" });
    return { id: known.id, grade: known.grade };
  }
  const unit = await db("unit").where({ id: head.unitId }).first("profile_id", "revision");
  if (!unit) throw new Refused({ code: "not-found", what: "unit" });
  const profile = await modelById(db, unit.profile_id);
  const map = profileMap(profile.body, unit.revision);
  const { settings } = await loadSettings(db);
  const upload = { sent, profile: profile.body, revision: unit.revision, limits: settings.limits };
  const read = await readSent({ ...upload, quick: head.purpose === "quick" }, stop);
  const { analysis, grades, quick } = read;
  if (Object.keys(analysis.controls).length === 0)
    throw new Refused(unreadable(say("theRecordingHasNoColumnOf")));
  // a file that lacks what this model has, or was asked for what it does not, may be another model's
  if (head.source === "import" && !head.sure && (read.lacks.length > 0 || read.strange.length > 0))
    throw new Refused({ code: "other-controller", lacks: read.lacks, strange: read.strange });
  const seenFaults = quick?.some((c) => c.faults.length > 0) ?? false;
  // a spot test is judged by what it was about; everything else by every control of the model
  const about = head.spot?.controls ?? map.controls.map((c) => c.id);
  const grade = seenFaults ? "fail" : worstGrade(about.map((c) => grades[c] ?? "untested"));
  const kept = { head, read, grade, profileId: profile.id, revision: unit.revision };
  await db.transaction((trx) => runChange(trx, actor, keepRecording, kept));
  return { id: head.id, grade };
}

/** Opens a test of a unit: a recording under this id, begun from now on, was made here. */
export async function openTest(db: Knex, actor: Actor, unitId: Id<"unit">): Promise<{ id: string }> {
  const unit = await db("unit").where({ id: unitId }).first("ending", "swollen");
  if (!unit) throw new Refused({ code: "not-found", what: "unit" });
  mustBeWorkable(unit);
  const row = one(
    (
      await db("test_open")
        .insert({ id: db.raw("gen_random_uuid()"), unit_id: unitId, ...stamp(db, actor) })
        .returning("id")
    )[0],
  );
  return { id: row.id };
}

const CLOCKS_MS = 5000; // a page's clock and its way to the server
/** When the test under this recording's id was opened for this very unit, if it began after that. */
async function openedFor(db: Knex, head: z.output<typeof recordingHeadSchema>): Promise<Date | null> {
  const opened: string = head.id; // a test is opened under the id that its recording will have
  const row = await db("test_open").where({ id: opened, unit_id: head.unitId }).first("at");
  return row && Date.now() - head.startedAgoMs >= row.at.getTime() - CLOCKS_MS ? row.at : null;
}

export type PadHistory = { own: number; others: { model: string; units: number }[] };

/**
 * Units that a controller of this name was tested as, by model: how the bench notices that the unit was taken
 * in as another.
 */
export async function padHistory(db: Knex, label: string, modelKey: string): Promise<PadHistory> {
  const rows = await rowsOf(
    db("recording as r")
      .join("unit as u", "u.id", "r.unit_id")
      .join("model_profile as m", "m.id", "u.profile_id")
      .where({ "r.source": "gamepad" })
      .whereRaw("r.tester->>'label' = ?", [label])
      .groupBy("m.key")
      .orderBy("units", "desc"),
    { m: "model_profile" },
    "m.key",
    computed<{ name: string; units: number }>(
      db.raw("max(m.name) as name, count(distinct u.id)::int as units"),
    ),
  );
  return {
    own: rows.find((r) => r.key === modelKey)?.units ?? 0,
    others: rows.filter((r) => r.key !== modelKey).map((r) => ({ model: r.name, units: r.units })),
  };
}

/**
 * A lead takes a recording that was not made here as a proof; the reason is printed. What was there before
 * stays no proof.
 */
export const takeAsProof = deed(
  "recording.take-as-proof",
  { unit: unitOf("recording", (i) => i.recordingId, "recording"), workable: true },
  async ({ db, actor, note }, { recordingId, why }) => {
    const row = await db("recording")
      .where({ id: recordingId })
      .first("unit_id", "source", "purpose", "sha256", "at", "opened_at", "taken_why");
    if (!row) throw new Refused({ code: "not-found", what: "recording" });
    if (row.purpose !== "full") throw new Refused({ code: "not-a-proof", why: "not-full" });
    if (
      row.taken_why !== null ||
      row.source === "simulated" ||
      (row.source === "gamepad" && row.opened_at !== null)
    )
      throw new Refused({ code: "already", what: "proof" });
    const before = await db("recording")
      .where({ sha256: row.sha256 })
      .whereNot({ id: recordingId })
      .whereRaw("(at, id) < (?, ?::uuid)", [row.at, recordingId])
      .first("id");
    if (before) throw new Refused({ code: "not-a-proof", why: "repeated" });
    await db("recording")
      .where({ id: recordingId })
      .update({ taken_by: actor.id, taken_why: why, taken_at: actor.at ?? db.fn.now() });
    note("recording-taken-as-proof", row.unit_id, { recording: recordingId, why });
    return nothing;
  },
);

export type StoredRecording = {
  id: string;
  unitId: Id<"unit">;
  purpose: TestPurpose;
  source: RecordingSource;
  tester: Tester;
  spot: Spot | null;
  startedAt: Date;
  samples: number;
  durationMs: number;
  grade: Grade;
  by: string;
  analysis: Analysis;
  plots: Plots;
  quick: QuickControl[] | null;
  /** who took it as a proof although it was not made here, and why */
  taken: { by: string; why: string } | null;
};

/** A recording's result, without its samples. */
export async function recordingById(db: Knex, id: string): Promise<StoredRecording | null> {
  if (!z.uuid().safeParse(id).success) return null;
  const r = await rowOf(
    db("recording").join("person", "person.id", "recording.by").where("recording.id", id),
    { recording: "recording", person: "person" },
    "recording.id",
    "recording.unit_id",
    "recording.purpose",
    "recording.source",
    "recording.tester",
    "recording.spot",
    "recording.started_at",
    "recording.samples",
    "recording.duration_ms",
    "recording.grade",
    "recording.analysis",
    "recording.plots",
    "recording.quick",
    "recording.taken_why",
    computed<{ taken_person: string | null }>(
      db.raw("(select name from person t where t.id = recording.taken_by) as taken_person"),
    ),
    "person.name as person",
  );
  if (!r) return null;
  return {
    id: r.id,
    unitId: r.unit_id,
    purpose: r.purpose,
    source: r.source,
    tester: r.tester,
    spot: r.spot,
    startedAt: r.started_at,
    samples: r.samples,
    durationMs: r.duration_ms,
    grade: r.grade,
    by: r.person,
    analysis: r.analysis,
    plots: r.plots,
    quick: r.quick,
    taken: r.taken_why === null ? null : { by: r.taken_person ?? "", why: r.taken_why },
  };
}

/** What the measures of today say otherwise of a recording than those of its day. */
export type Again = {
  grade: Grade;
  differs: { control: string; was: Grade; now: Grade; reasons: Reason[] }[];
};

/**
 * A recording that was analysed by earlier measures, by those of today: told beside what was stored, which
 * stays. Null for one that was analysed by today's.
 */
export async function analysedAgain(db: Knex, id: Id<"recording">): Promise<Again | null> {
  const row = await db("recording")
    .where({ id })
    .first("analysis", "csv_gz", "profile_id", "revision", "spot");
  if (!row || row.analysis.version !== 1) return null;
  const profile = await modelById(db, row.profile_id);
  const { settings } = await loadSettings(db);
  const { analysis, grades } = await readSent({
    sent: row.csv_gz,
    profile: profile.body,
    revision: row.revision,
    limits: settings.limits,
    quick: false,
  });
  const about = row.spot?.controls ?? profileMap(profile.body, row.revision).controls.map((c) => c.id);
  return {
    grade: worstGrade(about.map((c) => grades[c] ?? "untested")),
    differs: about.flatMap((control) => {
      const was = row.analysis.controls[control]?.grade ?? "untested";
      const now = grades[control] ?? "untested";
      return was === now ? [] : [{ control, was, now, reasons: analysis.controls[control]?.reasons ?? [] }];
    }),
  };
}

/** The samples as they were sent, gzipped CSV. */
export async function recordingCsv(db: Knex, id: string): Promise<{ csvGz: Buffer; name: string } | null> {
  if (!z.uuid().safeParse(id).success) return null;
  const row = await rowOf(
    db("recording as r").join("unit as u", "u.id", "r.unit_id").where("r.id", id),
    { r: "recording", u: "unit" },
    "r.csv_gz",
    "r.started_at",
    "u.tag",
  );
  return row
    ? {
        csvGz: row.csv_gz,
        name: `${row.tag}-${row.started_at.toISOString().slice(0, 16).replaceAll(":", "")}.csv`,
      }
    : null;
}

/** The analyses of a unit's full tests, oldest first. */
export async function fullAnalyses(db: Knex, unitId: Id<"unit">): Promise<Analysis[]> {
  const rows = await db("recording")
    .where({ unit_id: unitId, purpose: "full" })
    .orderBy("started_at")
    .select("analysis");
  return rows.map((r) => r.analysis);
}

/**
 * What can be laid beside a unit's recordings: its own, and the latest full test of each reference unit of
 * its model.
 */
export async function comparable(
  db: Knex,
  unitId: Id<"unit">,
  modelKey: string,
): Promise<
  { id: string; tag: string; purpose: TestPurpose; grade: Grade; startedAt: string; reference: boolean }[]
> {
  const rows = await rowsOf(
    db("recording as r")
      .join("unit as u", "u.id", "r.unit_id")
      .join("model_profile as m", "m.id", "u.profile_id")
      .where({ "m.key": modelKey })
      .whereNot("r.purpose", "quick")
      .where((w) =>
        w
          .where("u.id", unitId)
          .orWhere((o) => o.whereNotNull("u.reference_since").where("r.purpose", "full")),
      )
      .orderByRaw("(u.id = ?) desc, r.started_at desc", [unitId])
      .limit(60),
    { r: "recording", m: "model_profile", u: "unit" },
    "r.id",
    "u.tag",
    "u.id as unit_id",
    "r.purpose",
    "r.grade",
    "r.started_at",
  );
  return rows.map((r) => ({
    id: r.id,
    tag: r.tag,
    purpose: r.purpose,
    grade: r.grade,
    startedAt: r.started_at.toISOString(),
    reference: r.unit_id !== unitId,
  }));
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [takeAsProof] as const;
