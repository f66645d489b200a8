import "server-only";

import type { Knex } from "knex";

import type { EventKind } from "@/contract/events";
import { z } from "@/core/base/schema";

import type { DeedParsed } from "@/contract/deeds";
import { DEEDS, type Settings } from "@/contract/deeds";
import type { Advice, Disposition, End } from "@/core/decide/advise";
import type { Forecast, KeptAdvice } from "@/core/decide/kept";
import type { DecideInput, RouteTally, Rule } from "@/core/decide/build";
import { familyOf } from "@/core/decide/families";
import { HOUSE_ROUTES, type Route, routesSchema } from "@/core/decide/routes";
import type { Condition } from "@/core/grade/condition";
import type { Grade } from "@/core/grade/grade";
import { controlsOf, functionsOf, type ModelProfile } from "@/core/profile/profile";
import { partOf } from "@/core/parts/catalogue";
import { partsThatFit } from "@/core/parts/fit";
import type { Market, Slot } from "@/core/profile/slots";
import { nothing, Refused, stamp, together } from "@/platform/deed/base";
import { answersBy, openFaultsBy, unitById } from "@/features/case/facts";
import { modelByKey, modelById, type StoredProfile } from "@/features/models/deeds";
import { standingsOf } from "@/features/case/asked";
import { conditionFor } from "@/features/prove/condition";
import { untilNoted } from "@/platform/deed/noted";
import { loadSettings, loadValue, saveValue, settingsAhead } from "@/features/settings/settings";
import { purchaseOf } from "@/features/case/purchase";
import { freeStock, loadCatalogue } from "@/features/stock/deeds";
import { offThread } from "@/platform/work/pool";
import { deed, namedUnit, Stale } from "@/platform/deed/declare";
import type { UnitRow } from "@/platform/db/tables";
import { rowsOf } from "@/platform/db/joined";
import { rowsBy, sharedRead } from "@/platform/db/batched";
import type { Id } from "@/core/base/ids";

/** Decisions: what the advice is worked out from, and what was chosen. */

export const loadRoutes = (db: Knex): Promise<{ value: Route[]; version: number }> =>
  loadValue(db, "routes", routesSchema, HOUSE_ROUTES);

export type ModelMoney = Pick<DeedParsed<"model.save-money">, "market" | "rules">;
const moneySchema = z.object({
  market: DEEDS["model.save-money"].input.shape.market,
  rules: DEEDS["model.save-money"].input.shape.rules,
});
const UNKNOWN_MARKET: Market = { newMinor: 0, aMinor: 0, bMinor: 0, cMinor: 0, asFoundMinor: 0 };

export const loadModelMoney = (db: Knex, profile: ModelProfile): Promise<{ value: ModelMoney; version: number }> =>
  loadValue(db, `model:${profile.id}`, moneySchema, { market: profile.market ?? UNKNOWN_MARKET, rules: [] });

export const saveRoutes = deed("routes.save", {}, async ({ db, note }, { version, routes }) => {
  await saveValue(db, "routes", version, routes);
  note("routes-saved", null, { routes: routes.length });
  return nothing;
});

export const saveModelMoney = deed("model.save-money", {}, async ({ db, note }, { key, version, market, rules }) => {
  if (!(await modelByKey(db, key))) throw new Refused({ code: "not-found", what: "model" });
  const { value: routes } = await loadRoutes(db);
  for (const r of rules) if (!routes.some((x) => x.id === r.route)) throw new Refused({ code: "route-unknown", route: r.route });
  await saveValue(db, `model:${key}`, version, { market, rules });
  note("model-money-saved", null, { key, market, rules });
  return nothing;
});

/**
 * What this shop saw of each route on each model. A retest that failed, or a fault that was opened again after a cure, counts
 * against it. A sold unit counts as staying for the share of its warranty that has passed without a comeback.
 */
export const routeRecord = sharedRead((db): Promise<RouteTally[]> =>
  untilNoted(db, "route record", RECORD_KINDS, () => tallyRoutes(db)),
);

/** What changes the record of a route. */
const RECORD_KINDS: readonly EventKind[] = [
  "mend-logged",
  "mend-changed",
  "fault-settled",
  "fault-named",
  "unit-ended",
  "unit-reopened",
  "unit-came-back",
  "work-step",
  "work-undone",
];

