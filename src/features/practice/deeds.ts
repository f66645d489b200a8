import "server-only";

import { randomInt, randomUUID } from "node:crypto";

import type { Knex } from "knex";

import { intakeSchema } from "@/contract/intake";
import type { Disposition } from "@/core/decide/ends";
import type { DecideInput } from "@/core/decide/build";
import { seeded } from "@/core/math/random";
import { canHide, toldOf, type Hidden, hideFaults, type Level, withPart } from "@/core/practice/hidden";
import { type Review, type Scored, scoreOf } from "@/core/practice/score";
import { checkLibrary } from "@/core/diagnosis/checks";
import { graphOf } from "@/core/diagnosis/graph";
import { controlsOf, type ModelProfile, placeName } from "@/core/profile/profile";
import { checkWords } from "@/features/find/words/text";
import { loadRoutes } from "@/features/routes/deeds";
import { USUAL_MINUTES } from "@/core/protocol/protocol";
import { houseDatabase, PRACTICE_SCHEMA, practiceDatabase } from "@/platform/db/connection";
import { migrate } from "@/platform/db/migrate";
import { type Actor, Refused } from "@/platform/deed/base";
import { caseFileOf, decideInput, solve } from "@/features/decide/input";
import { doDeed } from "@/features/deeds";
import { unitById } from "@/features/case/facts";
import { symptomsOf } from "@/features/case/symptoms";
import { modelById, modelByKey } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { sellerText } from "@/features/practice/words/text";
import { offThread } from "@/platform/work/pool";
import { seedOf } from "./inside";
import { asked, figuresOf, hasTable, rowsOf } from "@/platform/db/joined";
import type { Id } from "@/core/base/ids";

/**
 * The practice bench: simulated units with hidden faults, worked on with the real screens. They lie in a
 * schema of their own with copies of the shop's people, models and settings, so that nothing of it can reach
 * the real records.
 */

const MOST_SECONDS = 60;

/** Makes the practice bench or brings it up to date with the shop's people, models and settings. */
export async function preparePractice(): Promise<Knex> {
  const house = houseDatabase();
  const db = practiceDatabase();
  if (await hasTable(house, `${PRACTICE_SCHEMA}.person`)) {
    // the same name with another id: the workshop was begun anew or read in from an archive, and the old
    // practice is nobody's
    const rows = await asked(
      house,
      `select 1 from ${PRACTICE_SCHEMA}.person p join person h on lower(h.name) = lower(p.name) and h.id <> p.id limit 1`,
    );
    if (rows.length) await house.raw(`drop schema ${PRACTICE_SCHEMA} cascade`);
  }
  await house.raw(`create schema if not exists ${PRACTICE_SCHEMA}`);
  await migrate(db);
  await house.raw(`
    insert into ${PRACTICE_SCHEMA}.person select * from person on conflict (id) do update
      set name = excluded.name, role = excluded.role, active = excluded.active, skill = excluded.skill, hours = excluded.hours;
    insert into ${PRACTICE_SCHEMA}.model_profile (id, key, version, body, by, at)
      select id, key, version, body, by, at from model_profile on conflict do nothing;
    insert into ${PRACTICE_SCHEMA}.setting select * from setting on conflict (key) do update
      set value = excluded.value, version = excluded.version;`);
  return db;
}

/** Takes a practice unit in, with its faults hidden. */
export async function beginExercise(
  actor: Actor,
  level: Level,
  model: string,
  after: string | null,
): Promise<{ tag: string }> {
  const db = await preparePractice();
  const own = after === null ? null : await hardCase(houseDatabase(), after);
  if (after !== null && !own) throw new Refused({ code: "not-found", what: "case" });
  const profile = await modelByKey(db, own?.model ?? model);
  if (!profile) throw new Refused({ code: "not-found", what: "model" });
  const revision = own ? own.revision : profile.body.revisions[randomInt(profile.body.revisions.length)]!.id;
  const hidden = own?.hidden ?? hideFaults(profile.body, revision, level, seeded(randomInt(2 ** 31)));
  const reply = await doDeed(db, actor, "unit.take-in", randomUUID(), {
    profileKey: profile.key,
    revision,
    origin: { source: "single", seller: "practice", priceMinor: 900, carriageMinor: 390 },
    claim: own ? own.claim : sellerText(toldOf(profile.body, hidden, level)),
    swollen: false,
    liquid: false,
    intake: intakeSchema.parse({ accessories: profile.body.accessories.map((a) => a.id) }),
    toTray: false,
  });
  if (!reply.ok) throw new Refused(reply.problem);
  const { tag, unitId } = reply.value as { tag: string; unitId: Id<"unit"> };
  await db("exercise").insert({
    unit_id: unitId,
    person_id: actor.id,
    level,
    from_tag: after ?? "",
    hidden: JSON.stringify(hidden),
  });
  return { tag };
}

