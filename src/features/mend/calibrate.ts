import "server-only";

import type { Knex } from "knex";

import {
  type CalibrationProblem,
  mayCalibrate,
  nextTable,
  sameTable,
  type StickTable,
} from "@/core/calibrate/calibrate";
import { rulesOf } from "@/core/profile/profile";
import type { Analysis, StickResult } from "@/core/analyse/analyse";
import { nothing, Refused, stamp, together } from "@/platform/deed/base";
import { modelById, modelByKey } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { deed, namedUnit, unitOf } from "@/platform/deed/declare";
import type { UnitRow } from "@/platform/db/tables";
import { one } from "@/core/base/one";
import { rowOf, rowsOf } from "@/platform/db/joined";
import type { Id } from "@/core/base/ids";

/**
 * Calibration: the values are worked out here from a recording, the unit takes and keeps them, and what it
 * reads back is held against them.
 */

const DEFAULT_STEPS = 1024;

/** When a unit was last mended, or taken apart, worked on or put back under an order. */
async function lastWorkAt(db: Knex, unitId: Id<"unit">): Promise<Date | null> {
  const [mend, step] = await together(
    db,
    (): Promise<{ at: Date } | undefined> =>
      db("mend").where({ unit_id: unitId }).orderBy("at", "desc").first("at"),
    (): Promise<{ at: Date } | undefined> =>
      rowOf(
        db("work_event as e")
          .join("work_order as o", "o.id", "e.work_order_id")
          .where({ "o.unit_id": unitId, "e.undone": false })
          .whereRaw(
            "e.body->>'kind' in ('apart', 'back', 'task') and coalesce(e.body->>'task', '') not like 'calibrate:%'",
          )
          .orderBy("e.id", "desc"),
        { e: "work_event", o: "work_order" },
        "e.at",
      ),
  );
  const times = [mend?.at, step?.at].filter((t): t is Date => t !== undefined);
  return times.length ? new Date(Math.max(...times.map((t) => t.getTime()))) : null;
}

async function stickOf(
  db: Knex,
  unit: UnitRow,
  recordingId: Id<"recording">,
  stick: string,
): Promise<StickResult> {
  const row = await db("recording")
    .where({ id: recordingId, unit_id: unit.id })
    .first("analysis", "started_at");
  if (!row) throw new Refused({ code: "not-found", what: "recording" });
  const since = await lastWorkAt(db, unit.id);
  // the stick of before the mend is not the stick that is there now
  if (since !== null && row.started_at <= since)
    throw new Refused({ code: "no-calibration", stick, problem: { code: "not-measured" } });
  const result = row.analysis.controls[stick];
  if (result?.kind !== "stick")
    throw new Refused({ code: "no-calibration", stick, problem: { code: "not-measured" } });
  return result;
}

async function guideFor(db: Knex, unit: UnitRow) {
  const own = await modelById(db, unit.profile_id);
  const newest = (await modelByKey(db, own.key)) ?? own;
  return { profile: newest.body, calibration: newest.body.guide?.calibration ?? null };
}

export const writeCalibration = deed(
  "calibration.write",
  { unit: namedUnit, workable: true },
  async ({ db, actor, note, unit }, { stick, part, recordingId, now, port }) => {
    const { profile, calibration } = await guideFor(db, unit);
    const { settings } = await loadSettings(db);
    const result = await stickOf(db, unit, recordingId, stick);
    const may = mayCalibrate(result, rulesOf(profile, settings.limits).limitsFor(stick).stick);
    if (!may.ok) throw new Refused({ code: "no-calibration", stick, problem: may.problem });
    if (part === "range") {
      const centre = await db("calibration")
        .where({ unit_id: unit.id, stick, recording_id: recordingId, part: "centre" })
        .first("id");
      if (!centre) throw new Refused({ code: "centre-first" });
    }
    const table = nextTable(now, may.value, part, calibration?.stepsPerUnit ?? DEFAULT_STEPS);
    const row = one(
      (
        await db("calibration")
          .insert({
            unit_id: unit.id,
            stick,
            part,
            recording_id: recordingId,
            table_before: JSON.stringify(now),
            table_after: JSON.stringify(table),
            port,
            ...stamp(db, actor),
          })
          .returning("id")
      )[0],
    );
    note("calibration-written", unit.id, { stick, part, port });
    return { id: row.id, table };
  },
);