async function tallyRoutes(db: Knex): Promise<RouteTally[]> {
  const { rows }: { rows: RouteTally[] } = await db.raw(
    // summed by the model's id first: text is sorted for nothing otherwise
    `with tally as (
       select m.route, u.profile_id,
         count(*) filter (where w.good) as worked,
         count(*) filter (where not w.good) as failed,
         count(*) filter (where m.back) as back,
         sum(least(1, extract(epoch from now() - e.at)::float8 / (e.warranty_days * 86400)))
           filter (where w.good and not m.back and e.warranty_days > 0) as stayed
       from (select m.unit_id, m.fault_id, m.route, m.outcome, c.mend_id is not null as back
             from mend m left join (select distinct mend_id from comeback) c on c.mend_id = m.id
             where m.route is not null and m.outcome is not null) m
       join unit u on u.id = m.unit_id
       left join fault f on f.id = m.fault_id and f.status = 'open'
       cross join lateral (select m.outcome = 'worked' and (f.id is null or m.back) as good) w
       left join (select distinct on (unit_id) unit_id, at, warranty_days from ending where kind = 'released'
                  order by unit_id, at desc) e on e.unit_id = u.id
       group by 1, 2)
     select t.route, p.key as model, sum(worked)::int as worked, sum(failed)::int as failed, sum(back)::int as "cameBack",
       coalesce(sum(stayed), 0)::float8 as stayed
     from tally t join model_profile p on p.id = t.profile_id group by 1, 2`,
  );
  return rows;
}

type Loaded = { unit: UnitRow; profile: StoredProfile; settings: Settings };

/** The model's part slots, with what lies on the shelf: a part that is there has no lead time and costs what it cost. */
async function slotsWithShelf(db: Knex, profile: ModelProfile, revision: string | null): Promise<Slot[]> {
  const [stock, { value: catalogue }] = await together(
    db,
    () => freeStock(db),
    () => loadCatalogue(db),
  );
  if (stock.length === 0) return profile.slots ?? [];
  return (profile.slots ?? []).map((slot) => {
    const fits = partsThatFit(catalogue, { model: profile.id, revision, slot });
    return {
      ...slot,
      offers: slot.offers.map((offer) => {
        const there = stock.filter(
          (s) =>
            s.count >= (slot.fit?.count ?? 1) &&
            fits.some((f) => f.part === s.part && partOf(catalogue, s.part)?.make === offer.make),
        );
        if (there.length === 0) return offer;
        const cheapest = Math.min(...there.map((s) => s.worth)) * (slot.fit?.count ?? 1);
        return { ...offer, leadDays: 0, priceMinor: cheapest };
      }),
    };
  });
}

type OpenFault = { id: string; number: number; place: string; measure: string | null };
const mendsBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("mend as m").leftJoin("fault as f", "f.id", "m.fault_id").whereIn("m.unit_id", unitIds).orderBy("m.number"),
    { m: "mend", f: "fault?" },
    "m.route",
    "m.outcome",
    "m.minutes",
    "m.part_minor",
    "m.opened",
    "m.at",
    "m.unit_id as of",
    "f.place",
  ),
);
const lastFullTestBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("recording as r")
      .distinctOn("r.unit_id")
      .whereIn("r.unit_id", unitIds)
      .where("r.purpose", "full")
      .orderBy([{ column: "r.unit_id" }, { column: "r.started_at", order: "desc" }]),
    { r: "recording" },
    "r.id",
    "r.started_at",
    "r.grades",
    "r.unit_id as of",
  ),
);

