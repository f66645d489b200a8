import "server-only";

import type { Knex } from "knex";

import { loadSettings } from "@/features/settings/settings";
import { type ClosedUnit, closedUnits } from "@/features/case/outcome";
import { type Asked, moments, outcomes } from "./base";
import { asked, figuresOf, rowsOf } from "@/platform/db/joined";

/**
 * What came of it at a glance: the sums of the asked days, first jobs against later ones, and the latest
 * units term by term.
 */

export type ResultsView = {
  from: string;
  to: string;
  totals: { units: number; marginMinor: number; minutes: number; forecast: number; offMinor: number | null };
  latest: ClosedUnit[];
  learning: {
    model: string;
    first: number | null;
    firstJobs: number;
    later: number | null;
    laterJobs: number;
  }[];
};

const FIRST_JOBS = 3;
const LATEST = 60;

export async function resultsView(db: Knex, a: Asked): Promise<ResultsView> {
  const { settings } = await loadSettings(db);
  const [from, before] = moments(a);
  const totals = await figuresOf<{
    units: number;
    margin: number;
    minutes: number;
    forecast: number;
    off: number | null;
  }>(
    outcomes(db, a),
    db.raw(
      `count(*)::int as units, coalesce(sum(o.margin_minor), 0)::float8 as margin, coalesce(sum(o.minutes), 0)::float8 as minutes,
       count(o.forecast_minor)::int as forecast, avg(o.margin_minor - o.forecast_minor)::float8 as off`,
    ),
  );
  const latest = outcomes(db, a).orderBy("o.closed_at", "desc").limit(LATEST);
  const ids = (await rowsOf(latest, { o: "outcome" }, "o.unit_id")).map((r) => r.unit_id);
  type Learnt = {
    model: string;
    first: number | null;
    first_jobs: number;
    later: number | null;
    later_jobs: number;
  };
  const learning = await asked<Learnt>(
    db,
    `select m.name as model, f.minutes as first, f.n as first_jobs, l.minutes as later, l.n as later_jobs from
         (select distinct on (key) key, name from model_profile order by key, version desc) m
         cross join lateral (select avg(minutes)::float8 as minutes, count(*)::int as n, max(closed_at) as last from
           (select minutes, closed_at from outcome where model = m.key and minutes > 0 order by closed_at limit ?) x) f
         cross join lateral (select avg(minutes)::float8 as minutes, count(*)::int as n from outcome
           where model = m.key and minutes > 0 and closed_at > f.last and closed_at >= ? and closed_at < ?) l
       where f.n > 0 and (?::text is null or m.key = ?) order by m.name`,
    [FIRST_JOBS, from, before, a.model, a.model],
  );
  return {
    from: a.from,
    to: a.to,
    totals: {
      units: totals.units,
      marginMinor: totals.margin,
      minutes: totals.minutes,
      forecast: totals.forecast,
      offMinor: totals.off,
    },
    latest: await closedUnits(db, settings.rates, ids),
    learning: learning.map((l) => ({
      model: l.model,
      first: l.first,
      firstJobs: l.first_jobs,
      later: l.later,
      laterJobs: l.later_jobs,
    })),
  };
}
