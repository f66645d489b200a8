import "server-only";

import type { Knex } from "knex";

import { listedAs } from "@/core/profile/half";
import { decideInput } from "@/features/decide/input";
import { decisionBy } from "@/features/decide/view";
import { modelById } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { loadCatalogue } from "@/features/stock/catalogue";
import { freeStock } from "@/features/stock/deeds";
import { rowsBy } from "@/platform/db/batched";
import { rowsOf } from "@/platform/db/joined";
import { together } from "@/platform/deed/base";
import { untilNoted } from "@/platform/deed/noted";
import { fittingFor, freesOf } from "./plan";

/** Units put aside for want of a part that lies in the house now. */

export type WakeUp = { tag: string; slot: string; part: string; from: string };

const NEWEST_DONORS = 12;

// a donor that gave nothing for so many others after it hardly has the part

/**
 * Parked units for which a fitting part is free now: on the shelf, or good in one of the newest donors of its
 * model.
 */
export const wakeUps = (db: Knex): Promise<WakeUp[]> => untilNoted(db, "wake-ups", [], () => findWakeUps(db));

const putAsideBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("reservation as r").whereIn("r.unit_id", unitIds).where("r.status", "open"),
    { r: "reservation" },
    "r.unit_id as of",
  ),
);

async function findWakeUps(db: Knex): Promise<WakeUp[]> {
  const parked = await db("unit").where({ next_action: "wait" }).orderBy("tag");
  if (parked.length === 0) return [];
  const [{ value: catalogue }, { settings }, stock] = await together(
    db,
    () => loadCatalogue(db),
    () => loadSettings(db),
    () => freeStock(db),
  );
  const donorsOf = async (model: string) => {
    const rows = await rowsOf(
      db("unit as u")
        .join("model_profile as p", "p.id", "u.profile_id")
        .where({ "u.ending": "donor", "p.key": model })
        .orderBy("u.closed_at", "desc")
        .limit(NEWEST_DONORS),
      { u: "unit", p: "model_profile" },
      "u.id",
      "u.tag",
    );
    return Promise.all(rows.map(async (d) => ({ tag: d.tag, frees: await freesOf(db, d.id, 1, false) })));
  };
  const byModel = new Map<string, Awaited<ReturnType<typeof donorsOf>>>();
  const found: WakeUp[] = [];
  const waiting = await Promise.all(
    parked.map(async (unit) => {
      const profile = await modelById(db, unit.profile_id);
      const input = await decideInput(db, { unit, profile, settings }, "families");
      const [[decision], own] = await Promise.all([decisionBy(db, unit.id), putAsideBy(db, unit.id)]);
      return {
        unit,
        profile,
        input,
        route: input.routes.find((r) => r.id === decision?.route),
        served: own.length > 0,
      };
    }),
  );
  for (const { unit, profile, input, route, served } of waiting) {
    if (served) continue;
    for (const f of input.faults) {
      const slot = (input.profile.slots ?? []).find(
        (s) => s.serves.includes(f.place) && (!route?.part || s.kind === route.part.kind),
      );
      if (!slot) continue;
      const makes = route?.part ? [route.part.make] : ["original", "dear-copy"];
      const codes = makes.flatMap((m) => fittingFor(catalogue, unit, listedAs(profile.body))(slot, m));
      const shelf = codes.find((c) => stock.some((s) => s.part === c && s.count > 0));
      if (!shelf && !byModel.has(profile.key)) byModel.set(profile.key, await donorsOf(profile.key));
      const donor = shelf
        ? undefined
        : byModel.get(profile.key)!.find((d) => d.frees.some((x) => codes.includes(x.part)));
      if (found.some((w) => w.tag === unit.tag && w.slot === slot.name)) continue;
      if (shelf) found.push({ tag: unit.tag, slot: slot.name, part: shelf, from: "stock" });
      else if (donor)
        found.push({
          tag: unit.tag,
          slot: slot.name,
          part: donor.frees.find((x) => codes.includes(x.part))!.part,
          from: donor.tag,
        });
    }
  }
  return found;
}
