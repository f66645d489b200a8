import "server-only";

import type { Knex } from "knex";

import type { Grade } from "@/core/grade/grade";
import { controlsOf, functionsOf, type ModelProfile } from "@/core/profile/profile";
import {
  type EarlyFacts,
  mayProve,
  type ProofFacts,
  type RecordedCheck,
  type UnitFacts,
} from "@/core/record/standing";
import { onceIn, Refused, together } from "@/platform/deed/base";
import { renewedBy } from "@/core/case/ageing";
import { guideOf } from "@/core/profile/guide";
import { loadRoutes } from "@/features/routes/deeds";
import { leftOut, replay, type WorkEvent } from "@/core/mend/work";
import { modelById } from "@/features/models/deeds";
import { type ButtonPresses, type DoneInside, pooledPresses, releaseRisk } from "@/core/prove/presses";
import { isHandwork, provingOf, readProving, testerOf } from "./proving";
import type { UnitRow } from "@/platform/db/tables";
import { loadSettings } from "@/features/settings/settings";
import { rowsBy } from "@/platform/db/batched";
import { symptomsOf } from "./symptoms";
import { stillUnsettled } from "./aged";
import { computed, figuresOf, rowsOf } from "@/platform/db/joined";
import type { Id } from "@/core/base/ids";

export async function unitById(db: Knex, id: string): Promise<UnitRow> {
  const row = await db("unit").where({ id }).first();
  if (!row) throw new Refused({ code: "not-found", what: "unit" });
  return row;
}

/**
 * Open faults of a unit, and the latest answer of each of its functions: one question for all who ask at the
 * same moment.
 */
export const openFaultsBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("fault as f").whereIn("f.unit_id", unitIds).where("f.status", "open").orderBy("f.number"),
    { f: "fault" },
    "f.id",
    "f.number",
    "f.place",
    "f.measure",
    "f.unit_id as of",
  ),
);
/** The same with each symptom as a line of its own under the fault's number: what is to be treated at each place. */
export async function openSymptomsOf(db: Knex, unitId: Id<"unit">) {
  const [faults, symptoms] = await together(
    db,
    () => openFaultsBy(db, unitId),
    () => symptomsOf(db, unitId),
  );
  return faults.flatMap(({ id, number, place, measure }) => [
    { id, number, place, measure },
    ...symptoms.flatMap((s) =>
      s.faultId === id ? [{ id, number, place: s.place, measure: s.measure }] : [],
    ),
  ]);
}
export const answersBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("function_check as c")
      .distinctOn("c.unit_id", "c.function_id")
      .whereIn("c.unit_id", unitIds)
      .orderBy([{ column: "c.unit_id" }, { column: "c.function_id" }, { column: "c.id", order: "desc" }]),
    { c: "function_check" },
    "c.function_id",
    "c.result",
    "c.unit_id as of",
  ),
);

/** A unit with what settles most next actions, and where it was until now. */
export type UnitEarly = Awaited<ReturnType<typeof readEarly>>[number];

/**
 * Asked in one go, so that a change costs few questions; of several units at once, in the order of their ids.
 */
export const readEarly = (db: Knex, ids: readonly string[]) =>
  rowsOf(
    db("unit as u")
      .joinRaw("left join stay as s on s.unit_id = u.id and s.left_at is null")
      .whereIn("u.id", ids)
      .orderBy("u.id"),
    { u: "unit", s: "stay?" },
    "u.*",

    "s.stage as stay_stage",
    "s.came_at",
    computed<{
      begun: boolean;
      tested: boolean;
      open: number[];
      decided: UnitFacts["decided"];
      noted: Date | null;
    }>(
      db.raw(
        `exists (select 1 from work_order o join work_event e on e.work_order_id = o.id
           where o.unit_id = u.id and o.status = 'open' and not e.undone) as begun,
         exists (select 1 from recording r where r.unit_id = u.id and r.purpose = 'full') as tested,
         array(select number from fault f where f.unit_id = u.id and f.status = 'open') as open,
         (select jsonb_build_object('disposition', disposition, 'faults', faults) from decision d
           where d.unit_id = u.id order by d.at desc limit 1) as decided,
         (select at from event where unit_id = u.id order by id desc limit 1) as noted`,
      ),
    ),
  );
