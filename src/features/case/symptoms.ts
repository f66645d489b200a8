import "server-only";

import { rowsBy } from "@/platform/db/batched";
import { rowsOf } from "@/platform/db/joined";

/** What is known under the faults of a unit, the oldest first; what a mend was seen to cure is left out. */

export const symptomsOf = rowsBy((db, unitIds) =>
  rowsOf(
    db("symptom as s").whereIn("s.unit_id", unitIds).whereNull("s.cured_at").orderBy("s.at"),
    { s: "symptom" },
    "s.id",
    "s.fault_id as faultId",
    "s.place",
    "s.kind",
    "s.words",
    "s.measure",
    "s.recording_id as recordingId",
    "s.unit_id as of",
  ),
);
