import "server-only";

import type { Knex } from "knex";

import type { Grade } from "@/core/grade/grade";
import { controlsOf, functionsOf, type ModelProfile } from "@/core/profile/profile";
import {
  controlBlocksOf,
  earlyActionOf,
  functionBlocksOf,
  type NextAction,
  nextActionOf,
  proofActionOf,
  stationFor,
} from "@/core/record/standing";
import {
  checksOf,
  earlyOf,
  loadFacts,
  proofFactsOf,
  readChecks,
  readEarly,
  readProof,
  type UnitEarly,
} from "./facts";
import { modelById } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { dayOf } from "@/core/days/days";
import type { UnitRow } from "@/platform/db/tables";

/** Where a unit stands, kept beside its record for lists and counts. */

/**
 * Works out again where units stand and writes it beside the record, for lists, and where they were day by
 * day. The deed runner does it after every change that bears on them, once its events are written: a stay
 * begins with the latest one.
 */
export async function refreshStandings(db: Knex, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  const { settings } = await loadSettings(db);
  for (const unit of await readEarly(db, ids)) {
    const profile = await modelById(db, unit.profile_id);
    const action = await actionOf(db, unit, profile.body, settings.floor);
    const stage = action === "closed" || action === "quarantine" ? action : stationFor(action);
    const standing = db("unit").where({ id: unit.id }).update({ next_action: action, stage });
    if (unit.stay_stage !== stage) await moveStay(db, unit, standing, profile.key, stage, settings.timeZone);
    else if (unit.next_action !== action || unit.stage !== stage) await standing;
  }
}

/** No more is asked for than the answer needs. */
async function actionOf(db: Knex, unit: UnitEarly, profile: ModelProfile, floor: Grade): Promise<NextAction> {
  const early = earlyActionOf(earlyOf(unit));
  if (early !== null) return early;
  const facts = proofFactsOf(await readProof(db, unit.id));
  const action = proofActionOf(facts);
  if (action !== null) return action;
  const controls = controlsOf(profile, unit.revision).map((c) => c.id);
  const functions = functionsOf(profile, unit.revision).map((f) => f.id);
  if (controlBlocksOf({ ...facts, controls, floor }).length > 0) return "settle-blocks";
  const checks = checksOf(await readChecks(db, unit.id));
  if (functionBlocksOf({ ...facts, functions, checks }).length > 0) return "settle-blocks";
  return nextActionOf(await loadFacts(db, unit, profile, floor));
}

/**
 * Ends the stay at the last stage and begins the next; the counts of the day follow. Two questions for the
 * four rows.
 */
async function moveStay(
  db: Knex,
  unit: UnitEarly,
  standing: Knex.QueryBuilder,
  model: string,
  stage: UnitRow["stage"],
  zone: string,
): Promise<void> {
  const noted = unit.noted ?? new Date();
  const at = unit.came_at && noted < unit.came_at ? unit.came_at : noted;
  const counts = [
    ...(unit.stay_stage === null ? [] : [{ stage: unit.stay_stage, delta: -1 }]),
    { stage, delta: 1 },
  ];
  // always in the order of the names, so that two moves the other way round wait for each other and never
  // lock up
  counts.sort((a, b) => (a.stage < b.stage ? -1 : 1));
  await db
    .with("standing", standing)
    .with("gone", db("stay").where({ unit_id: unit.id, left_at: null }).update({ left_at: at }))
    .insert(counts.map((c) => ({ day: dayOf(at, zone), model, ...c })))
    .into("stage_day")
    .onConflict(["day", "model", "stage"])
    .merge({ delta: db.raw("stage_day.delta + excluded.delta") });
  await db("stay").insert({ unit_id: unit.id, stage, came_at: at });
}
