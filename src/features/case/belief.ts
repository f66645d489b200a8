import "server-only";

import type { Knex } from "knex";

import { withCredit } from "@/core/case/credit";
import { beliefOf, evidenceOfCase } from "@/core/case/evidence";
import { standingOf, type CaseOf, type Standing } from "@/core/case/standing-facts";
import type { Belief } from "@/core/diagnosis/belief";
import type { UnitRow } from "@/platform/db/tables";
import { shopRecord } from "./causes";
import { caseIn } from "./credit";

/** What is believed of a unit's causes by all its facts: the same under Find and under Decide. Null without wiring. */
export async function beliefOfUnit(
  db: Knex,
  unit: UnitRow,
): Promise<{ of: CaseOf; standing: Standing[]; belief: Belief } | null> {
  const { of, facts } = await caseIn(db, unit);
  if (of.graph.nodes.length === 0) return null;
  const record = await shopRecord(db, of.model);
  const standing = standingOf(withCredit(facts, of, record), of);
  return { of, standing, belief: beliefOf(evidenceOfCase(standing, of), of, record) };
}