export const earlyOf = ({
  swollen,
  liquid,
  liquid_cleared,
  ending,
  begun,
  tested,
  open,
  decided,
}: UnitEarly): EarlyFacts => ({
  swollen,
  liquid,
  liquidCleared: liquid_cleared !== null,
  ending,
  begun,
  tested,
  open,
  decided,
});

type OfPerson = "recording" | "function_check" | "fault" | "mend";
const named = (db: Knex, table: OfPerson, unitId: Id<"unit">) =>
  db(`${table} as t`).join("person as p", "p.id", "t.by").where("t.unit_id", unitId);

// what follows is asked before a change and after it: a change that does not touch it asks once
const readTests = (db: Knex, unitId: Id<"unit">) =>
  onceIn(db, `tests ${unitId}`, ["recording", "person"], () =>
    rowsOf(
      named(db, "recording", unitId).orderBy("t.started_at"),
      { t: "recording", p: "person" },
      "t.id",
      "t.purpose",
      "t.spot",
      "t.started_at",
      "t.duration_ms",
      "t.grade",
      "t.grades",
      "t.source",
      "t.opened_at",
      "t.taken_why",
      "t.taken_at",
      "p.name as person",
      computed<{
        host: string;
        taken_person: string | null;
        repeated: boolean;
        presses: Record<string, number[]> | null;
      }>(
        // repeated: the same content stood here or at another unit before
        db.raw(
          `t.tester->>'host' as host, (select name from person k where k.id = t.taken_by) as taken_person,
         exists (select 1 from recording o where o.sha256 = t.sha256 and o.id <> t.id and (o.at, o.id) < (t.at, t.id)) as repeated,
         (select jsonb_object_agg(c.key, jsonb_build_array(
            coalesce(c.value->'cues', '0'), coalesce(c.value->'missed', '0'),
            coalesce(c.value->'rim'->'cues', '0'), coalesce(c.value->'rim'->'missed', '0')))
          from jsonb_each(t.analysis->'controls') c where c.value->>'kind' = 'button') as presses`,
        ),
      ),
    ),
  );
const readMends = (db: Knex, unitId: Id<"unit">) =>
  onceIn(db, `mends ${unitId}`, ["mend", "person"], () =>
    rowsOf(
      named(db, "mend", unitId).orderBy("t.number"),
      { t: "mend", p: "person" },
      "t.*",
      "p.name as person",
    ),
  );
export const readSteps = (db: Knex, unitId: Id<"unit">) =>
  onceIn(db, `steps ${unitId}`, ["work_event", "work_order", "person"], () =>
    rowsOf(
      db("work_event as e")
        .join("work_order as o", "o.id", "e.work_order_id")
        .join("person as p", "p.id", "e.by")
        .where({ "o.unit_id": unitId, "e.undone": false })
        .orderBy("e.id"),
      { e: "work_event", o: "work_order", p: "person" },
      "e.body",
      "e.at",
      "o.status",
      "o.profile_id",
      "o.revision",
      "p.name as person",
    ),
  );

/** The latest answer of each function. */
export const readChecks = (db: Knex, unitId: Id<"unit">) =>
  onceIn(db, `checks ${unitId}`, ["function_check", "person"], () =>
    rowsOf(
      named(db, "function_check", unitId)
        .distinctOn("t.function_id")
        .orderBy([{ column: "t.function_id" }, { column: "t.id", order: "desc" }]),
      { t: "function_check", p: "person" },
      "t.function_id",
      "t.result",
      "t.note",
      "t.at",
      "p.name as person",
    ),
  );
const readFaults = (db: Knex, unitId: Id<"unit">) =>
  onceIn(db, `faults ${unitId}`, ["fault", "person"], () =>
    rowsOf(
      named(db, "fault", unitId).orderBy("t.number"),
      { t: "fault", p: "person" },
      "t.*",
      "p.name as person",
    ),
  );
