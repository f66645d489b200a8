import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import type { CaseWhole } from "@/core/casefile/known";
import type { DecideInput } from "@/core/decide/build";
import { unitById } from "@/features/case/facts";
import { modelById } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { caseFileOf, decideInput } from "./input";
import { adviceFor, digestOf, keptAdvice, type StandingAdvice } from "./kept";

/** The one next act of a unit, as Find and Decide show it. */

export type NextView = {
  /** stands for all that the advice rests on */
  digest: string;
  /** the checks that are weighed now; advice that is kept names its own */
  checks: string[];
  kept: StandingAdvice | null;
};

const loadedOf = async (db: Knex, unitId: Id<"unit">) => {
  const unit = await unitById(db, unitId);
  const { settings } = await loadSettings(db);
  return { unit, profile: await modelById(db, unit.profile_id), settings };
};
const inputOf = async (db: Knex, unitId: Id<"unit">) => decideInput(db, await loadedOf(db, unitId));

/** The case of a unit in its open format, by its tag; null where there is no such unit. */
export async function caseFileByTag(db: Knex, tag: string): Promise<CaseWhole | null> {
  const unit = await db("unit").where({ tag }).first("id");
  return unit ? caseFileOf(db, await loadedOf(db, unit.id)) : null;
}

export const nextOf = (unitId: Id<"unit">, input: DecideInput): NextView => ({
  digest: digestOf(input),
  checks: (input.checks ?? []).map((c) => c.id),
  kept: keptAdvice(unitId, input),
});

/** What nobody tested of a unit, each with its odds of being bad by its claim and all else that is known. */
export const untestedOdds = async (db: Knex, unitId: Id<"unit">) =>
  (await inputOf(db, unitId)).untested.map(({ place, bad }) => ({ place, bad }));

/** What is next for a unit; null where no fault is named yet, so that there is nothing to weigh a check against. */
export async function nextView(db: Knex, unitId: Id<"unit">): Promise<NextView | null> {
  const input = await inputOf(db, unitId);
  if (input.faults.length === 0) return null;
  return nextOf(unitId, input);
}

/** The advice on a unit by all that is known now; null where there is no such unit. */
export async function adviceOn(db: Knex, tag: string): Promise<StandingAdvice | null> {
  const unit = await db("unit").where({ tag }).first("id");
  if (!unit) return null;
  const unitId = unit.id;
  const { advice, at } = await adviceFor(unitId, await inputOf(db, unitId));
  return { advice, at: at.toISOString(), fresh: true };
}
