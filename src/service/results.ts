import "server-only";

import type { Knex } from "knex";

import { type Family, familyOf } from "@/core/decide/families";
import { type Held, survivalOf, type SurvivalStep } from "@/core/decide/survival";
import { labourOf, type Rates, saleTerms, type Term, totalOf } from "@/core/money/rates";
import type { Ending } from "@/core/record/standing";
import { type Deed, note, nothing, Refused, stamp } from "./base";
import { type Forecast, loadRoutes, purchaseOf } from "./decide";
import { lockUnit, refreshStanding, touched } from "./facts";
import { listModels } from "./models";
import { loadSettings } from "./settings";

/** What came of it: forecast against fact, and how long each route holds. */

/** A sold unit came back: it is opened again, and the mend that it points to is remembered. */
export const cameBack: Deed<"unit.came-back"> = async (db, actor, { unitId, version, mendId, words }) => {
  const unit = await lockUnit(db, unitId, version, actor);
  if (unit.ending !== "released") throw new Refused({ code: "not-found", what: "released unit" });
  const mend = mendId ? await db("mend").where({ id: mendId, unit_id: unitId }).first() : null;
  if (mendId && !mend) throw new Refused({ code: "not-found", what: "mend" });
  await db("comeback").insert({ unit_id: unitId, mend_id: mendId, words, released_at: unit.closed_at, ...stamp(db, actor) });
  if (mend?.fault_id)
    await db("fault")
      .where({ id: mend.fault_id })
      .update({ status: "open", status_why: `came back: ${words}`, version: db.raw("version + 1") });
  await db("unit")
    .where({ id: unitId })
    .update({ ending: null, closed_at: null, ...touched(db, actor) });
  await db("certificate")
    .where({ unit_id: unitId, revoked_at: null })
    .update({ revoked_at: actor.at ?? db.fn.now(), revoked_why: `The unit came back: ${words}` });
  await note(db, actor, "unit-came-back", unitId, { mend: mend?.number ?? null, words });
  await refreshStanding(db, unitId);
  return nothing;
};

export type ClosedUnit = {
  unitId: string;
  tag: string;
  model: string;
  seller: string;
  source: string;
  ending: Ending;
  closedAt: string;
  terms: Term[];
  marginMinor: number;
  minutes: number;
  forecast: Forecast | null;
  families: Family[];
  routes: string[];
};

/** Every closed unit with what it brought, term by term, beside what the last decision expected. */
export async function closedUnits(db: Knex, rates: Rates): Promise<ClosedUnit[]> {
  const profiles = new Map((await listModels(db)).map((m) => [m.key, m.body]));
  const rows = await db("unit as u")
    .join("model_profile as p", "p.id", "u.profile_id")
    .whereNotNull("u.ending")
    .orderBy("u.closed_at")
    .select("u.*", "p.key", db.raw("p.body->>'name' as model"));
  const ids = rows.map((r) => r.id);
  const [endings, mends, decisions, faults] = await Promise.all([
    db("ending").whereIn("unit_id", ids).orderBy("at", "desc").select("unit_id", "kind", "price_minor"),
    db("mend").whereIn("unit_id", ids).select("unit_id", "minutes", "part_minor", "part_gift", "route"),
    db("decision").whereIn("unit_id", ids).orderBy("at", "desc").select("unit_id", "forecast"),
    db("fault").whereIn("unit_id", ids).whereNot({ status: "withdrawn" }).select("unit_id", "place", "measure"),
  ]);
  return rows.map((r) => {
    const end = endings.find((e) => e.unit_id === r.id);
    const mine = mends.filter((m) => m.unit_id === r.id);
    const minutes = mine.reduce((s, m) => s + m.minutes, 0);
    const parts = mine.reduce((s, m) => s + m.part_minor, 0);
    const gifts = mine.filter((m) => m.part_gift !== "");
    const gifted = gifts.reduce((s, m) => s + m.part_minor, 0);
    const purchase = purchaseOf(r);
    const sold = end?.price_minor ?? 0;
    const terms: Term[] = [
      ...(sold > 0
        ? r.source === "customer"
          ? [
              { code: "price" as const, minor: sold },
              { code: "carriage-out" as const, minor: -rates.carriageOut },
            ]
          : saleTerms(sold, purchase, 0, rates)
        : []),
      ...(purchase ? [{ code: "purchase" as const, minor: -purchase }] : []),
      ...(parts - gifted ? [{ code: "part" as const, minor: -(parts - gifted) }] : []),
      ...(gifted
        ? [
            {
              code: "gift" as const,
              minor: -gifted,
              note: `from ${[...new Set(gifts.map((m) => m.part_gift))].join(", ")}, no cash`,
            },
          ]
        : []),
      ...(minutes ? [{ code: "labour" as const, minor: -labourOf(minutes, rates), note: `${minutes} min` }] : []),
    ];
    const profile = profiles.get(r.key);
    const families = profile
      ? [...new Set(faults.filter((f) => f.unit_id === r.id).map((f) => familyOf(profile, f.place, f.measure)))].filter(
          (f) => f !== null,
        )
      : [];
    return {
      unitId: r.id,
      tag: r.tag,
      model: r.model,
      seller: r.seller,
      source: r.source,
      ending: r.ending,
      closedAt: r.closed_at.toISOString(),
      terms,
      marginMinor: totalOf(terms),
      minutes,
      forecast: decisions.find((d) => d.unit_id === r.id)?.forecast ?? null,
      families,
      routes: [...new Set(mine.map((m) => m.route).filter((x): x is string => x !== null))],
    };
  });
}

