import "server-only";

import type { Knex } from "knex";

import type { Cause } from "@/contract/deeds";
import type { Intake } from "@/contract/intake";
import { intakeSchema } from "@/contract/intake";
import type { Grade } from "@/core/grade/grade";
import { controlsOf, functionsOf, type ModelProfile } from "@/core/profile/profile";
import {
  type CheckResult,
  type Ending,
  mayProve,
  nextActionOf,
  type RecordingSource,
  stationFor,
  type TestPurpose,
  type UnitFacts,
} from "@/core/record/standing";
import { type Actor, Refused, together } from "./base";
import { guideOf } from "@/core/profile/guide";
import { leftOut, replay, type WorkEvent } from "@/core/mend/work";
import { modelById } from "./models";
import { provingOf, readProving, testerOf } from "./proving";
import { loadSettings } from "./settings";

export type UnitRow = {
  id: string;
  tag: string;
  profile_id: string;
  revision: string | null;
  source: "single" | "lot" | "customer";
  lot_id: string | null;
  customer_id: string | null;
  seller: string;
  price_minor: number | null;
  carriage_minor: number | null;
  claim: string;
  intake: Intake;
  swollen: boolean;
  liquid: boolean;
  liquid_cleared: { by: string; at: string } | null;
  tray: number | null;
  stage: string;
  next_action: string;
  ending: Ending | null;
  version: number;
  changed_by: string;
  changed_at: Date;
  received_at: Date;
  closed_at: Date | null;
  reference_since: Date | null;
  lot_share_minor: number | null;
  hand_share_minor: number | null;
  /** the day by which it is promised, YYYY-MM-DD */
  due_on: string | null;
};

export const readUnit = (row: UnitRow): UnitRow => ({
  ...row,
  intake: intakeSchema.parse(row.intake),
  due_on: dayOf(row.due_on),
});

/** The driver reads a date as midnight of this machine; the day is what was meant. */
const dayOf = (v: unknown): string | null =>
  v instanceof Date
    ? `${v.getFullYear()}-${String(v.getMonth() + 1).padStart(2, "0")}-${String(v.getDate()).padStart(2, "0")}`
    : (v as string | null);

export async function unitById(db: Knex, id: string): Promise<UnitRow> {
  const row = await db<UnitRow>("unit").where({ id }).first();
  if (!row) throw new Refused({ code: "not-found", what: "unit" });
  return readUnit(row);
}

type TestRow = {
  id: string;
  purpose: TestPurpose;
  spot: { controls: string[]; force: string } | null;
  started_at: Date;
  duration_ms: number;
  grade: Grade;
  grades: Record<string, Grade>;
  source: RecordingSource;
  host: string;
  opened_at: Date | null;
  taken_why: string | null;
  taken_at: Date | null;
  taken_person: string | null;
  repeated: boolean;
  person: string;
};
type CheckRow = { function_id: string; result: CheckResult; note: string; person: string; at: Date };
type FaultRow = UnitFacts["faults"][number] & {
  place: string;
  kind: string;
  words: string;
  found_when: "intake" | "test" | "opened" | "proof";
  claimed: boolean;
  measure: string | null;
  recording_id: string | null;
  status_why: string;
  cause: Cause;
  version: number;
  person: string;
  at: Date;
};
type MendRow = {
  id: string;
  number: number;
  fault_id: string | null;
  what: string;
  part: string;
  minutes: number;
  remark: string;
  fallback: string;
  review_on: Date | null;
  /** YYYY-MM-DD */
  review_day: string | null;
  opened: boolean;
  after_recording_id: string | null;
  version: number;
  by: string;
  person: string;
  at: Date;
};
type StepRow = { body: WorkEvent; at: Date; status: string; profile_id: string; revision: string | null };

