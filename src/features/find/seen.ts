import "server-only";

import type { Knex } from "knex";

import type { Outcome } from "@/core/diagnosis/priors";
import { rowsOf } from "@/platform/db/joined";

/** What the Find station shows: from what was seen to ranked causes, the next check, and the trail. */

/**
 * The figures of healthy units at each test point: of the reference units of the model and revision, each
 * unit's latest.
 */
export async function healthyPoints(
  db: Knex,
  modelKey: string,
  revision: string | null,
  not: string,
): Promise<Map<string, number[]>> {
  const measured = db("observation as o")
    .join("unit as u", "u.id", "o.unit_id")
    .join("model_profile as m", "m.id", "u.profile_id")
    .where({ "m.key": modelKey, "o.kind": "point", "o.withdrawn": false })
    .whereNotNull("u.reference_since")
    .whereNot("u.id", not)
    .distinctOn("u.id", "o.target")
    .orderBy([{ column: "u.id" }, { column: "o.target" }, { column: "o.at", order: "desc" }]);
  if (revision !== null)
    void measured.where((w) => w.where("u.revision", revision).orWhereNull("u.revision"));
  const rows = await rowsOf(measured, { o: "observation" }, "o.target", "o.value");
  const out = new Map<string, number[]>();
  for (const r of rows) if (r.value !== null) out.set(r.target, [...(out.get(r.target) ?? []), r.value]);
  return out;
}

export type Seen = {
  id: string;
  name: string;
  outcome: Outcome;
  from: "recording" | "answer" | "observation" | "claim";
};