/** Everything that the advice on one unit needs, as plain data that also a page's worker can take. */
export async function decideInput(db: Knex, { unit, profile, settings }: Loaded): Promise<DecideInput> {
  const newest = (await modelByKey(db, profile.key)) ?? profile;
  const slots = await slotsWithShelf(db, newest.body, unit.revision);
  const [{ value: routes }, { value: money }, record, faults, mends, [full], standings] = await together(
    db,
    () => loadRoutes(db),
    () => loadModelMoney(db, newest.body),
    () => routeRecord(db),
    () => openFaultsBy(db, unit.id),
    () => mendsBy(db, unit.id),
    () => lastFullTestBy(db, unit.id),
    () => standingsOf(db, unit.id),
  );
  const open = new Set(faults.map((f) => f.place));
  const tried = mends.flatMap((m) =>
    m.route && m.place && (m.outcome === "failed" || open.has(m.place)) ? [{ place: m.place, route: m.route }] : [],
  );
  const sinceProof = mends.filter((m) => m.opened && (!full || m.at > full.started_at));
  const reach = (place: string | null) =>
    Math.min(...slots.filter((s) => place && s.serves.includes(place)).map((s) => s.stripMinutes), Infinity);
  const depths = sinceProof.map((m) => reach(m.place)).filter(Number.isFinite);
  return {
    profile: { id: newest.body.id, controls: newest.body.controls, functions: newest.body.functions, slots },
    revision: unit.revision,
    market: money.market,
    rates: settings.rates,
    routes,
    record,
    rules: money.rules.map(({ family, also, route }): Rule => ({ family, also, route })),
    faults: faults.map(({ id, number, place, measure }) => ({ id, number, place, measure })),
    tried,
    openMinutes: sinceProof.length ? Math.max(0, ...depths) : 0,
    spent: {
      purchase: purchaseOf(unit),
      parts: mends.reduce((s, m) => s + m.part_minor, 0),
      minutes: mends.reduce((s, m) => s + m.minutes, 0),
    },
    customer: unit.source === "customer" ? { limit: unit.intake.costLimitMinor, precise: unit.intake.use === "precise" } : null,
    withheld: standings.filter((s) => s.state === "no").map((s) => s.faultId),
    ...(await knownOf(db, unit, newest.body, { faults, mends, full })),
  };
}

const CAP_OF_GRADE: Partial<Record<Grade, 1 | 2>> = { B: 1, C: 2 };
const CAP_OF_OUTSIDE: Record<Condition, 0 | 1 | 2> = { fine: 0, light: 0, marked: 1, worn: 2 };

type Read = {
  faults: readonly OpenFault[];
  mends: Awaited<ReturnType<typeof mendsBy>>;
  full: Awaited<ReturnType<typeof lastFullTestBy>>[number] | undefined;
};

/** What nobody tested, and what holds the price down whatever is mended: grades measured elsewhere, and the outside. */
async function knownOf(
  db: Knex,
  unit: UnitRow,
  profile: ModelProfile,
  { faults: open, mends, full: test }: Read,
): Promise<Pick<DecideInput, "untested" | "caps">> {
  const [checks, outside] = await together(
    db,
    () => answersBy(db, unit.id),
    () => conditionFor(db, unit),
  );
  const grades = test?.grades ?? {};
  const isFaulty = (id: string) => open.some((f) => f.place === id);
  // what was mended after the test is not what was measured
  const isStale = (id: string) => mends.some((m) => m.place === id && test !== undefined && m.at > test.started_at);
  const controls = controlsOf(profile, unit.revision).map((c) => c.id);
  const functions = functionsOf(profile, unit.revision).map((f) => f.id);
  return {
    untested: [
      ...controls.filter((id) => (grades[id] ?? "untested") === "untested" && !isFaulty(id)),
      ...functions.filter(
        (id) => (checks.find((c) => c.function_id === id)?.result ?? "not-tested") === "not-tested" && !isFaulty(id),
      ),
    ],
    caps: [
      ...controls.flatMap((id) => {
        const cap = CAP_OF_GRADE[grades[id] ?? "untested"];
        return cap && !isFaulty(id) && !isStale(id) ? [{ cap, what: id }] : [];
      }),
      ...(CAP_OF_OUTSIDE[outside.condition] > 0 ? [{ cap: CAP_OF_OUTSIDE[outside.condition], what: "outside" }] : []),
    ],
  };
}

export type DecisionView = {
  id: string;
  disposition: Disposition;
  route: string | null;
  why: string;
  faults: number[];
  advised: KeptAdvice;
  forecast: Forecast | null;
  by: string;
  at: string;
};

const firstRoute = (advice: Advice, tree: Advice["tree"]) => (tree.do === "try" ? advice.options[tree.attempt]!.route.id : null);