type HardCase = {
  tag: string;
  model: string;
  modelName: string;
  revision: string | null;
  claim: string;
  hidden: Hidden[];
};

/**
 * Closed units that took more than one try or came back, as far as the simulated controller can have their
 * faults.
 */
export async function hardCases(db: Knex, most = 12): Promise<HardCase[]> {
  const rows: { id: string; tag: string; claim: string; revision: string | null; profile_id: string }[] =
    await rowsOf(
      db("unit as u")
        .whereNotNull("u.ending")
        .where((w) =>
          w
            .whereExists(db("comeback as c").whereRaw("c.unit_id = u.id"))
            .orWhereExists(db("mend as m").whereRaw("m.unit_id = u.id and m.outcome = 'failed'")),
        )
        .orderBy("u.closed_at", "desc")
        .limit(most),
      { u: "unit" },
      "u.id",
      "u.tag",
      "u.claim",
      "u.revision",
      "u.profile_id",
    );
  const faults: { unit_id: string; place: string; measure: string | null }[] = await db("fault")
    .whereIn(
      "unit_id",
      rows.map((r) => r.id),
    )
    .whereNot({ status: "withdrawn" })
    .orderBy("number")
    .select("unit_id", "place", "measure");
  const out: HardCase[] = [];
  for (const r of rows) {
    const { key, body } = await modelById(db, r.profile_id);
    const controls = controlsOf(body, r.revision);
    const hidden = faults
      .filter(
        (f) =>
          f.unit_id === r.id &&
          canHide(
            controls.find((c) => c.id === f.place),
            f.measure,
          ),
      )
      .map((f): Hidden => ({ place: f.place, measure: f.measure! }))
      .slice(0, 6)
      .map((h) => withPart(body, r.revision, h, seeded(seedOf(`${r.tag} ${h.place}`))));
    if (hidden.length)
      out.push({
        tag: r.tag,
        model: key,
        modelName: body.name,
        revision: r.revision,
        claim: r.claim,
        hidden,
      });
  }
  return out;
}

const hardCase = async (db: Knex, tag: string): Promise<HardCase | null> =>
  (await hardCases(db, 60)).find((c) => c.tag === tag) ?? null;

/** Ends an exercise: what was named, decided and spent is held against the truth. */
export async function endExercise(actor: Actor, exerciseId: Id<"exercise">): Promise<Scored> {
  const db = practiceDatabase();
  const row = await db("exercise").where({ id: exerciseId, person_id: actor.id, ended_at: null }).first();
  if (!row) throw new Refused({ code: "already", what: "exercise" });
  const hidden = row.hidden;
  const unit = await unitById(db, row.unit_id);
  const profile = await modelById(db, unit.profile_id);
  const { settings } = await loadSettings(db);
  const faults = await db("fault")
    .where({ unit_id: unit.id })
    .whereNot({ status: "withdrawn" })
    .select("number", "place", "measure", "at");
  const named = [
    ...new Set([...faults.map((f) => f.place), ...(await symptomsOf(db, unit.id)).map((x) => x.place)]),
  ];
  const tests = await figuresOf<{ ms: number; full: number | null }>(
    db("recording").where({ unit_id: unit.id }),
    db.raw(
      "coalesce(sum(duration_ms), 0)::float8 as ms, min(duration_ms) filter (where purpose = 'full')::float8 as full",
    ),
  );
  const checks = await figuresOf<{ ms: number }>(
    db("function_check").where({ unit_id: unit.id }),
    db.raw("coalesce(sum(took_ms), 0)::float8 as ms"),
  );
  const {
    causes: _causes,
    whole: _whole,
    checks: _checks,
    ...known
  } = await decideInput(db, { unit, profile, settings });
  const input: DecideInput = {
    ...known,
    untested: [], // the truth is known here
    hiddenBad: 0,
    faults: hidden.map((h, i) => ({ id: `${i + 1}`, number: i + 1, place: h.place, measure: h.measure })),
  };
  const truth = await solve(input);
  const firstOf = (tree: typeof truth.tree): string =>
    tree.do === "try" ? truth.options[tree.attempt]!.route.name : "";
  const decision = await db("decision")
    .where({ unit_id: unit.id })
    .orderBy("at", "desc")
    .first("disposition", "route");
  const chosenMinor = decision ? await valueOf(input, decision) : null;
  // the policy looked at again: what each act lost by what was known before it
  const { steps, held } = await offThread(
    "review",
    {
      file: await caseFileOf(db, { unit, profile, settings }),
      parts: hidden.flatMap((h) => h.part ?? []),
      named: faults.map((f) => ({ ...f, at: f.at.toISOString() })),
    },
    MOST_SECONDS,
  );
  const score = scoreOf({
    hidden,
    stepsLostMinor: steps.length > 0 ? steps.reduce((sum, x) => sum + x.lostMinor, 0) : null,
    named,
    minutes: Math.round((tests.ms + checks.ms) / 6000) / 10,
    // one full test shows all of it: as long as the one that was made, else as the house reckons
    bestMinutes: tests.full === null ? USUAL_MINUTES.guided : Math.round(tests.full / 6000) / 10,
    chosenMinor,
    bestMinor: Math.round(truth.value),
  });
  const review: Review = {
    best: truth.best,
    route: firstOf(truth.tree),
    bestMinor: Math.round(truth.value),
    chosen: decision?.disposition ?? null,
    chosenRoute: input.routes.find((r) => r.id === decision?.route)?.name ?? "",
    chosenMinor,
    steps,
    held,
  };
  await db("exercise")
    .where({ id: exerciseId })
    .update({ ended_at: db.fn.now(), score: JSON.stringify({ ...score, review }) });
  return { ...score, review };
}

