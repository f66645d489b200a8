import "server-only";

import type { Knex } from "knex";

import type { Report } from "@/contract/reports";
import { type Family, familyOf } from "@/core/decide/families";
import { type Held, survivalOf } from "@/core/decide/survival";
import { wilson } from "@/core/math/binomial";
import { loadRoutes } from "@/features/routes/deeds";
import { listModels } from "@/features/models/deeds";
import { FAMILY_WORDS, MAKE_WORDS } from "@/features/decide/words/text";
import { type Asked, barsOf, BOUNDS, columns, moments, ofAsked, reportOn } from "./base";
import { codeWords } from "@/words/codes";
import { say } from "@/features/results/words/words";
import { refOf } from "@/core/mend/ref";
import { taskWords } from "@/features/units/words/text";

/** Reports about mends and faults: what works, what holds, what fails, and how long steps take. */

const DAY_MS = 24 * 3600_000;

const mendsOf = (db: Knex, a: Asked): Knex.QueryBuilder => {
  const [from, before] = moments(a);
  return ofAsked(
    db("mend as w")
      .join("unit as u", "u.id", "w.unit_id")
      .join("model_profile as p", "p.id", "u.profile_id")
      .where("w.at", ">=", from)
      .where("w.at", "<", before),
    a,
  );
};

/** Families of faults by model, place and measure, read from the newest profiles. */
async function familyReader(
  db: Knex,
): Promise<(model: string, place: string, measure: string | null) => Family | null> {
  const profiles = new Map((await listModels(db)).map((m) => [m.key, m.body]));
  return (model, place, measure) => {
    const profile = profiles.get(model);
    return profile ? familyOf(profile, place, measure) : null;
  };
}

/** How often each route cured each kind of fault. */
export async function yieldReport(db: Knex, a: Asked): Promise<Report> {
  const rows: {
    route: string;
    model: string;
    place: string;
    measure: string | null;
    n: number;
    worked: number;
  }[] = await mendsOf(db, a)
    .join("fault as f", "f.id", "w.fault_id")
    .leftJoin("comeback as c", "c.mend_id", "w.id")
    .whereNotNull("w.route")
    .whereNotNull("w.outcome")
    .groupBy("w.route", "p.key", "f.place", "f.measure")
    .select(
      "w.route",
      "p.key as model",
      "f.place",
      "f.measure",
      // mends between two tests share their cure, and count in part
      db.raw("sum(case when w.outcome = 'worked' then coalesce(w.credit, 1) else 1 end)::float8 as n"),
      db.raw(
        "coalesce(sum(coalesce(w.credit, 1)) filter (where w.outcome = 'worked' and (f.status <> 'open' or c.id is not null)), 0)::float8 as worked",
      ),
    );
  const family = await familyReader(db);
  const { value: routes } = await loadRoutes(db);
  const groups = new Map<string, { family: Family; route: string; n: number; worked: number }>();
  for (const r of rows) {
    const f = family(r.model, r.place, r.measure);
    if (!f) continue;
    const key = `${f} ${r.route}`;
    const g = groups.get(key) ?? { family: f, route: r.route, n: 0, worked: 0 };
    groups.set(key, { ...g, n: g.n + r.n, worked: g.worked + r.worked });
  }
  const lines = [...groups.values()]
    .map((g) => {
      const [low, high] = wilson(g.worked, g.n);
      const route = routes.find((x) => x.id === g.route);
      return {
        fault: FAMILY_WORDS[g.family],
        route: route?.name ?? g.route,
        tried: Math.round(g.n * 10) / 10,
        worked: Math.round(g.worked * 10) / 10,
        share: g.worked / g.n,
        low,
        high,
        stated: route?.treats.find((t) => t.family === g.family)?.success.mean ?? null,
      };
    })
    .sort((x, y) => y.tried - x.tried);
  return reportOn(a, {
    id: "yield",
    columns: columns(
      ["fault", say("fault")],
      ["route", say("route")],
      ["tried", say("tried"), "count"],
      ["worked", say("worked"), "count"],
      ["share", say("share"), "share"],
      ...BOUNDS,
      ["stated", say("statedOdds"), "share"],
    ),
    rows: lines,
    chart: {
      kind: "bars",
      bars: barsOf(
        lines,
        (l) => `${l.fault}: ${l.route}`,
        (l) => l.share,
      ),
      unit: "share",
      axis: say("shareThatWorkedWithIts90"),
    },
    notes: [say("intervalsAfterWilsonAt90Few")],
  });
}