const keptOf = (advice: Advice): KeptAdvice => ({
  best: advice.best,
  value: Math.round(advice.value),
  first: firstRoute(advice, advice.tree),
  policy: advice.policy && {
    best: advice.policy.best,
    value: Math.round(advice.policy.value),
    first: firstRoute(advice, advice.policy.tree),
  },
  schools: advice.schools.map((s) => ({ school: s.school, value: Math.round(s.value) })),
});

const forecastOf = (end: End | undefined, sunk: number): Forecast | null => {
  if (!end || end.value === null) return null;
  const s = end.spread;
  return {
    value: Math.round(end.value),
    margin: Math.round(end.value - sunk),
    low: Math.round(s?.low ?? end.value - sunk),
    high: Math.round(s?.high ?? end.value - sunk),
    loss: s?.loss ?? Number(end.value - sunk < 0),
    minutes: Math.round(s?.minutes ?? 0),
  };
};

const isGoing = (d: Disposition): boolean => d === "mend" || d === "hold";

/** What a decision rests on, besides the shop's record of routes, which others' work changes all the while. */
const basisOf = (input: DecideInput): string => JSON.stringify({ ...input, record: null });

export const solve = (input: DecideInput): Promise<Advice> => offThread("advise", input, MOST_SECONDS);
const MOST_SECONDS = 30;

type Solved = { basis: string; advice: Advice; chosen: Advice };

/** Solves a unit's decision before anything is locked: as advised, and for the route that was asked for instead. */
async function solveDecision({ unitId, disposition, route }: DeedParsed<"decision.take">, db: Knex): Promise<Solved> {
  const unit = await unitById(db, unitId);
  const { settings } = await loadSettings(db);
  const input = await decideInput(db, { unit, profile: await modelById(db, unit.profile_id), settings });
  const advice = await solve(input);
  const solved = { basis: basisOf(input), advice, chosen: advice };
  if (advice.testFirst || !isGoing(disposition) || route === null || route === keptOf(advice).first) return solved;
  const about = advice.options.find((o) => o.route.id === route && !o.twin);
  if (!about) throw new Refused({ code: "route-unknown", route });
  const keep = (r: Route) =>
    r.id === route || !advice.options.some((o) => o.route.id === r.id && o.places.some((p) => about.places.includes(p)));
  return { ...solved, chosen: await solve({ ...input, routes: input.routes.filter(keep) }) };
}

export const takeDecision = deed(
  "decision.take",
  { unit: namedUnit, seen: "unit", workable: true, prepare: solveDecision },
  async ({ db, actor, note, unit, prepared: { basis, advice, chosen } }, { unitId, disposition, route, why }) => {
    const profile = await modelById(db, unit.profile_id);
    await settingsAhead(db, ["shop", "catalogue", "routes", `model:${profile.body.id}`]);
    const { settings } = await loadSettings(db);
    const input = await decideInput(db, { unit, profile, settings });
    if (basisOf(input) !== basis) throw new Stale();
    // nobody knows what there is to mend: the lazy way to a price stops here
    if (advice.testFirst && (isGoing(disposition) || disposition === "sell-limited"))
      throw new Refused({ code: "untested", count: input.untested.length });
    const kept = keptOf(advice);
    const agrees = (best: Disposition, first: string | null) =>
      best === disposition && (!isGoing(disposition) || route === null || route === first);
    const byRule = advice.policy !== null && agrees(kept.policy!.best, kept.policy!.first);
    if (!agrees(kept.best, kept.first) && !byRule && why === "") throw new Refused({ code: "needs-why" });
    const end = chosen.ends.find((e) => e.disposition === disposition);
    await db("decision").insert({
      unit_id: unitId,
      disposition,
      route: isGoing(disposition) ? (route ?? (byRule ? kept.policy!.first : kept.first)) : null,
      why,
      faults: JSON.stringify(input.faults.map((f) => f.number)),
      advised: JSON.stringify(kept),
      forecast: JSON.stringify(forecastOf(end, chosen.sunk)),
      ...stamp(db, actor),
    });
    note("decided", unitId, { disposition, route, why, advised: kept.best });
    return nothing;
  },
);

