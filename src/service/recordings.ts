import "server-only";

import { createHash } from "node:crypto";
import { promisify } from "node:util";
import { createGunzip, gzip } from "node:zlib";

import type { Knex } from "knex";
import { z } from "zod";

import type { Refusal } from "@/contract/deeds";
import { type Grade, worstGrade } from "@/core/grade/grade";
import { TEST_PURPOSES, type TestPurpose } from "@/core/record/standing";
import { FORCES } from "@/core/simulate/controller";
import { plotsOf, type Plots, plotsSchema } from "@/core/plots/plots";
import { profileMap, rulesOf } from "@/core/profile/profile";
import { type QuickControl, quickFindings } from "@/core/quicklook/quick-look";
import { readRecordingCsv } from "@/core/recording/csv";
import { type Analysis, analyse } from "@/core/signal/analyse";
import { csvProblemText } from "@/text/problems";
import { type Actor, note, Refused, stamp } from "./base";
import { lockUnit, mustBeWorkable, refreshStanding } from "./facts";
import { modelById } from "./models";
import { loadSettings } from "./settings";

export const MAX_UPLOAD_BYTES = 32 * 1024 * 1024;
const MAX_CSV_BYTES = 160 * 1024 * 1024;
const MAX_ROWS = 1_000_000;
const MAX_AGE_MS = 14 * 24 * 3600_000;

/** Who measured: the tester and its version, the machine and browser it ran on, the slot and link of the unit. */
const testerSchema = z.strictObject({
  label: z.string().max(200),
  host: z.string().max(300),
  version: z.string().max(40).optional(),
  slot: z.int().min(0).max(15).optional(),
  link: z.enum(["cable", "radio", "unknown"]).optional(),
});
const spotSchema = z.strictObject({ controls: z.array(z.string().max(60)).min(1).max(64), force: z.enum(FORCES) });

export const recordingHeadSchema = z.strictObject({
  id: z.uuid(),
  unitId: z.uuid(),
  purpose: z.enum(TEST_PURPOSES),
  source: z.enum(["gamepad", "simulated", "playback", "import"]),
  tester: testerSchema,
  /** which controls a spot test was about, and how hard they were pressed */
  spot: spotSchema.nullable().default(null),
  /** how long ago it began, by the sender's own clock: the server's clock dates it */
  startedAgoMs: z.number().min(0).max(MAX_AGE_MS),
});
export type RecordingHead = z.input<typeof recordingHeadSchema>;

const zip = promisify(gzip);

/** Unzips what was sent, up to a limit: a small file may unfold into a huge one. */
async function unfold(sent: Buffer): Promise<string> {
  if (sent[0] !== 0x1f || sent[1] !== 0x8b) return sent.toString("utf8");
  const gunzip = createGunzip();
  const chunks: Buffer[] = [];
  let size = 0;
  gunzip.end(sent);
  try {
    for await (const chunk of gunzip) {
      size += chunk.length;
      if (size > MAX_CSV_BYTES) throw new Refused({ code: "too-large", limit: `${MAX_CSV_BYTES / 1024 / 1024} MB of text` });
      chunks.push(chunk);
    }
  } catch (error) {
    if (error instanceof Refused) throw error;
    throw new Refused({ code: "recording", message: "The file is damaged: it cannot be unzipped. Export it again." });
  }
  return Buffer.concat(chunks).toString("utf8");
}

const unreadable = (message: string): Refusal => ({ code: "recording", message });

/**
 * Takes a recording: analyses it here by the core and stores it with that result; figures made elsewhere are not taken.
 * The same id again has no further effect and answers as the first time.
 */