export type RouteResult = {
  route: string;
  name: string;
  school: string;
  make: string | null;
  worked: number;
  failed: number;
  minutes: number;
  partMinor: number;
  holding: SurvivalStep[];
  held: number;
  relapsed: number;
};
export type ResultsView = {
  units: ClosedUnit[];
  routes: RouteResult[];
  learning: { model: string; first: number; later: number; firstJobs: number; laterJobs: number }[];
  common: { model: string; family: Family; units: number; of: number }[];
};

const FIRST_JOBS = 3;
const DAY_MS = 24 * 3600_000;

export async function resultsView(db: Knex): Promise<ResultsView> {
  const { settings } = await loadSettings(db);
  const [units, { value: catalogue }, mends] = await Promise.all([
    closedUnits(db, settings.rates),
    loadRoutes(db),
    db("mend as m")
      .join("unit as u", "u.id", "m.unit_id")
      .join("model_profile as p", "p.id", "u.profile_id")
      .leftJoin("fault as f", "f.id", "m.fault_id")
      .leftJoin("comeback as c", "c.mend_id", "m.id")
      .leftJoin(
        db("ending")
          .distinctOn("unit_id")
          .where({ kind: "released" })
          .orderBy([{ column: "unit_id" }, { column: "at" }])
          .as("e"),
        "e.unit_id",
        "u.id",
      )
      .orderBy("m.at")
      .select(
        "m.route",
        "m.outcome",
        "m.minutes",
        "m.part_minor",
        "m.unit_id",
        db.raw("p.body->>'name' as model"),
        "f.status",
        "c.at as came_back",
        "e.at as released",
      ),
  ]);
  const routes = catalogue.flatMap((route): RouteResult[] => {
    const mine = mends.filter((m) => m.route === route.id && m.outcome);
    if (mine.length === 0) return [];
    const worked = mine.filter((m) => m.outcome === "worked" && (m.status !== "open" || m.came_back));
    const held: Held[] = worked
      .filter((m) => m.released)
      .map((m) => ({
        days: Math.max(0, Math.floor(((m.came_back ?? new Date()).getTime() - m.released.getTime()) / DAY_MS)),
        relapsed: m.came_back !== null,
      }));
    return [
      {
        route: route.id,
        name: route.name,
        school: route.school,
        make: route.part?.make ?? null,
        worked: worked.length,
        failed: mine.length - worked.length,
        minutes: Math.round(mine.reduce((s, m) => s + m.minutes, 0) / mine.length),
        partMinor: Math.round(mine.reduce((s, m) => s + m.part_minor, 0) / mine.length),
        holding: survivalOf(held),
        held: held.length,
        relapsed: held.filter((h) => h.relapsed).length,
      },
    ];
  });
  const models = [...new Set(mends.map((m) => m.model as string))].sort();
  const perUnit = (model: string) => {
    const sums = new Map<string, number>();
    for (const m of mends) if (m.model === model) sums.set(m.unit_id, (sums.get(m.unit_id) ?? 0) + m.minutes);
    return [...sums.values()];
  };
  const mean = (xs: number[]) => (xs.length ? Math.round(xs.reduce((a, b) => a + b, 0) / xs.length) : 0);
  const common = [...new Set(units.map((u) => u.model))].flatMap((model) => {
    const mine = units.filter((u) => u.model === model);
    return [...new Set(mine.flatMap((u) => u.families))].map((family) => ({
      model,
      family,
      units: mine.filter((u) => u.families.includes(family)).length,
      of: mine.length,
    }));
  });
  return {
    units,
    routes: routes.sort((a, b) => b.worked + b.failed - a.worked - a.failed),
    learning: models.map((model) => {
      const jobs = perUnit(model);
      return {
        model,
        first: mean(jobs.slice(0, FIRST_JOBS)),
        later: mean(jobs.slice(FIRST_JOBS)),
        firstJobs: Math.min(FIRST_JOBS, jobs.length),
        laterJobs: Math.max(0, jobs.length - FIRST_JOBS),
      };
    }),
    common: common.sort((a, b) => b.units - a.units).slice(0, 12),
  };
}