const symptomsIn = (db: Knex, unitId: Id<"unit">) =>
  onceIn(db, `symptoms ${unitId}`, ["symptom"], () => symptomsOf(db, unitId));
/** Where faults showed themselves, also what is cured by now. */
const readShown = (db: Knex, unitId: Id<"unit">) =>
  onceIn(db, `shown ${unitId}`, ["symptom"], () =>
    db("symptom").where({ unit_id: unitId }).select("fault_id", "place"),
  );
const readRest = (db: Knex, unitId: Id<"unit">) =>
  onceIn(
    db,
    `rest ${unitId}`,
    ["fragment", "fitted", "batch", "decision", "bench_reading", "observation"],
    () =>
      figuresOf<{
        loose: number[];
        recalled: string[];
        decision: UnitFacts["decided"];
        /** whether any reading at the bench ever was no pass, or anything was seen inside: only then its facts are asked */
        unsure: boolean;
      }>(
        db("unit as u").where("u.id", unitId),
        db.raw(
          `array(select number from fragment f where f.unit_id = u.id and f.matched_to is null and f.explained = '' order by number) as loose,
           array(select distinct b.code from fitted f join batch b on b.id = f.batch_id where f.unit_id = u.id and f.removed_at is null
             and b.status in ('rejected', 'disposed') order by b.code) as recalled,
           (select jsonb_build_object('disposition', disposition, 'faults', faults) from decision d
             where d.unit_id = u.id order by d.at desc limit 1) as decision,
           (exists (select 1 from bench_reading b where b.unit_id = u.id and b.verdict <> 'pass')
             or exists (select 1 from observation o where o.unit_id = u.id and not o.withdrawn and o.kind in ('place', 'check'))) as unsure`,
        ),
      ),
  );
export const checksOf = (rows: Awaited<ReturnType<typeof readChecks>>): RecordedCheck[] =>
  rows.map((c) => ({ functionId: c.function_id, result: c.result, at: c.at }));

/** What says which test proves a unit. */
export async function readProof(db: Knex, unitId: Id<"unit">) {
  const [tests, mends, steps] = await together(
    db,
    () => readTests(db, unitId),
    () => readMends(db, unitId),
    () => readSteps(db, unitId),
  );
  return { tests, mends, steps };
}
type ProofRows = Awaited<ReturnType<typeof readProof>>;

const isMade = (t: ProofRows["tests"][number]): boolean =>
  mayProve({
    source: t.source,
    opened: t.opened_at !== null,
    taken: t.taken_why !== null,
    repeated: t.repeated,
  });

export const proofFactsOf = ({ tests, mends, steps }: ProofRows): ProofFacts => ({
  tests: tests.map((t) => ({
    id: t.id,
    purpose: t.purpose,
    startedAt: t.started_at,
    grade: t.grade,
    controls: t.grades,
    tester: testerOf(t.source, t.host),
    proves: isMade(t),
    by: t.person,
  })),
  mends: mends.map(({ at, opened }) => ({ at, opened })),
  lastStep: steps.filter((e) => isHandwork(e.body)).at(-1)?.at ?? null,
});

/** The rows that a unit's standing is worked out from, each with who wrote it. */
export async function readFacts(db: Knex, unit: UnitRow) {
  const [proof, checks, faults, symptoms, rest, { settings }, proving, { value: routes }, shown] =
    await together(
      db,
      () => readProof(db, unit.id),
      () => readChecks(db, unit.id),
      () => readFaults(db, unit.id),
      () => symptomsIn(db, unit.id),
      () => readRest(db, unit.id),
      () => loadSettings(db),
      () => readProving(db, unit),
      () => loadRoutes(db),
      () => readShown(db, unit.id),
    );
  return { ...proof, checks, faults, symptoms, ...rest, settings, proving, routes, shown };
}