/** How long mends hold after the sale, by route and part make. */
export async function returnsReport(db: Knex, a: Asked): Promise<Report> {
  const rows: { route: string; part: string | null; released: Date; back: Date | null }[] = await mendsOf(
    db,
    a,
  )
    .leftJoin("comeback as c", "c.mend_id", "w.id")
    .leftJoin("fitted as g", "g.mend_id", "w.id")
    .whereNotNull("w.route")
    .where({ "w.outcome": "worked" })
    .where((q) => q.whereNotNull("c.id").orWhere({ "u.ending": "released" }))
    .select("w.route", "g.part", db.raw("coalesce(c.released_at, u.closed_at) as released"), "c.at as back");
  const { value: routes } = await loadRoutes(db);
  const groups = new Map<string, { route: string; make: string; held: Held[] }>();
  const today = Date.now();
  for (const r of rows) {
    const route = routes.find((x) => x.id === r.route);
    const make = route?.part ? MAKE_WORDS[route.part.make] : say("noPart");
    const key = `${r.route} ${make}`;
    const g = groups.get(key) ?? { route: route?.name ?? r.route, make, held: [] };
    g.held.push({
      days: Math.max(0, Math.floor(((r.back?.getTime() ?? today) - r.released.getTime()) / DAY_MS)),
      relapsed: r.back !== null,
    });
    groups.set(key, g);
  }
  const lines = [...groups.values()]
    .map((g) => {
      const steps = survivalOf(g.held);
      const last = steps.at(-1);
      return {
        ...g,
        steps,
        relapsed: g.held.filter((h) => h.relapsed).length,
        until: Math.max(...g.held.map((h) => h.days)),
        holding: last?.holding ?? 1,
        low: last?.low ?? null,
        high: last?.high ?? null,
      };
    })
    .sort((x, y) => y.held.length - x.held.length);
  return reportOn(a, {
    id: "returns",
    columns: columns(
      ["route", say("route")],
      ["make", say("partMake2")],
      ["sold", say("sold"), "count"],
      ["back", say("cameBack"), "count"],
      ["until", say("longestSeen"), "days"],
      ["holding", say("stillHolding"), "share"],
      ...BOUNDS,
    ),
    rows: lines.map((l) => ({
      route: l.route,
      make: l.make,
      sold: l.held.length,
      back: l.relapsed,
      until: l.until,
      holding: l.holding,
      low: l.low,
      high: l.high,
    })),
    chart: {
      kind: "holding",
      lines: lines.slice(0, 6).map((l) => ({
        name: l.make === "no part" ? l.route : `${l.route}, ${l.make}`,
        steps: l.steps,
        until: l.until,
      })),
    },
    notes: [say("unitsStillHoldingTodayCount")],
  });
}

type Counted = { model: string; revision: string | null; n: number };
type Found = {
  model: string;
  revision: string | null;
  place: string;
  measure: string | null;
  units: number;
};
type Group = { model: string; revision: string | null; family: Family; units: number };

function takenIn(db: Knex, a: Asked) {
  const [from, before] = moments(a);
  return ofAsked(
    db("unit as u")
      .join("model_profile as p", "p.id", "u.profile_id")
      .where("u.received_at", ">=", from)
      .where("u.received_at", "<", before),
    a,
  );
}

const countedByModel = async (db: Knex, a: Asked): Promise<Counted[]> =>
  takenIn(db, a)
    .groupBy("p.key", "u.revision")
    .select("p.key as model", "u.revision", db.raw("count(*)::int as n"));

const foundByPlace = async (db: Knex, a: Asked): Promise<Found[]> =>
  takenIn(db, a)
    .join("fault as f", "f.unit_id", "u.id")
    .whereNot("f.status", "withdrawn")
    .groupBy("p.key", "u.revision", "f.place", "f.measure")
    .select(
      "p.key as model",
      "u.revision",
      "f.place",
      "f.measure",
      db.raw("count(distinct u.id)::int as units"),
    );

/** Several symptoms of one place are one fault: the commonest of them counts for the place. */
function groupedByFamily(
  rows: readonly Found[],
  familyOf: (model: string, place: string, measure: string | null) => Family | null,
): Group[] {
  const byPlace = new Map<string, Group>();
  for (const { model, revision, place, measure, units } of rows) {
    const family = familyOf(model, place, measure);
    if (!family) continue;
    const key = `${model} ${revision} ${place} ${family}`;
    byPlace.set(key, { model, revision, family, units: Math.max(byPlace.get(key)?.units ?? 0, units) });
  }
  const groups = new Map<string, Group>();
  for (const p of byPlace.values()) {
    const key = `${p.model} ${p.revision} ${p.family}`;
    groups.set(key, { ...p, units: (groups.get(key)?.units ?? 0) + p.units });
  }
  return [...groups.values()];
}

