import "server-only";

import type { Knex } from "knex";

import type { ReportFilter } from "@/contract/reports";
import { daysLater } from "@/core/prove/cover";

/** What all reports share: their days, and the filters as conditions. */

export type Asked = { from: string; to: string; model: string | null; source: string | null; by: ReportFilter["by"] };

const USUAL_DAYS = 365;

/** The last year when no days are given; days the wrong way round are turned. */
export function askedOf(filter: ReportFilter, today: string): Asked {
  const to = filter.to ?? today;
  const from = filter.from ?? daysLater(to, -USUAL_DAYS);
  return { ...filter, from: from < to ? from : to, to: from < to ? to : from };
}

/** Moments of the asked days, as [from, before). */
export const moments = (a: Asked): [Date, Date] => [new Date(`${a.from}T00:00:00Z`), new Date(`${daysLater(a.to, 1)}T00:00:00Z`)];

/** Outcomes of the asked days, model and source. */
export function outcomes(db: Knex, a: Asked): Knex.QueryBuilder {
  const [from, before] = moments(a);
  const query = db("outcome as o").where("o.closed_at", ">=", from).where("o.closed_at", "<", before);
  if (a.model) query.where("o.model", a.model);
  if (a.source) query.where("o.source", a.source);
  return query;
}

/** Narrows a query that has the unit as u and its model as p. */
export function ofAsked(query: Knex.QueryBuilder, a: Asked): Knex.QueryBuilder {
  if (a.model) query.where("p.key", a.model);
  if (a.source) query.where("u.source", a.source);
  return query;
}
