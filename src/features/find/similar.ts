import "server-only";

import type { Knex } from "knex";

import { type Similar, similarCases } from "@/core/diagnosis/similar";
import type { UnitView } from "@/features/units/view";
import { computed, rowsOf } from "@/platform/db/joined";

/** Earlier units that showed themselves by the same symptoms: analogy, and no evidence. */

const SIMILAR_LOOKED_AT = 120;

/** Earlier units with mended faults, by their symptoms. */
export async function similarTo(db: Knex, view: UnitView): Promise<Similar[]> {
  const pairs = view.faults.flatMap(({ place, measure }) => (measure === null ? [] : [[place, measure]]));
  if (pairs.length === 0) return [];
  const symptoms = pairs.map(([place, measure]) => `${place}:${measure}`);
  // the latest units that share a symptom; units that share none are not alike
  const ids: string[] = await db("fault")
    .where({ status: "mended" })
    .whereNot({ unit_id: view.unit.id })
    .whereIn(["place", "measure"], pairs)
    .orderBy("at", "desc")
    .limit(SIMILAR_LOOKED_AT)
    .pluck("unit_id");
  const rows = await rowsOf(
    db("fault as f")
      .join("unit as u", "u.id", "f.unit_id")
      .join("model_profile as m", "m.id", "u.profile_id")
      .join("mend as w", "w.unit_id", "u.id")
      .whereIn("u.id", [...new Set(ids)])
      .where("f.status", "mended")
      .whereNotNull("f.measure")
      .groupBy("u.tag", "m.key")
      .orderBy("u.tag", "desc"),
    { f: "fault", w: "mend", m: "model_profile", u: "unit" },
    "u.tag",
    "m.key",
    computed<{ symptoms: string[] }>(db.raw("array_agg(distinct f.place || ':' || f.measure) as symptoms")),
    computed<{ cured: string }>(db.raw("string_agg(distinct w.what, '; ') as cured")),
  );
  return similarCases(
    symptoms,
    view.profile.id,
    rows.map((r) => ({ tag: r.tag, model: r.key, symptoms: r.symptoms, cured: r.cured })),
  );
}
