import "server-only";

import type { Knex } from "knex";

import { type Family, familyOf } from "@/core/decide/families";
import { labourOf, type Rates, saleTerms, type Term, totalOf } from "@/core/money/rates";
import type { Ending } from "@/core/record/standing";
import type { Forecast } from "@/core/decide/kept";
import { purchaseOf } from "./purchase";
import { listModels } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import type { MendRow, UnitRow } from "@/platform/db/tables";
import type { Grade } from "@/core/grade/grade";
import { rowsOf } from "@/platform/db/joined";
import { say } from "@/features/results/words/words";
import { one } from "@/core/base/one";
import type { Id } from "@/core/base/ids";

/** What came of closed units, by the rates of the day on which each was closed. */

/** Fees that were really paid stand in for the house's share and fixed fee. */
const withFees = (terms: Term[], feesMinor: number): Term[] =>
  feesMinor === 0
    ? terms
    : [
        ...terms.filter((t) => t.code !== "fee-share" && t.code !== "fee-fixed"),
        { code: "fee-fixed", minor: -feesMinor },
      ];

export type ClosedUnit = {
  unitId: Id<"unit">;
  tag: string;
  model: string;
  seller: string;
  source: UnitRow["source"];
  ending: Ending;
  closedAt: string;
  soldOn: string | null;
  grade: Grade | null;
  priceMinor: number;
  revision: string | null;
  modelKey: string;
  poorParcel: boolean;
  differed: boolean;
  faults: number;
  faultsClaimed: number;
  terms: Term[];
  marginMinor: number;
  minutes: number;
  forecast: Forecast | null;
  families: Family[];
  routes: string[];
};

/** Closed units, how each ended last, and to whom that ending handed it last. */
const closedRows = (db: Knex, ids: readonly string[]) =>
  rowsOf(
    db("unit as u")
      .join("model_profile as p", "p.id", "u.profile_id")
      .joinRaw(
        "left join lateral (select * from ending where unit_id = u.id order by at desc limit 1) e on true",
      )
      .joinRaw(
        "left join lateral (select * from handover where ending_id = e.id order by at desc limit 1) h on true",
      )
      .whereNotNull("u.ending")
      .whereIn("u.id", [...ids])
      .orderBy("u.closed_at", "desc"),
    { u: "unit", p: "model_profile", e: "ending?", h: "handover?" },
    "u.*",
    "p.key",
    "p.name as model",
    "e.price_minor as ending_minor",
    "e.grade as ending_grade",
    "h.price_minor as handover_minor",
    "h.fees_minor",
    "h.handed_on as sold_on",
  );
type Closed = Awaited<ReturnType<typeof closedRows>>[number];
type Mended = Pick<MendRow, "unit_id" | "minutes" | "part_minor" | "part_gift" | "route">;

/** What it was sold for, with what that cost; a customer's unit brings its price less the way back. */
function salesOf(r: Closed, sold: number, rates: Rates): Term[] {
  if (sold <= 0) return [];
  if (r.source !== "customer") return withFees(saleTerms(sold, purchaseOf(r), 0, rates), r.fees_minor ?? 0);
  return [
    { code: "price", minor: sold },
    { code: "carriage-out", minor: -rates.carriageOut },
  ];
}

/** What was spent: the unit itself, parts (gifts at what they replace, without cash), work. */
function costsOf(r: Closed, mends: readonly Mended[], rates: Rates): Term[] {
  const sum = (list: readonly Mended[], of: (m: Mended) => number) => list.reduce((s, m) => s + of(m), 0);
  const minutes = sum(mends, (m) => m.minutes);
  const gifts = mends.filter((m) => m.part_gift !== "");
  const gifted = sum(gifts, (m) => m.part_minor);
  const bought = sum(mends, (m) => m.part_minor) - gifted;
  const givers = [...new Set(gifts.map((m) => m.part_gift))].join(", ");
  const terms: Term[] = [
    { code: "purchase", minor: -purchaseOf(r) },
    { code: "part", minor: -bought },
    { code: "gift", minor: -gifted, note: say("fromGiversNoCash", { givers }) },
    { code: "labour", minor: -labourOf(minutes, rates), note: say("minutesMin", { minutes }) },
  ];
  return terms.filter((t) => (t.code === "labour" ? minutes > 0 : t.minor !== 0));
}