export async function storeRecording(
  db: Knex,
  actor: Actor,
  head: RecordingHead,
  sent: Buffer,
): Promise<{ id: string; grade: Grade }> {
  const known = await db("recording").where({ id: head.id }).first("id", "grade", "unit_id");
  if (known) {
    if (known.unit_id !== head.unitId) throw new Refused({ code: "already", what: "recording" });
    return { id: known.id, grade: known.grade };
  }
  const text = await unfold(sent);
  const unit = await db("unit").where({ id: head.unitId }).first("profile_id", "revision");
  if (!unit) throw new Refused({ code: "not-found", what: "unit" });
  const profile = await modelById(db, unit.profile_id);
  const map = profileMap(profile.body, unit.revision);
  const read = readRecordingCsv(text, map, MAX_ROWS);
  if (!read.ok) throw new Refused(unreadable(csvProblemText(read.problem)));
  const { settings } = await loadSettings(db);
  const rules = rulesOf(profile.body, settings.limits);
  const { analysis, evidence } = analyse(read.value, map, rules);
  if (Object.keys(analysis.controls).length === 0)
    throw new Refused(
      unreadable("The recording has no column of any control of this model. Check the columns a0, a1, ... and b0, b1, ..."),
    );
  const grades = Object.fromEntries(Object.entries(analysis.controls).map(([id, c]) => [id, c.grade]));
  const quick = head.purpose === "quick" ? quickFindings(read.value, map, rules) : null;
  const seenFaults = quick?.some((c) => c.faults.length > 0) ?? false;
  // a spot test is judged by what it was about; everything else by every control of the model
  const about = head.spot?.controls ?? map.controls.map((c) => c.id);
  const grade = seenFaults ? "fail" : worstGrade(about.map((c) => grades[c] ?? "untested"));
  const packed = await zip(Buffer.from(text, "utf8"));
  await db.transaction(async (trx) => {
    const locked = await lockUnit(trx, head.unitId, null, actor);
    mustBeWorkable(locked);
    if (locked.liquid && !locked.liquid_cleared) throw new Refused({ code: "wet" });
    const stored = await trx("recording")
      .insert({
        id: head.id,
        unit_id: head.unitId,
        purpose: head.purpose,
        source: head.source,
        tester: JSON.stringify(head.tester),
        spot: head.spot ? JSON.stringify(head.spot) : null,
        profile_id: profile.id,
        revision: unit.revision,
        started_at: new Date((actor.at?.getTime() ?? Date.now()) - head.startedAgoMs),
        samples: analysis.sampling.samples,
        duration_ms: Math.round(analysis.sampling.durationMs),
        csv_gz: packed,
        sha256: createHash("sha256").update(text).digest("hex"),
        analysis: JSON.stringify(analysis),
        plots: JSON.stringify(plotsOf(read.value, map, evidence)),
        grades: JSON.stringify(grades),
        quick: quick && JSON.stringify(quick),
        grade,
        ...stamp(trx, actor),
      })
      .onConflict("id")
      .ignore()
      .returning("id");
    if (stored.length === 0) return;
    await note(trx, actor, "recording-stored", head.unitId, {
      recording: head.id,
      purpose: head.purpose,
      source: head.source,
      grade,
    });
    await refreshStanding(trx, head.unitId);
  });
  return { id: head.id, grade };
}

export type StoredRecording = {
  id: string;
  unitId: string;
  purpose: TestPurpose;
  source: "gamepad" | "simulated" | "playback" | "import";
  tester: z.infer<typeof testerSchema>;
  spot: z.infer<typeof spotSchema> | null;
  startedAt: Date;
  samples: number;
  durationMs: number;
  grade: Grade;
  by: string;
  analysis: Analysis;
  plots: Plots;
  quick: QuickControl[] | null;
};

/** A recording's result, without its samples. */
export async function recordingById(db: Knex, id: string): Promise<StoredRecording | null> {
  if (!z.uuid().safeParse(id).success) return null;
  const r = await db("recording")
    .join("person", "person.id", "recording.by")
    .where("recording.id", id)
    .first(
      "recording.id",
      "unit_id",
      "purpose",
      "source",
      "tester",
      "spot",
      "started_at",
      "samples",
      "duration_ms",
      "grade",
      "analysis",
      "plots",
      "quick",
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
    plots: plotsSchema.parse(r.plots),
    quick: r.quick,
  };
}

/** The samples as they were sent, gzipped CSV. */
export async function recordingCsv(db: Knex, id: string): Promise<{ csvGz: Buffer; name: string } | null> {
  if (!z.uuid().safeParse(id).success) return null;
  const row = await db("recording")
    .join("unit", "unit.id", "recording.unit_id")
    .where("recording.id", id)
    .first("csv_gz", "tag", "started_at");
  return row
    ? { csvGz: row.csv_gz, name: `${row.tag}-${row.started_at.toISOString().slice(0, 16).replaceAll(":", "")}.csv` }
    : null;
}

/** The analyses of a unit's full tests, oldest first. */
export async function fullAnalyses(db: Knex, unitId: string): Promise<Analysis[]> {
  const rows = await db("recording").where({ unit_id: unitId, purpose: "full" }).orderBy("started_at").select("analysis");
  return rows.map((r) => r.analysis);
}

/** What can be laid beside a unit's recordings: its own, and the latest full test of each reference unit of its model. */
export async function comparable(
  db: Knex,
  unitId: string,
  modelKey: string,
): Promise<{ id: string; tag: string; purpose: TestPurpose; grade: Grade; startedAt: string; reference: boolean }[]> {
  const rows = await db("recording as r")
    .join("unit as u", "u.id", "r.unit_id")
    .join("model_profile as m", "m.id", "u.profile_id")
    .where({ "m.key": modelKey })
    .whereNot("r.purpose", "quick")
    .where((w) => w.where("u.id", unitId).orWhere((o) => o.whereNotNull("u.reference_since").where("r.purpose", "full")))
    .orderByRaw("(u.id = ?) desc, r.started_at desc", [unitId])
    .limit(60)
    .select("r.id", "u.tag", "u.id as unit_id", "purpose", "r.grade", "r.started_at");
  return rows.map((r) => ({
    id: r.id,
    tag: r.tag,
    purpose: r.purpose,
    grade: r.grade,
    startedAt: r.started_at.toISOString(),
    reference: r.unit_id !== unitId,
  }));
}
