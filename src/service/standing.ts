import "server-only";

import type { Knex } from "knex";

import { nextActionOf, stationFor } from "@/core/record/standing";
import { loadFacts, unitById } from "./facts";
import { modelById } from "./models";
import { loadSettings } from "./settings";
import { dayOf } from "@/core/days/days";
import type { UnitRow } from "@/db/tables";

/** Where a unit stands, kept beside its record for lists and counts. */

/**
 * Works out the unit's stage again and writes it beside the record, for lists, and where it was day by day. The deed runner
 * does it after every change that bears on a unit, once its events are written: a stay begins with the latest one.
 */
export async function refreshStanding(db: Knex, unitId: string): Promise<void> {
  const unit = await unitById(db, unitId);
  const profile = await modelById(db, unit.profile_id);
  const { settings } = await loadSettings(db);
  const action = nextActionOf(await loadFacts(db, unit, profile.body, settings.floor));
  const stage = action === "closed" ? "closed" : action === "quarantine" ? "quarantine" : stationFor(action);
  await db("unit").where({ id: unitId }).update({ next_action: action, stage });
  await moveStay(db, unitId, profile.key, stage, settings.timeZone);
}

/** Ends the stay at the last stage and begins the next; the counts of the day follow. */
async function moveStay(db: Knex, unitId: string, model: string, stage: UnitRow["stage"], zone: string): Promise<void> {
  const open = await db("stay").where({ unit_id: unitId, left_at: null }).first("id", "stage", "came_at");
  if (open?.stage === stage) return;
  const last = await db("event").where({ unit_id: unitId }).orderBy("id", "desc").first("at");
  const noted: Date = last?.at ?? new Date();
  const at = open && noted < open.came_at ? open.came_at : noted;
  if (open) await db("stay").where({ id: open.id }).update({ left_at: at });
  await db("stay").insert({ unit_id: unitId, stage, came_at: at });
  const day = dayOf(at, zone);
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
