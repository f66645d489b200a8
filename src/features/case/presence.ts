import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { figuresOf } from "@/platform/db/joined";
import { type Actor, nothing } from "@/platform/deed/base";
import { deed } from "@/platform/deed/declare";

/** Who is at which unit, and for how long. */

const PRESENT_GAP = "90 seconds";

/**
 * Counts the time that a unit's page is open: the last stretch is made longer, or a new one begins after a
 * pause.
 */
export const bePresent = deed("bench.present", {}, async ({ db, actor }, { unitId }) => {
  const longer = await db("bench_time")
    .where({ unit_id: unitId, person_id: actor.id })
    .whereRaw(`seen_at > now() - interval '${PRESENT_GAP}'`)
    .update({ seen_at: db.fn.now() });
  if (longer === 0) await db("bench_time").insert({ unit_id: unitId, person_id: actor.id });
  return nothing;
});

/** Minutes at the bench with this unit since a moment, by this person. */
export async function minutesSince(db: Knex, unitId: Id<"unit">, actor: Actor, since: Date): Promise<number> {
  const row = await figuresOf<{ seconds: number }>(
    db("bench_time").where({ unit_id: unitId, person_id: actor.id }).where("seen_at", ">", since),
    db.raw("coalesce(sum(extract(epoch from seen_at - greatest(began_at, ?))), 0)::float as seconds", [
      since,
    ]),
  );
  return Math.round(row.seconds / 60);
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [bePresent] as const;
