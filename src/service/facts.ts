import "server-only";

import type { Knex } from "knex";

import type { Grade } from "@/core/grade/grade";
import { controlsOf, functionsOf, type ModelProfile } from "@/core/profile/profile";
import { mayProve, type UnitFacts } from "@/core/record/standing";
import { Refused, together } from "./base";
import { guideOf } from "@/core/profile/guide";
import { leftOut, replay, type WorkEvent } from "@/core/mend/work";
import { modelById } from "./models";
import { provingOf, readProving, testerOf } from "./proving";
import type { UnitRow } from "@/db/tables";
import { loadSettings } from "./settings";
import { computed, rowsOf } from "@/db/joined";

export async function unitById(db: Knex, id: string): Promise<UnitRow> {
  const row = await db("unit").where({ id }).first();
  if (!row) throw new Refused({ code: "not-found", what: "unit" });
  return row;
}

/** The rows that a unit's standing is worked out from, each with who wrote it. */
export async function readFacts(db: Knex, unit: UnitRow) {
  const named = (table: string) => db(table).join("person", "person.id", `${table}.by`).where(`${table}.unit_id`, unit.id);
  const [tests, checks, faults, mends, loose, decision, recalled, steps, { settings }, proving] = await together(
    db,
    () =>
      rowsOf(
        named("recording").orderBy("started_at"),
        { recording: "recording", person: "person" },
        "recording.id",
        "recording.purpose",
        "recording.spot",
        "recording.started_at",
        "recording.duration_ms",
        "recording.grade",
        "recording.grades",
        "recording.source",
        "recording.opened_at",
        "recording.taken_why",
        "recording.taken_at",
        "person.name as person",
        computed<{ host: string; taken_person: string | null; repeated: boolean }>(
          // repeated: the same content stood here or at another unit before
          db.raw(
            `tester->>'host' as host, (select name from person t where t.id = recording.taken_by) as taken_person,
             exists (select 1 from recording o where o.sha256 = recording.sha256 and o.id <> recording.id
               and (o.at, o.id) < (recording.at, recording.id)) as repeated`,
          ),
        ),
      ),
    () =>
      rowsOf(
        named("function_check")
          .distinctOn("function_id")
          .orderBy([{ column: "function_id" }, { column: "function_check.id", order: "desc" }]),
        { function_check: "function_check", person: "person" },
        "function_check.function_id",
        "function_check.result",
        "function_check.note",
        "function_check.at",
        "person.name as person",
      ),
    () => rowsOf(named("fault").orderBy("number"), { fault: "fault", person: "person" }, "fault.*", "person.name as person"),
    () => rowsOf(named("mend").orderBy("number"), { mend: "mend", person: "person" }, "mend.*", "person.name as person"),
    () => db("fragment").where({ unit_id: unit.id, matched_to: null, explained: "" }).orderBy("number").pluck("number"),
    () => db("decision").where({ unit_id: unit.id }).orderBy("at", "desc").first("disposition", "faults"),
    () =>
      rowsOf(
        db("fitted as f")
          .join("batch as b", "b.id", "f.batch_id")
          .where({ "f.unit_id": unit.id, "f.removed_at": null })
          .whereIn("b.status", ["rejected", "disposed"])
          .groupBy("b.code")
          .orderBy("b.code"),
        { b: "batch" },
        "b.code",
      ),
    () =>
      rowsOf(
        db("work_event as e")
          .join("work_order as o", "o.id", "e.work_order_id")
          .where({ "o.unit_id": unit.id, "e.undone": false })
          .orderBy("e.id"),
        { e: "work_event", o: "work_order" },
        "e.body",
        "e.at",
        "o.status",
        "o.profile_id",
        "o.revision",
      ),
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
  const proves = (t: (typeof tests)[number]) =>
    mayProve({ source: t.source, opened: t.opened_at !== null, taken: t.taken_why !== null, repeated: t.repeated });
  const retests = tests
    .filter((t) => t.purpose !== "quick" && proves(t))
    .map((t) => ({ at: t.started_at, works: t.grade !== "fail" }));
  return {
    proving: provingOf(proving, mends, profile, settings.prove, retests),
    recalled: recalled.map((b) => b.code),
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
