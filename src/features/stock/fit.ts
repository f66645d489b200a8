import "server-only";

import type { Knex } from "knex";

import type { Part, Use } from "@/core/parts/catalogue";
import { type Fit, allowedFor, fitOf, partsThatFit } from "@/core/parts/fit";
import { listedAs } from "@/core/profile/half";
import type { Slot } from "@/core/profile/slots";
import { modelById, modelByKey } from "@/features/models/deeds";
import { say } from "@/features/parts/words/words";
import type { UnitRow } from "@/platform/db/tables";
import { Refused } from "@/platform/deed/base";
import { loadCatalogue } from "./catalogue";

/** Whether a part goes where it is meant to go. */

/** Pieces that go into a unit and come out of it again. */

/** The slot of a unit's model, from the newest profile that tells what fits. */
export async function slotOf(
  db: Knex,
  unit: UnitRow,
  slotId: string,
): Promise<{ model: string; slot: Slot }> {
  const own = await modelById(db, unit.profile_id);
  const newest = (await modelByKey(db, own.key)) ?? own;
  const slot = (newest.body.slots ?? []).find((s) => s.id === slotId);
  if (!slot) throw new Refused({ code: "not-found", what: say("partSlot") });
  return { model: listedAs(own.body), slot };
}

/** What the unit's parts must be good for: sale, or what its owner does with it. */
export const purposeOf = (unit: UnitRow): Use => {
  if (unit.source !== "customer") return "sale";
  return ({ precise: "precise", play: "casual", "own-testing": "own", unknown: "sale" } as const)[
    unit.intake.use
  ];
};

/** Refuses a part that does not fit the slot or may not be used there, with every reason. */
export async function mustFit(db: Knex, unit: UnitRow, slotId: string, part: Part): Promise<Fit> {
  const { model, slot } = await slotOf(db, unit, slotId);
  const { value: catalogue } = await loadCatalogue(db);
  const place = { model, revision: unit.revision, slot };
  const fit =
    partsThatFit(catalogue, place).find((f) => f.part === part.code) ?? fitOf(catalogue, place, part);
  if (fit.verdict !== "fits")
    throw new Refused({
      code: "does-not-fit",
      part: part.code,
      why: [...fit.mechanical.why, ...fit.electrical.why],
      known: fit.verdict === "no",
    });
  const use = purposeOf(unit);
  if (!allowedFor(part, use)) throw new Refused({ code: "not-for-this-use", part: part.code, use });
  return fit;
}
