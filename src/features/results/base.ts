import "server-only";

import type { Knex } from "knex";

import type { Column, ColumnKind, Report, ReportFilter, Row } from "@/contract/reports";
import { dayOf, daysLater, startOf } from "@/core/days/days";
import { say } from "@/features/results/words/words";

/** What all reports share: their days, and the filters as conditions. */

export type Asked = {
  from: string;
  to: string;
  zone: string;
  model: string | null;
  source: string | null;
  by: ReportFilter["by"];
};

const USUAL_DAYS = 365;

/** The last year on the shop's clock when no days are given; days the wrong way round are turned. */
export function askedOf(filter: ReportFilter, zone: string): Asked {
  const to = filter.to ?? dayOf(new Date(), zone);
  const from = filter.from ?? daysLater(to, -USUAL_DAYS);
  return { ...filter, zone, from: from < to ? from : to, to: from < to ? to : from };
}

/** Moments of the asked days, as [from, before). */
export const moments = (a: Asked): [Date, Date] => [
  startOf(a.from, a.zone),
  startOf(daysLater(a.to, 1), a.zone),
];

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

/** Columns from key, label and kind; a text when no kind is named. */
export const columns = (...all: [key: string, label: string, kind?: ColumnKind][]): Column[] =>
  all.map(([key, label, kind = "text"]) => ({ key, label, kind }));

/** The bounds of a share, as they stand in every table of shares. */
export const BOUNDS: [key: string, label: string, kind: ColumnKind][] = [
  ["low", say("atLeast"), "share"],
  ["high", say("atMost"), "share"],
];

export const reportOn = (a: Asked, report: Omit<Report, "from" | "to">): Report => ({
  from: a.from,
  to: a.to,
  ...report,
});

/** Bars of the first rows that have the value, with the bounds that stand in the row. */
export function barsOf<R extends Row>(
  rows: readonly R[],
  name: (row: R) => string,
  value: (row: R) => number | null,
  most = 14,
) {
  const bound = (x: Row[string] | undefined) => (typeof x === "number" ? x : null);
  return rows
    .flatMap((r) => {
      const v = value(r);
      return v === null ? [] : [{ name: name(r), value: v, low: bound(r.low), high: bound(r.high) }];
    })
    .slice(0, most);
}
