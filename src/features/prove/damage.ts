import "server-only";

import type { Knex } from "knex";

import { nothing, onceIn, overtaken, stamp } from "@/platform/deed/base";
import { deed, namedUnit, unitOf, type Work } from "@/platform/deed/declare";
import { one } from "@/core/base/one";
import { rowsOf } from "@/platform/db/joined";
import { rowsBy } from "@/platform/db/batched";
import type { Id } from "@/core/base/ids";

/**
 * Damage on the way, kept apart from the faults that a unit came with; what was not made good is told to a
 * buyer.
 */

type DamageInput = { place: string; what: string; clipLost: boolean; stillFirm: boolean | null };
/** Also what becomes of a clip that was lost at a step. */
export async function insertDamage(
  { db, actor, note }: Work,
  unitId: Id<"unit">,
  d: DamageInput,
): Promise<void> {
  await db("damage").insert({
    unit_id: unitId,
    place: d.place,
    what: d.what,
    clip_lost: d.clipLost,
    still_firm: d.stillFirm,
    ...stamp(db, actor),
  });
  note("damage-noted", unitId, { place: d.place, what: d.what });
}
export const addDamage = deed(
  "damage.add",
  { unit: namedUnit, workable: true },
  async (work, { unitId, ...d }) => {
    await insertDamage(work, unitId, d);
    return nothing;
  },
);
export const makeGood = deed(
  "damage.make-good",
  { unit: unitOf("damage", (i) => i.damageId, "damage") },
  async ({ db, note }, { damageId, version, how }) => {
    const rows = await db("damage")
      .where({ id: damageId, version })
      .update({ made_good: how, version: version + 1 })
      .returning(["unit_id", "what"]);
    if (rows.length !== 1) throw overtaken();
    note("damage-made-good", one(rows[0]).unit_id, { what: one(rows[0]).what, how });
    return nothing;
  },
);

export type DamageView = {
  id: string;
  place: string;
  what: string;
  clipLost: boolean;
  stillFirm: boolean | null;
  madeGood: string;
  version: number;
  by: string;
  at: string;
};
const damageBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("damage as d").join("person as p", "p.id", "d.by").whereIn("d.unit_id", unitIds).orderBy("d.at"),
    { d: "damage", p: "person" },
    "d.*",
    "d.unit_id as of",
    "p.name as person",
  ),
);

export async function damageOf(db: Knex, unitId: Id<"unit">): Promise<DamageView[]> {
  const rows = await onceIn(db, `damage ${unitId}`, ["damage", "person"], () => damageBy(db, unitId));
  return rows.map((r) => ({
    id: r.id,
    place: r.place,
    what: r.what,
    clipLost: r.clip_lost,
    stillFirm: r.still_firm,
    madeGood: r.made_good,
    version: r.version,
    by: r.person,
    at: r.at.toISOString(),
  }));
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [addDamage, makeGood] as const;