/** The rows that a unit's standing is worked out from, each with who wrote it. */
export async function readFacts(db: Knex, unit: UnitRow) {
  const named = (table: string) => db(table).join("person", "person.id", `${table}.by`).where(`${table}.unit_id`, unit.id);
  const [tests, checks, faults, mends, loose, decision, recalled, steps, { settings }, proving] = await together(
    db,
    (): Promise<TestRow[]> =>
      named("recording")
        .orderBy("started_at")
        .select(
          "recording.id",
          "purpose",
          "spot",
          "started_at",
          "duration_ms",
          "grade",
          "grades",
          "source",
          db.raw("tester->>'host' as host"),
          "opened_at",
          "taken_why",
          "taken_at",
          db.raw("(select name from person t where t.id = recording.taken_by) as taken_person"),
          // the same content stood here or at another unit before
          db.raw(
            `exists (select 1 from recording o where o.sha256 = recording.sha256 and o.id <> recording.id
               and (o.at, o.id) < (recording.at, recording.id)) as repeated`,
          ),
          "person.name as person",
        ),
    (): Promise<CheckRow[]> =>
      named("function_check")
        .distinctOn("function_id")
        .orderBy([{ column: "function_id" }, { column: "function_check.id", order: "desc" }])
        .select("function_id", "result", "note", "person.name as person", "function_check.at"),
    (): Promise<FaultRow[]> => named("fault").orderBy("number").select("fault.*", "person.name as person"),
    (): Promise<MendRow[]> =>
      named("mend")
        .orderBy("number")
        .select("mend.*", db.raw("to_char(review_on, 'YYYY-MM-DD') as review_day"), "person.name as person"),
    (): Promise<number[]> =>
      db("fragment").where({ unit_id: unit.id, matched_to: null, explained: "" }).orderBy("number").pluck("number"),
    () => db("decision").where({ unit_id: unit.id }).orderBy("at", "desc").first("disposition", "faults"),
    (): Promise<string[]> =>
      db("fitted as f")
        .join("batch as b", "b.id", "f.batch_id")
        .where({ "f.unit_id": unit.id, "f.removed_at": null })
        .whereIn("b.status", ["rejected", "disposed"])
        .distinct("b.code")
        .orderBy("b.code")
        .pluck("b.code"),
    (): Promise<StepRow[]> =>
      db("work_event as e")
        .join("work_order as o", "o.id", "e.work_order_id")
        .where({ "o.unit_id": unit.id, "e.undone": false })
        .orderBy("e.id")
        .select("e.body", "e.at", "o.status", "o.profile_id", "o.revision"),
    () => loadSettings(db),
    () => readProving(db, unit),
  );
  return { tests, checks, faults, mends, loose, decision, recalled, steps, settings, proving };
}

/** Loads what a unit's standing is worked out from. */
export const loadFacts = async (db: Knex, unit: UnitRow, profile: ModelProfile, floor: Grade): Promise<UnitFacts> =>
  factsOf(db, unit, profile, floor, await readFacts(db, unit));

export async function factsOf(
  db: Knex,
  unit: UnitRow,
  profile: ModelProfile,
  floor: Grade,
  rows: Awaited<ReturnType<typeof readFacts>>,
): Promise<UnitFacts> {
  const { tests, checks, faults, mends, loose, decision, recalled, steps, settings, proving } = rows;
  const open = steps.filter((e) => e.status === "open");
  const order = open[0];
  const guide = order && (await modelById(db, order.profile_id)).body.guide;
  const state = guide
    ? replay(
        guideOf(guide, order.revision),
        open.map((e): WorkEvent => e.body),
      )
    : null;
  const proves = (t: TestRow) =>
    mayProve({ source: t.source, opened: t.opened_at !== null, taken: t.taken_why !== null, repeated: t.repeated });
  const retests = tests
    .filter((t) => t.purpose !== "quick" && proves(t))
    .map((t) => ({ at: t.started_at, works: t.grade !== "fail" }));
  return {
    proving: provingOf(proving, mends, profile, settings.prove, retests),
    recalled,
    lastStep: steps.filter((e) => ["apart", "back", "task"].includes(e.body.kind)).at(-1)?.at ?? null,
    apart: { items: state ? leftOut(state).length : 0, steps: state?.apart.length ?? 0, begun: open.length > 0 },
    decided: decision ? { disposition: decision.disposition, faults: decision.faults } : null,
    looseFragments: loose,
    swollen: unit.swollen,
    liquid: unit.liquid,
    liquidCleared: unit.liquid_cleared !== null,
    ending: unit.ending,
    tests: tests.map((t) => ({
      id: t.id,
      purpose: t.purpose,
      startedAt: t.started_at,
      grade: t.grade,
      controls: t.grades,
      tester: testerOf(t.source, t.host),
      proves: proves(t),
      by: t.person,
    })),
    checks: checks.map((c) => ({ functionId: c.function_id, result: c.result, at: c.at })),
    functions: functionsOf(profile, unit.revision).map((f) => f.id),
    controls: controlsOf(profile, unit.revision).map((c) => c.id),
    faults: faults.map(({ id, number, status }) => ({ id, number, status })),
    mends: mends.map(({ at, opened }) => ({ at, opened })),
    floor,
  };
}