const isNamed = <T>(x: T | null): x is T => x !== null;

/** Closed units with what each brought, term by term, beside what the last decision expected. */
export async function closedUnits(db: Knex, rates: Rates, ids: readonly string[]): Promise<ClosedUnit[]> {
  const profiles = new Map((await listModels(db)).map((m) => [m.key, m.body]));
  const rows = await closedRows(db, ids);
  const mends = await db("mend")
    .whereIn("unit_id", ids)
    .select("unit_id", "minutes", "part_minor", "part_gift", "route");
  const decisions = await db("decision")
    .whereIn("unit_id", ids)
    .orderBy("at", "desc")
    .select("unit_id", "forecast");
  const allFaults = await db("fault")
    .whereIn("unit_id", ids)
    .whereNot({ status: "withdrawn" })
    .select("unit_id", "place", "measure", "claimed");
  return rows.map((r) => {
    const mine = mends.filter((m) => m.unit_id === r.id);
    const faults = allFaults.filter((f) => f.unit_id === r.id);
    const sold = r.handover_minor ?? r.ending_minor ?? 0;
    const terms = [...salesOf(r, sold, rates), ...costsOf(r, mine, rates)];
    const profile = profiles.get(r.key);
    const families = profile ? faults.map((f) => familyOf(profile, f.place, f.measure)) : [];
    return {
      unitId: r.id,
      tag: r.tag,
      model: r.model,
      seller: r.seller,
      source: r.source,
      ending: one(r.ending),
      closedAt: one(r.closed_at).toISOString(),
      soldOn: r.sold_on,
      grade: r.ending_grade,
      priceMinor: sold,
      revision: r.revision,
      modelKey: r.key,
      poorParcel: ["poor", "damaged"].includes(r.intake.parcel),
      differed: r.intake.differs !== "",
      faults: faults.length,
      faultsClaimed: faults.filter((f) => f.claimed).length,
      terms,
      marginMinor: totalOf(terms),
      minutes: mine.reduce((s, m) => s + m.minutes, 0),
      forecast: decisions.find((d) => d.unit_id === r.id)?.forecast ?? null,
      families: [...new Set(families.filter(isNamed))],
      routes: [...new Set(mine.map((m) => m.route).filter(isNamed))],
    };
  });
}

/**
 * Adds up again what came of these units and keeps it for the reports; a unit that is open has no outcome.
 */
export async function refreshOutcomes(db: Knex, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  const { settings } = await loadSettings(db);
  const closed = await closedUnits(db, settings.rates, ids);
  const open = ids.filter((id) => !closed.some((u) => u.unitId === id));
  if (open.length > 0) await db("outcome").whereIn("unit_id", open).delete();
  if (closed.length > 0)
    await db("outcome")
      .insert(
        closed.map((u) => ({
          unit_id: u.unitId,
          model: u.modelKey,
          revision: u.revision,
          source: u.source,
          seller: u.seller,
          ending: u.ending,
          grade: u.grade,
          closed_at: u.closedAt,
          sold_on: u.soldOn,
          price_minor: u.priceMinor,
          margin_minor: u.marginMinor,
          minutes: u.minutes,
          forecast_minor: u.forecast && Math.round(u.forecast.margin),
          forecast_low_minor: u.forecast && Math.round(u.forecast.low),
          forecast_high_minor: u.forecast && Math.round(u.forecast.high),
          routes: u.routes,
          families: u.families,
          poor_parcel: u.poorParcel,
          differed: u.differed,
          faults: u.faults,
          faults_claimed: u.faultsClaimed,
        })),
      )
      .onConflict("unit_id")
      .merge();
}

/** Units that were closed before outcomes were kept. */
export async function fillOutcomes(db: Knex): Promise<void> {
  const closed = db("unit as u")
    .leftJoin("outcome as o", "o.unit_id", "u.id")
    .whereNotNull("u.ending")
    .whereNull("o.unit_id");
  const ids = (await rowsOf(closed, { u: "unit" }, "u.id")).map((r) => r.id);
  for (let i = 0; i < ids.length; i += 200) await refreshOutcomes(db, ids.slice(i, i + 200));
}
