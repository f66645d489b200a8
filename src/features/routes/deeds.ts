import "server-only";

import type { Knex } from "knex";

import { DEEDS, type DeedParsed } from "@/contract/deeds";
import type { EventKind } from "@/contract/events";
import { z } from "@/core/base/schema";
import type { RouteTally } from "@/core/decide/build";
import { HOUSE_ROUTES, type Route, routesSchema } from "@/core/decide/routes";
import type { ModelProfile } from "@/core/profile/profile";
import type { Market } from "@/core/profile/slots";
import { modelByKey } from "@/features/models/deeds";
import { loadValue, saveValue } from "@/features/settings/settings";
import { sharedRead } from "@/platform/db/batched";
import { Refused, nothing } from "@/platform/deed/base";
import { deed } from "@/platform/deed/declare";
import { untilNoted } from "@/platform/deed/noted";

/** The shop's routes with their record, and what a model fetches and costs. */

export const loadRoutes = (db: Knex): Promise<{ value: Route[]; version: number }> =>
  loadValue(db, "routes", routesSchema, HOUSE_ROUTES);

export type ModelMoney = Pick<DeedParsed<"model.save-money">, "market" | "rules">;

const moneySchema = z.object({
  market: DEEDS["model.save-money"].input.shape.market,
  rules: DEEDS["model.save-money"].input.shape.rules,
});

const UNKNOWN_MARKET: Market = { newMinor: 0, aMinor: 0, bMinor: 0, cMinor: 0, asFoundMinor: 0 };

export const loadModelMoney = (
  db: Knex,
  profile: ModelProfile,
): Promise<{ value: ModelMoney; version: number }> =>
  loadValue(db, `model:${profile.id}`, moneySchema, { market: profile.market ?? UNKNOWN_MARKET, rules: [] });

export const saveRoutes = deed("routes.save", {}, async ({ db, note }, { version, routes }) => {
  await saveValue(db, "routes", version, routes);
  note("routes-saved", null, { routes: routes.length });
  return nothing;
});

export const saveModelMoney = deed(
  "model.save-money",
  {},
  async ({ db, note }, { key, version, market, rules }) => {
    if (!(await modelByKey(db, key))) throw new Refused({ code: "not-found", what: "model" });
    const { value: routes } = await loadRoutes(db);
    for (const r of rules)
      if (!routes.some((x) => x.id === r.route)) throw new Refused({ code: "route-unknown", route: r.route });
    await saveValue(db, `model:${key}`, version, { market, rules });
    note("model-money-saved", null, { key, market, rules });
    return nothing;
  },
);

/**
 * What this shop saw of each route on each model. A cure counts once something was tested after it, and mends between
 * two tests share it. A retest that failed, or a fault that was opened again
 * after a cure, counts against it. A sold unit counts as staying for the share of its warranty that has
 * passed without a comeback.
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
  // a cure counts once it was tested
  "recording-stored",
  "function-checked",
];

async function tallyRoutes(db: Knex): Promise<RouteTally[]> {
  const { rows }: { rows: RouteTally[] } = await db.raw(
    // summed by the model's id first: text is sorted for nothing otherwise
    `with tally as (
       select m.route, u.profile_id,
         sum(m.credit) filter (where w.good and w.tested) as worked,
         sum(m.credit) filter (where not w.good) as failed,
         count(*) filter (where m.back) as back,
         sum(least(1, extract(epoch from now() - e.at)::float8 / (e.warranty_days * 86400)))
           filter (where w.good and not m.back and e.warranty_days > 0) as stayed
       from (select m.unit_id, m.fault_id, m.route, m.outcome, m.at, coalesce(m.credit, 1) as credit, c.mend_id is not null as back
             from mend m left join (select distinct mend_id from comeback) c on c.mend_id = m.id
             where m.route is not null and m.outcome is not null) m
       join unit u on u.id = m.unit_id
       left join fault f on f.id = m.fault_id and f.status = 'open'
       cross join lateral (select m.outcome = 'worked' and (f.id is null or m.back) as good,
         exists (select 1 from recording r where r.unit_id = m.unit_id and r.started_at > m.at and r.purpose <> 'quick')
         or exists (select 1 from function_check k where k.unit_id = m.unit_id and k.at > m.at) as tested) w
       left join (select distinct on (unit_id) unit_id, at, warranty_days from ending where kind = 'released'
                  order by unit_id, at desc) e on e.unit_id = u.id
       group by 1, 2)
     select t.route, p.key as model, coalesce(sum(worked), 0)::float8 as worked, coalesce(sum(failed), 0)::float8 as failed, sum(back)::int as "cameBack",
       coalesce(sum(stayed), 0)::float8 as stayed
     from tally t join model_profile p on p.id = t.profile_id group by 1, 2`,
  );
  return rows;
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [saveModelMoney, saveRoutes] as const;
