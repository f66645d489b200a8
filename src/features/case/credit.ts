import "server-only";

import type { Knex } from "knex";

import { withCredit } from "@/core/case/credit";
import type { Fact } from "@/core/case/facts";
import type { CaseOf } from "@/core/case/standing-facts";
import { modelById } from "@/features/models/deeds";
import type { UnitRow } from "@/platform/db/tables";
import { shopRecord } from "./causes";
import { caseOf, readCase } from "./file";

/** What each cure of a unit has earned, kept when the unit is closed: only that moves the shop's record. */

/** The case of a unit as a deed needs it. */
export async function caseIn(db: Knex, unit: UnitRow): Promise<{ of: CaseOf; facts: Fact[] }> {
  const { body } = await modelById(db, unit.profile_id);
  const of = await caseOf(db, body, unit.revision);
  const { facts } = await readCase(db, { ...unit, receivedAt: unit.received_at }, body, of);
  return { of, facts };
}

export async function keepCredits(db: Knex, unit: UnitRow): Promise<void> {
  if (!(await db("attempt").where({ unit_id: unit.id, outcome: "cured" }).first("id"))) return;
  const { of, facts } = await caseIn(db, unit);
  for (const f of withCredit(facts, of, await shopRecord(db, of.model)))
    if (f.kind === "tried" && f.number !== null && f.share !== null)
      await db("attempt").where({ unit_id: unit.id, number: f.number }).update({ credit: f.share });
}