/** What a decision is worth when the faults are what they really are. */
async function valueOf(
  input: DecideInput,
  decision: { disposition: Disposition; route: string | null },
): Promise<number> {
  const { disposition, route } = decision;
  const going = disposition === "mend" || disposition === "hold";
  const first = input.routes.find((r) => r.id === route);
  // a first route that was chosen stands in for the others of its kind at that fault
  const families = new Set(first?.treats.map((t) => t.family) ?? []);
  const routes =
    going && first
      ? input.routes.filter((r) => r.id === first.id || !r.treats.some((t) => families.has(t.family)))
      : input.routes;
  const end = (await solve({ ...input, routes })).ends.find((e) => e.disposition === disposition);
  return Math.round(end?.value ?? 0);
}

export type ExerciseView = {
  id: string;
  tag: string;
  model: string;
  level: number;
  fromTag: string;
  beganAt: string;
  ended: boolean;
  /** what was hidden; told only once it is over */
  hidden: Hidden[];
  score: Scored | null;
  /** what its acts are called: checks and routes by their ids */
  names: Record<string, string>;
};

/** The exercises of somebody, newest first; none where nobody practised yet. */
export async function exercisesOf(actor: Actor): Promise<ExerciseView[]> {
  if (!(await hasTable(houseDatabase(), `${PRACTICE_SCHEMA}.exercise`))) return [];
  const rows = await rowsOf(
    practiceDatabase()("exercise as e")
      .join("unit as u", "u.id", "e.unit_id")
      .join("model_profile as m", "m.id", "u.profile_id")
      .where("e.person_id", actor.id)
      .orderBy("e.began_at", "desc")
      .limit(40),
    { e: "exercise", u: "unit", m: "model_profile" },
    "e.*",
    "u.tag",
    "u.revision",
    "m.name as model",
    "m.body",
  );
  const { value: routes } = await loadRoutes(practiceDatabase());
  const routeNames = Object.fromEntries(routes.map((r) => [r.id, r.name]));
  return rows.map((r) => ({
    id: r.id,
    tag: r.tag,
    model: r.model,
    level: r.level,
    fromTag: r.from_tag,
    beganAt: r.began_at.toISOString(),
    ended: r.ended_at !== null,
    hidden: r.ended_at === null ? [] : r.hidden,
    score: r.score,
    names: { ...routeNames, ...checkNames(r.body, r.revision, r.score) },
  }));
}

/** The names of the checks that an exercise was reviewed by. */
function checkNames(
  body: ModelProfile,
  revision: string | null,
  score: Scored | null,
): Record<string, string> {
  const { wiring } = body;
  const asked = (score?.review.steps ?? []).flatMap((x) => [x, x.best]).filter((x) => x.act === "check");
  if (!wiring || asked.length === 0) return {};
  const things = [...body.controls, ...body.functions];
  const nameOf = (id: string) => placeName(things.find((t) => t.id === id) ?? { id });
  return Object.fromEntries(
    checkLibrary(graphOf(wiring, revision), wiring)
      .filter((c) => asked.some((a) => a.id === c.id))
      .map((c) => [c.id, checkWords(c, wiring, nameOf)]),
  );
}
