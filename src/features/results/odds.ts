import "server-only";

import type { Knex } from "knex";

import type { Report } from "@/contract/reports";
import { wilson } from "@/core/math/binomial";
import { say } from "@/features/results/words/words";
import { loadRoutes } from "@/features/routes/deeds";
import { codeWords } from "@/words/codes";
import { type Asked, barsOf, BOUNDS, columns, moments, ofAsked, reportOn } from "./base";

/** What decisions said of the odds of a route, against what its retests said. */

type Told = { cause: string; route: string; n: number; said: number; worked: number };

/** Each mend beside the last decision before it that spoke of its route at its place. */
const toldOf = (db: Knex, a: Asked): Promise<Told[]> => {
  const [from, before] = moments(a);
  const each = ofAsked(
    db("mend as w")
      .join("unit as u", "u.id", "w.unit_id")
      .join("model_profile as p", "p.id", "u.profile_id")
      .join("fault as f", "f.id", "w.fault_id")
      .joinRaw(
        `join lateral (select t.value as said from decision d
           cross join lateral jsonb_array_elements(coalesce(d.forecast->'tries', '[]')) t
           where d.unit_id = w.unit_id and d.at < w.at and t.value->>'place' = f.place and t.value->>'route' = w.route
           order by d.at desc limit 1) d on true`,
      )
      .where("w.at", ">=", from)
      .where("w.at", "<", before)
      .whereNotNull("w.outcome"),
    a,
  ).select(
    "w.route",
    db.raw("d.said->>'cause' as cause"),
    db.raw("(d.said->>'works')::float8 as works"),
    // mends between two tests share their cure, and count in part
    db.raw("case when w.outcome = 'worked' then coalesce(w.credit, 1) else 0 end as worked"),
  );
  return db
    .from(each.as("e"))
    .groupBy("cause", "route")
    .select(
      "cause",
      "route",
      db.raw("count(*)::int as n"),
      db.raw("avg(works)::float8 as said"),
      db.raw("sum(worked)::float8 as worked"),
    );
};

/** By cause and route: how often it works by what decisions said, and by what came. */
export async function oddsReport(db: Knex, a: Asked): Promise<Report> {
  const { value: routes } = await loadRoutes(db);
  const lines = (await toldOf(db, a))
    .map((t) => {
      const [low, high] = wilson(t.worked, t.n);
      const share = t.worked / t.n;
      return {
        cause: codeWords(t.cause),
        route: routes.find((r) => r.id === t.route)?.name ?? t.route,
        n: t.n,
        said: t.said,
        share,
        low,
        high,
      };
    })
    .sort((x, y) => y.n - x.n || x.cause.localeCompare(y.cause));
  return reportOn(a, {
    id: "odds",
    columns: columns(
      ["cause", say("behindIt")],
      ["route", say("route")],
      ["n", say("tried"), "count"],
      ["said", say("said"), "share"],
      ["share", say("cameTrue"), "share"],
      ...BOUNDS,
    ),
    rows: lines,
    chart: lines.length
      ? {
          kind: "bars",
          bars: barsOf(
            lines,
            (l) => `${l.cause}: ${l.route}`,
            (l) => l.share,
          ),
          unit: "share",
          axis: say("oddsAgainstFact"),
        }
      : null,
    notes: [say("onlyDecisionsThatKept")],
  });
}
