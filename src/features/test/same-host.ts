import "server-only";

import type { Knex } from "knex";

import { hostOf } from "@/core/protocol/prepare";
import { modelsById } from "@/features/models/deeds";
import type { ModelProfile } from "@/core/profile/profile";
import { rowsOf } from "@/platform/db/joined";
import type { UnitRow } from "@/platform/db/tables";

const MOST_SHOWN = 6;

/** Other units that wait for a test and want the very same on the table: on trays first, then the oldest. */
export async function sameHost(
  db: Knex,
  { unit, profile }: { unit: Pick<UnitRow, "id" | "revision">; profile: ModelProfile },
): Promise<string[]> {
  const rows = await rowsOf(
    db("unit as u")
      .whereNull("u.ending")
      .whereNot("u.id", unit.id)
      .whereIn("u.next_action", ["first-test", "prove"])
      .orderByRaw("u.tray is null, u.received_at"),
    { u: "unit" },
    "u.tag",
    "u.profile_id",
    "u.revision",
  );
  const models = await modelsById(db, [...new Set(rows.map((r) => r.profile_id))]);
  const host = hostOf(profile, unit.revision);
  return rows
    .filter((r) => {
      const body = models.find((m) => m.id === r.profile_id)?.body;
      return body && hostOf(body, r.revision) === host;
    })
    .slice(0, MOST_SHOWN)
    .map((r) => r.tag);
}