/** Loads what a unit's standing is worked out from. */
export const loadFacts = async (
  db: Knex,
  unit: UnitRow,
  profile: ModelProfile,
  floor: Grade,
): Promise<UnitFacts> => factsOf(db, unit, profile, floor, await readFacts(db, unit));

/**
 * The presses of each button since anything was last done at it. A test with another force than the usual says
 * nothing of the usual one; work whose fault lies at no control may have moved any, and work at a fault moved all that it
 * showed itself by, and all that a new part serves.
 */
export function pressesOf(
  {
    tests,
    mends,
    steps,
    faults,
    routes,
    shown,
  }: Pick<Awaited<ReturnType<typeof readFacts>>, "tests" | "mends" | "steps" | "faults" | "routes" | "shown">,
  profile: ModelProfile,
  revision: string | null,
): Record<string, ButtonPresses> {
  const controls = new Set(controlsOf(profile, revision).map((c) => c.id));
  const placeOf = (faultId: string | null) => faults.find((f) => f.id === faultId)?.place ?? "";
  const usual = tests.filter(
    (t) => t.purpose !== "quick" && isMade(t) && (t.spot === null || t.spot.force === "normal"),
  );
  return pooledPresses(
    usual.map((t) => ({
      at: t.started_at,
      presses: Object.fromEntries(
        Object.entries(t.presses ?? {}).map(([id, [cues = 0, missed = 0, rimCues = 0, rimMissed = 0]]) => [
          id,
          { middle: { presses: cues, missed }, rim: { presses: rimCues, missed: rimMissed } },
        ]),
      ),
    })),
    [
      ...mends.flatMap((m): DoneInside[] => {
        const place = placeOf(m.fault_id);
        if (!controls.has(place)) return [{ at: m.at, control: null }];
        const route = routes.find((r) => r.id === m.route) ?? null;
        const cured = shown.flatMap((x) => (x.fault_id === m.fault_id ? [x.place] : []));
        const all = [place, ...cured, ...renewedBy({ place, route, slots: profile.slots })];
        return [...new Set(all)].map((control) => ({ at: m.at, control }));
      }),
      ...steps.filter((e) => e.body.kind === "task").map((e) => ({ at: e.at, control: null })),
    ],
  );
}

export async function factsOf(
  db: Knex,
  unit: UnitRow,
  profile: ModelProfile,
  floor: Grade,
  rows: Awaited<ReturnType<typeof readFacts>>,
): Promise<UnitFacts> {
  const { tests, checks, faults, mends, loose, decision, recalled, unsure, steps, settings, proving } = rows;
  const open = steps.filter((e) => e.status === "open");
  const order = open[0];
  const guide = order && (await modelById(db, order.profile_id)).body.guide;
  const state = guide
    ? replay(
        guideOf(guide, order.revision),
        open.map((e): WorkEvent => e.body),
      )
    : null;
  const retests = tests
    .filter((t) => t.purpose !== "quick" && isMade(t))
    .map((t) => ({ at: t.started_at, works: t.grade !== "fail" }));
  const pressed = pressesOf(rows, profile, unit.revision);
  return {
    ...proofFactsOf(rows),
    proving: {
      ...provingOf(proving, mends, steps, profile, settings.prove, retests),
      risk: releaseRisk(pressed),
    },
    recalled,
    apart: {
      items: state ? leftOut(state).length : 0,
      steps: state?.apart.length ?? 0,
      begun: open.length > 0,
    },
    decided: decision,
    looseFragments: loose,
    ...(unsure ? await stillUnsettled(db, unit, profile) : { readings: [], broken: [] }),
    swollen: unit.swollen,
    liquid: unit.liquid,
    liquidCleared: unit.liquid_cleared !== null,
    ending: unit.ending,
    checks: checksOf(checks),
    functions: functionsOf(profile, unit.revision).map((f) => f.id),
    controls: controlsOf(profile, unit.revision).map((c) => c.id),
    faults: faults.map(({ id, number, status }) => ({ id, number, status })),
    floor,
  };
}