/**
 * Works out the unit's stage again and writes it beside the record, for lists, and where it was day by day. Call it at the end of
 * every change to a unit, after the change was noted: a stay begins with the latest note.
 */
export async function refreshStanding(db: Knex, unitId: string): Promise<void> {
  const unit = await unitById(db, unitId);
  const profile = await modelById(db, unit.profile_id);
  const { settings } = await loadSettings(db);
  const action = nextActionOf(await loadFacts(db, unit, profile.body, settings.floor));
  const stage = action === "closed" ? "closed" : action === "quarantine" ? "quarantine" : stationFor(action);
  await db("unit").where({ id: unitId }).update({ next_action: action, stage });
  await moveStay(db, unitId, profile.key, stage);
}

/** Ends the stay at the last stage and begins the next; the counts of the day follow. */
async function moveStay(db: Knex, unitId: string, model: string, stage: string): Promise<void> {
  const open = await db("stay").where({ unit_id: unitId, left_at: null }).first("id", "stage", "came_at");
  if (open?.stage === stage) return;
  const last = await db("event").where({ unit_id: unitId }).orderBy("id", "desc").first("at");
  const noted: Date = last?.at ?? new Date();
  const at = open && noted < open.came_at ? open.came_at : noted;
  if (open) await db("stay").where({ id: open.id }).update({ left_at: at });
  await db("stay").insert({ unit_id: unitId, stage, came_at: at });
  const day = at.toISOString().slice(0, 10);
  // always in the order of the names, so that two moves the other way round wait for each other and never lock up
  const counts: [string | undefined, number][] = [
    [open?.stage, -1],
    [stage, 1],
  ];
  for (const [where, delta] of counts.sort(([a = ""], [b = ""]) => (a < b ? -1 : 1)))
    if (where !== undefined)
      await db("stage_day")
        .insert({ day, model, stage: where, delta })
        .onConflict(["day", "model", "stage"])
        .merge({ delta: db.raw("stage_day.delta + excluded.delta") });
}

/** Locks the unit for a change that must not meet another; refuses when it was changed since the person looked. */
export async function lockUnit(db: Knex, unitId: string, version: number | null, actor: Actor): Promise<UnitRow> {
  const row = await db<UnitRow>("unit").where({ id: unitId }).forUpdate().first();
  if (!row) throw new Refused({ code: "not-found", what: "unit" });
  if (version !== null && row.version !== version) {
    const by =
      row.changed_by === actor.id
        ? "you, in another window"
        : (await db("person").where({ id: row.changed_by }).first("name")).name;
    throw new Refused({ code: "changed-meanwhile", by, at: row.changed_at.toISOString() });
  }
  return readUnit(row);
}

/** Refuses work on a unit that is closed or in quarantine. */
export function mustBeWorkable(unit: UnitRow): void {
  if (unit.ending !== null) throw new Refused({ code: "closed" });
  if (unit.swollen) throw new Refused({ code: "quarantined" });
}

export const touched = (db: Knex, actor: Actor) => ({
  version: db.raw("version + 1"),
  changed_by: actor.id,
  changed_at: actor.at ?? db.fn.now(),
});
