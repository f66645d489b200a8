import "server-only";

import type { Knex } from "knex";

import type { UnitRow } from "@/platform/db/tables";
import { figuresOf } from "@/platform/db/joined";
import { Refused } from "@/platform/deed/base";
import type { Id } from "@/core/base/ids";

/** Refuses work on a unit that is closed or in quarantine. */
export function mustBeWorkable(unit: Pick<UnitRow, "ending" | "swollen">): void {
  if (unit.ending !== null) throw new Refused({ code: "closed" });
  if (unit.swollen) throw new Refused({ code: "quarantined" });
}

type Numbered = "attempt" | "fault" | "fragment" | "mend" | "question";

/** The number of a unit's next line of this kind: they count from 1 at each unit. */
export async function nextNumber(db: Knex, table: Numbered, unitId: Id<"unit">): Promise<number> {
  const { last } = await figuresOf<{ last: number | null }>(
    db(table).where({ unit_id: unitId }),
    db.raw("max(number) as last"),
  );
  return (last ?? 0) + 1;
}