const MOST_FAULTS = 200;

/** Which faults each model and generation comes with. */
export async function faultsReport(db: Knex, a: Asked): Promise<Report> {
  const totals = await countedByModel(db, a);
  const rows = await foundByPlace(db, a);
  const models = new Map((await listModels(db)).map((m) => [m.key, m.body]));
  const lines = groupedByFamily(rows, await familyReader(db))
    .map((g) => {
      const profile = models.get(g.model);
      const of = totals.find((t) => t.model === g.model && t.revision === g.revision)?.n ?? 0;
      const [low, high] = wilson(Math.min(g.units, of), of);
      return {
        model: profile?.name ?? g.model,
        generation: profile?.revisions.find((r) => r.id === g.revision)?.name ?? say("notKnown"),
        fault: FAMILY_WORDS[g.family],
        faults: g.units,
        units: of,
        share: Math.min(1, g.units / Math.max(1, of)),
        low,
        high,
      };
    })
    .sort((x, y) => y.faults - x.faults)
    .slice(0, MOST_FAULTS);
  return reportOn(a, {
    id: "faults",
    columns: columns(
      ["model", say("model")],
      ["generation", say("generation")],
      ["fault", say("fault")],
      ["faults", say("faults"), "count"],
      ["units", say("unitsTakenIn"), "count"],
      ["share", say("faultsAUnit"), "share"],
      ...BOUNDS,
    ),
    rows: lines,
    chart: {
      kind: "bars",
      bars: barsOf(
        lines,
        (l) => `${l.model} ${l.generation}: ${l.fault}`,
        (l) => l.share,
      ),
      unit: "share",
      axis: say("faultsAUnitTakenIn"),
    },
    notes: [say("byTheDayOnWhichUnits")],
  });
}

/** Minutes of each step of the guides as they were really taken. */
export async function stepsReport(db: Knex, a: Asked): Promise<Report> {
  const [from, before] = moments(a);
  const rows: {
    model: string;
    kind: string;
    step: string;
    n: number;
    median: number;
    long: number;
    first: number | null;
  }[] = await ofAsked(
    db("work_event as e")
      .join("work_order as o", "o.id", "e.work_order_id")
      .join("unit as u", "u.id", "o.unit_id")
      .join("model_profile as p", "p.id", "u.profile_id")
      .where("e.at", ">=", from)
      .where("e.at", "<", before)
      .where({ "e.undone": false })
      .whereNotNull("e.minutes"),
    a,
  )
    .groupByRaw("1, 2, 3")
    .orderBy("n", "desc")
    .limit(200)
    .select(
      "p.key as model",
      db.raw(
        "e.body->>'kind' as kind, coalesce(e.body->>'step', e.body->>'task', e.body->>'gate', '') as step",
      ),
      db.raw("count(*)::int as n"),
      db.raw("percentile_cont(0.5) within group (order by e.minutes) as median"),
      db.raw("percentile_cont(0.9) within group (order by e.minutes) as long"),
    );
  const models = new Map((await listModels(db)).map((m) => [m.key, m.body]));
  const lines = rows.map((r) => {
    const profile = models.get(r.model);
    const { kind, step: id } = r;
    const guide = profile?.guide?.steps.find((s) => s.id === id);
    return {
      model: profile?.name ?? r.model,
      step: `${guide?.title ?? (refOf(id) ? taskWords(id) : codeWords(id))}${kind === "back" ? say("back") : ""}`,
      done: r.n,
      median: r.median,
      long: r.long,
      guide: kind === "apart" ? (guide?.minutes ?? null) : null,
    };
  });
  return reportOn(a, {
    id: "steps",
    columns: columns(
      ["model", say("model")],
      ["step", say("step")],
      ["done", say("times"), "count"],
      ["median", say("median"), "minutes"],
      ["long", say("nineOfTenWithin"), "minutes"],
      ["guide", say("theGuideSays"), "minutes"],
    ),
    rows: lines,
    chart: {
      kind: "bars",
      bars: barsOf(
        lines,
        (l) => `${l.model}: ${l.step}`,
        (l) => l.median,
      ),
      unit: "minutes",
      axis: say("medianMinutes"),
    },
    notes: [],
  });
}
