import "server-only";

import type { Knex } from "knex";

import { conditionOf, type ConditionVerdict } from "@/core/grade/condition";
import { damageOf } from "./damage";
import { proofChecksOf } from "@/features/case/proving";
import type { UnitRow } from "@/platform/db/tables";
import { rowsBy } from "@/platform/db/batched";
import { rowsOf } from "@/platform/db/joined";

const cleanedBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("work_event as e")
      .join("work_order as o", "o.id", "e.work_order_id")
      .distinctOn("o.unit_id")
      .whereIn("o.unit_id", unitIds)
      .where({ "e.undone": false })
      .whereRaw("e.body->>'task' like 'clean:%'"),
    { o: "work_order" },
    "o.unit_id as of",
  ),
);

/**
 * The outside as it is now: the marks of the intake that are still there, what was cleaned since, and damage
 * of our own.
 */
export async function conditionFor(
  db: Knex,
  unit: Pick<UnitRow, "id" | "intake">,
): Promise<ConditionVerdict> {
  const damages = (await damageOf(db, unit.id)).filter((d) => d.madeGood === "").length;
  const asked = (await proofChecksOf(db, unit.id)).find((a) => a.key === "cleaned");
  const byOrder = await cleanedBy(db, unit.id);
  return conditionOf({
    marks: unit.intake.marks.filter((m) => m.gone === null),
    smell: unit.intake.smell,
    cleaned: asked?.result === "pass" || byOrder.length > 0,
    damages,
  });
}