export const readBack = deed(
  "calibration.saved",
  { unit: unitOf("calibration", (i) => i.calibrationId, "calibration") },
  async ({ db, actor, note, unit }, { calibrationId, readBack: table }) => {
    const row = await db("calibration").where({ id: calibrationId }).forUpdate().first();
    if (!row) throw new Refused({ code: "not-found", what: "calibration" });
    const { calibration } = await guideFor(db, unit);
    if (!sameTable(row.table_after, table, calibration?.stepsPerUnit ?? DEFAULT_STEPS))
      throw new Refused({ code: "read-back-differs" });
    await db("calibration")
      .where({ id: calibrationId })
      .update({ read_back: JSON.stringify(table), saved_at: actor.at ?? db.fn.now() });
    note("calibration-kept", row.unit_id, { stick: row.stick, part: row.part });
    return nothing;
  },
);

type Figures = { restOffset: number | null; reachMin: number | null; circularityError: number | null };
const figures = (r: StickResult): Figures => ({
  restOffset: r.restOffset,
  reachMin: r.reachMin,
  circularityError: r.circularityError,
});

export type CalibrationLine = {
  id: string;
  stick: string;
  part: "centre" | "range";
  before: StickTable;
  after: StickTable;
  kept: boolean;
  by: string;
  at: string;
};
export type StickOutlook = {
  stick: string;
  recordingId: Id<"recording"> | null;
  /** it was worked on after its last measurement, which therefore says nothing of it any more */
  mendedSince: boolean;
  measuredAt: string | null;
  /** the recording's figures now, and what it predicts for afterwards */
  now: Figures | null;
  predicted: Figures | null;
  refused: { code: "no-calibration"; stick: string; problem: CalibrationProblem } | null;
  /** of the recording before the last kept calibration, and of the first one after it */
  beforeAfter: { before: Figures; after: Figures | null } | null;
};
export type CalibrateView = {
  sticks: StickOutlook[];
  lines: CalibrationLine[];
  prerequisites: string[];
  due: boolean;
  knownModel: boolean;
};

export async function calibrateView(db: Knex, unit: UnitRow): Promise<CalibrateView> {
  const [{ profile, calibration }, { settings }] = await Promise.all([guideFor(db, unit), loadSettings(db)]);
  const rows = await rowsOf(
    db("calibration")
      .join("person", "person.id", "calibration.by")
      .where({ unit_id: unit.id })
      .orderBy("calibration.at", "desc"),
    { calibration: "calibration", person: "person" },
    "calibration.*",
    "person.name as person",
  );
  const recordings: { id: string; analysis: Analysis; started_at: Date }[] = await db("recording")
    .where({ unit_id: unit.id })
    .whereIn("purpose", ["full", "spot"])
    .orderBy("started_at", "desc")
    .select("id", "analysis", "started_at");
  const since = await lastWorkAt(db, unit.id);
  const rules = rulesOf(profile, settings.limits);
  const stick = (r: { analysis: Analysis }, id: string) => {
    const found = r.analysis.controls[id];
    return found?.kind === "stick" ? found : null;
  };
  const sticks = (calibration?.sticks ?? []).map((id): StickOutlook => {
    const last = recordings.find((r) => stick(r, id) && (since === null || r.started_at > since));
    const result = last ? stick(last, id) : null;
    const may = result ? mayCalibrate(result, rules.limitsFor(id).stick) : null;
    const kept = rows.find((r) => r.stick === id && r.saved_at !== null);
    const keptAt = kept?.saved_at;
    const source = kept && recordings.find((r) => r.id === kept.recording_id);
    const afterwards = keptAt && recordings.filter((r) => r.started_at > keptAt && stick(r, id)).at(-1);
    return {
      stick: id,
      recordingId: last?.id ?? null,
      mendedSince: since !== null && !last,
      measuredAt: last?.started_at.toISOString() ?? null,
      now: result && figures(result),
      predicted: may?.ok ? may.value.after : null,
      refused: may && !may.ok ? { code: "no-calibration", stick: id, problem: may.problem } : null,
      beforeAfter: source
        ? { before: figures(stick(source, id)!), after: afterwards ? figures(stick(afterwards, id)!) : null }
        : null,
    };
  });
  const last = rows.find((r) => r.saved_at !== null)?.saved_at ?? new Date(0);
  const due = await db("fitted")
    .where({ unit_id: unit.id })
    .whereIn("slot", calibration?.dueAfter ?? [])
    .where("at", ">", last)
    .first("id");
  return {
    sticks,
    lines: rows.map((r) => ({
      id: r.id,
      stick: r.stick,
      part: r.part,
      before: r.table_before,
      after: r.table_after,
      // a centre is kept with the range that was written on top of it
      kept:
        r.saved_at !== null ||
        rows.some((o) => o.saved_at !== null && o.stick === r.stick && o.recording_id === r.recording_id),
      by: r.person,
      at: r.at.toISOString(),
    })),
    prerequisites: calibration?.before ?? [],
    due: due !== undefined,
    knownModel: calibration !== null,
  };
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [readBack, writeCalibration] as const;
