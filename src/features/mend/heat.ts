import "server-only";

import type { Knex } from "knex";

import { type ChipHeat, heatCycles, holesNotReady, isTooHot } from "@/core/mend/solder";
import { nothing, Refused, stamp } from "@/platform/deed/base";
import { modelById, modelByKey } from "@/features/models/deeds";
import { deed, namedUnit } from "@/platform/deed/declare";
import { rowsOf } from "@/platform/db/joined";
import { tooHotText } from "@/features/mend/words/text";
import { say } from "@/features/mend/words/words";
import type { Id } from "@/core/base/ids";

/**
 * Solder work on a unit: each operation with its setting, the chips that took the heat, the holes and the
 * joints.
 */

export const addHeat = deed(
  "heat.add",
  { unit: namedUnit, workable: true },
  async ({ db, actor, note, unit }, { unitId: _unit, job, holes, joints, chips, ...rest }) => {
    const own = await modelById(db, unit.profile_id);
    const guide = ((await modelByKey(db, own.key)) ?? own).body.guide;
    const known = guide?.solder.find((j) => j.id === job);
    if (!known) throw new Refused({ code: "not-found", what: say("solderOperation2") });
    if (isTooHot(known, rest.celsius, rest.exception))
      throw new Refused({ code: "too-hot", why: tooHotText(known) });
    // joints are soldered: the holes were open before
    const notReady = joints.length ? holesNotReady(known, holes) : [];
    if (notReady.length) throw new Refused({ code: "holes-first", holes: notReady });
    await db("heat").insert({
      unit_id: unit.id,
      job,
      ...rest,
      chips: JSON.stringify(chips),
      holes: JSON.stringify(holes),
      joints: JSON.stringify(joints),
      ...stamp(db, actor),
    });
    note("soldered", unit.id, { job, celsius: rest.celsius, chips });
    return nothing;
  },
);

export type HeatView = {
  id: string;
  job: string;
  celsius: number;
  exception: string;
  method: string;
  chips: string[];
  shielded: string;
  holes: number;
  joints: string[];
  by: string;
  at: string;
};
export async function heatOf(
  db: Knex,
  unitId: Id<"unit">,
): Promise<{ entries: HeatView[]; chips: ChipHeat[] }> {
  const rows = await rowsOf(
    db("heat").join("person", "person.id", "heat.by").where({ unit_id: unitId }).orderBy("heat.at", "desc"),
    { heat: "heat", person: "person" },
    "heat.*",
    "person.name as person",
  );
  return {
    entries: rows.map((r) => ({
      id: r.id,
      job: r.job,
      celsius: r.celsius,
      exception: r.exception,
      method: r.method,
      chips: r.chips,
      shielded: r.shielded,
      holes: new Set((r.holes as { hole: number }[]).map((h) => h.hole)).size,
      joints: r.joints,
      by: r.person,
      at: r.at.toISOString(),
    })),
    chips: heatCycles(rows.map((r) => ({ job: r.job, celsius: r.celsius, chips: r.chips }))),
  };
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [addHeat] as const;
