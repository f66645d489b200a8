import "server-only";

import type { Knex } from "knex";

import { dayOf } from "@/core/days/days";
import { holdsTheShell } from "@/core/record/makers-cover";
import { loadSettings } from "@/features/settings/settings";
import type { UnitRow } from "@/platform/db/tables";
import { nothing, Refused, touched } from "@/platform/deed/base";
import { deed, namedUnit } from "@/platform/deed/declare";

/** The maker's cover: nothing opens a unit while it runs, until somebody let it go. */

export async function mustBeFreeToOpen(db: Knex, unit: UnitRow): Promise<void> {
  if (unit.intake.makersCover !== "runs") return;
  const { settings } = await loadSettings(db);
  if (holdsTheShell(unit.intake, dayOf(new Date(), settings.timeZone)))
    throw new Refused({ code: "cover-runs", until: unit.intake.coverUntil });
}

export const giveUpCover = deed(
  "cover.give-up",
  { unit: namedUnit, workable: true },
  async ({ db, actor, note, unit }, { by }) => {
    await db("unit")
      .where({ id: unit.id })
      .update({ intake: JSON.stringify({ ...unit.intake, coverGiven: by }), ...touched(db, actor) });
    note("cover-given-up", unit.id, { by });
    return nothing;
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [giveUpCover] as const;
