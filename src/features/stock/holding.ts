import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { familyOf } from "./batch-rows";

/** Who holds a piece of a batch. */

/** The units that hold a piece of a batch or of its kin. */
export async function holdingUnits(db: Knex, batchId: Id<"batch">): Promise<string[]> {
  return db("fitted")
    .whereIn("batch_id", await familyOf(db, batchId))
    .whereNull("removed_at")
    .distinct("unit_id")
    .pluck("unit_id");
}