/** The latest decision of a unit. */
export const decisionBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("decision as d")
      .distinctOn("d.unit_id")
      .whereIn("d.unit_id", unitIds)
      .orderBy([{ column: "d.unit_id" }, { column: "d.at", order: "desc" }]),
    { d: "decision" },
    "d.route",
    "d.unit_id as of",
  ),
);

export async function decisionsOf(db: Knex, unitId: Id<"unit">): Promise<DecisionView[]> {
  const rows = await rowsOf(
    db("decision").join("person", "person.id", "decision.by").where({ unit_id: unitId }).orderBy("decision.at", "desc"),
    { decision: "decision", person: "person" },
    "decision.*",
    "person.name as person",
  );
  return rows.map((r) => ({
    id: r.id,
    disposition: r.disposition,
    route: r.route,
    why: r.why,
    faults: r.faults,
    advised: r.advised,
    forecast: r.forecast,
    by: r.person,
    at: r.at.toISOString(),
  }));
}

export type DecideView = {
  input: DecideInput;
  decisions: DecisionView[];
  routeNames: Record<string, string>;
  /** numbers of the faults that wait for the customer's yes, and of those turned down */
  awaiting: number[];
  refused: number[];
};

export async function decideView(db: Knex, unitId: Id<"unit">): Promise<DecideView> {
  const unit = await unitById(db, unitId);
  const profile = await modelById(db, unit.profile_id);
  const { settings } = await loadSettings(db);
  const [input, decisions, standings] = await together(
    db,
    () => decideInput(db, { unit, profile, settings }),
    () => decisionsOf(db, unitId),
    () => standingsOf(db, unitId),
  );
  const numbers = (state: string) =>
    standings.filter((s) => s.state === state).flatMap((s) => input.faults.find((f) => f.id === s.faultId)?.number ?? []);
  return {
    input,
    decisions,
    routeNames: Object.fromEntries(input.routes.map((r) => [r.id, r.name])),
    awaiting: numbers("waiting"),
    refused: numbers("no"),
  };
}

/** Whether a route can act at a place: one for some kinds of sensor needs a stick that has, or may have, one of them. */
function actsOn(route: Route, profile: ModelProfile, revision: string | null, place: string): boolean {
  if (!route.sensors) return true;
  const stick = profile.controls.find((c) => c.id === place);
  if (stick?.kind !== "stick") return false;
  const known = revision === null ? undefined : stick.sensorByRevision?.[revision];
  const may = known
    ? [known]
    : revision === null
      ? [stick.sensor, ...Object.values(stick.sensorByRevision ?? {})]
      : [stick.sensor];
  return may.some((s) => route.sensors!.includes(s));
}

/** The routes that treat something of a model, with the places that each is for and what its part costs there. */
export async function routesFor(
  db: Knex,
  profile: ModelProfile,
  revision: string | null,
): Promise<{ id: string; name: string; places: string[]; part: string; partMinor: number }[]> {
  const newest = (await modelByKey(db, profile.id))?.body ?? profile;
  const { value: routes } = await loadRoutes(db);
  const all = [...newest.controls, ...newest.functions].map((x) => x.id);
  return routes.flatMap((r) => {
    if (r.models && !r.models.includes(profile.id)) return [];
    const slots = (newest.slots ?? []).filter(
      (s) => r.part && s.kind === r.part.kind && s.offers.some((o) => o.make === r.part!.make),
    );
    const families = new Set(r.treats.map((t) => t.family));
    const treated = all.filter((id) => {
      if (!actsOn(r, newest, revision, id)) return false; // magnets and wheels only where there are some
      const family = familyOf(newest, id, null);
      return (
        family !== null &&
        (families.has(family) || (family === "stick-drift" && (families.has("stick-worn") || families.has("stick-range"))))
      );
    });
    const places = r.part ? treated.filter((id) => slots.some((s) => s.serves.includes(id))) : treated;
    if (places.length === 0) return [];
    const offer = slots[0]?.offers.find((o) => o.make === r.part?.make);
    return [
      {
        id: r.id,
        name: r.name,
        places,
        part: slots[0] ? `${slots[0].name}, ${r.part!.make.replace("-", " ")}` : "",
        partMinor: offer?.priceMinor ?? 0,
      },
    ];
  });
}
