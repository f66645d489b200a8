import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { one } from "@/core/base/one";
import { dayOf, daysLater } from "@/core/days/days";
import { type ModelProfile, outsideOf } from "@/core/profile/profile";
import type { NextAction } from "@/core/record/standing";
import { modelsById } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { type UnitLine, asLine, unitLines } from "@/features/units/list";
import { type Narrow, rowsOf } from "@/platform/db/joined";

/** What the bench shows: the trays, what comes next, what waits. */

export type TrayCard = {
  tray: number;
  tag: string;
  unitId: Id<"unit">;
  model: string;
  modelKey: string;
  stage: string;
  nextAction: NextAction;
  claim: string;
};

export async function trays(db: Knex): Promise<TrayCard[]> {
  const rows = await rowsOf(
    db("unit").join("model_profile as m", "m.id", "unit.profile_id").whereNotNull("tray").orderBy("tray"),
    { unit: "unit", m: "model_profile" },
    "unit.tray",
    "unit.tag",
    "unit.id",
    "m.key",
    "m.name as model",
    "unit.stage",
    "unit.next_action",
    "unit.claim",
  );
  return rows.map((r) => ({
    tray: one(r.tray),
    tag: r.tag,
    unitId: r.id,
    model: r.model,
    modelKey: r.key,
    stage: r.stage,
    nextAction: r.next_action,
    claim: r.claim,
  }));
}

export type BenchView = {
  trays: TrayCard[];
  profiles: Record<string, ModelProfile>;
  next: UnitLine[];
  arrivals: UnitLine[];
  quarantined: UnitLine[];
  /** mends that were good for now, whose day to be looked at again has come within a week */
  reviews: { tag: string; what: string; fallback: string; reviewOn: string }[];
};

const ORDER: NextAction[] = [
  "release",
  "settle-blocks",
  "prove",
  "end",
  "mend",
  "decide",
  "name-faults",
  "dry-out",
  "first-test",
];

/** How long before its day a mend that is good for now is shown. */
const REVIEW_DAYS = 7;

/**
 * The bench: trays with their plan, what to do next (what is nearest to release first), and what arrived and
 * has no tray.
 */
export async function benchView(db: Knex): Promise<BenchView> {
  const open = (narrow: Narrow) =>
    unitLines(db, (q) => narrow(q.whereNull("ending").whereNull("reference_since")));
  const { settings } = await loadSettings(db);
  const soon = daysLater(dayOf(new Date(), settings.timeZone), REVIEW_DAYS);
  const [cards, profiles, reviews, next, arrivals, quarantined] = await Promise.all([
    trays(db),
    db("unit")
      .whereNotNull("tray")
      .distinct("profile_id")
      .pluck("profile_id")
      .then((ids: string[]) => modelsById(db, ids)),
    rowsOf(
      db("mend as m")
        .join("unit as u", "u.id", "m.unit_id")
        .whereNotNull("m.review_on")
        .where("m.review_on", "<=", soon)
        .whereNull("u.ending")
        .orderBy("m.review_on")
        .limit(5),
      { m: "mend", u: "unit" },
      "u.tag",
      "m.what",
      "m.fallback",
      "m.review_on",
    ),
    open((q) =>
      q
        .whereIn("next_action", ORDER)
        .where((w) => w.whereNotNull("tray").orWhereNot({ next_action: "first-test" }))
        .orderByRaw("array_position(?::text[], next_action), received_at", [ORDER])
        .limit(7),
    ),
    open((q) => q.where({ next_action: "first-test", tray: null }).orderBy("tag", "desc").limit(7)),
    open((q) => q.where({ next_action: "quarantine" }).orderBy("tag", "desc")),
  ]);
  return {
    trays: cards,
    profiles: Object.fromEntries(profiles.map((p) => [p.key, outsideOf(p.body)])),
    next: next.map(asLine),
    arrivals: arrivals.map(asLine),
    quarantined: quarantined.map(asLine),
    reviews: reviews.flatMap((r) =>
      r.review_on === null ? [] : [{ tag: r.tag, what: r.what, fallback: r.fallback, reviewOn: r.review_on }],
    ),
  };
}
