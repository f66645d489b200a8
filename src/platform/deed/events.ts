import "server-only";

import type { Knex } from "knex";

import type { EventKind } from "@/contract/events";
import type { Id } from "@/core/base/ids";

/** One thing that happened; `by` is null where a customer did it on their own page. */
export type Happening = {
  kind: EventKind;
  unitId: Id<"unit"> | null;
  body: object;
  by: string | null;
  at?: Date;
};

/** Writes down what happened; this record is only ever added to. */
export async function writeEvents(db: Knex, happenings: readonly Happening[]): Promise<void> {
  if (happenings.length === 0) return;
  await db("event").insert(
    happenings.map((h) => ({
      kind: h.kind,
      unit_id: h.unitId,
      body: JSON.stringify(h.body),
      by: h.by,
      at: h.at ?? db.fn.now(),
    })),
  );
}
