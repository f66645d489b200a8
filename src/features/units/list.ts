import "server-only";

import type { Knex } from "knex";

import type { Ending, NextAction } from "@/core/record/standing";
import { type Narrow, countOf, rowsOf } from "@/platform/db/joined";

/** Units as lines of a list: searched, sorted, page by page. */

export type UnitLine = {
  id: string;
  tag: string;
  model: string;
  modelKey: string;
  stage: string;
  nextAction: NextAction;
  ending: Ending | null;
  source: "single" | "lot" | "customer";
  claim: string;
  tray: number | null;
  receivedAt: string;
  /** kept as a known-good unit to compare with */
  reference: boolean;
};

export type UnitFilter = {
  stage?: string | undefined;
  model?: string | undefined;
  source?: string | undefined;
  q?: string | undefined;
};

export const UNIT_SORTS = ["tag", "model", "stage", "tray", "source", "receivedAt"] as const;

export type UnitPage = {
  /** from 0 */
  page: number;
  size: number;
  sort: { by: (typeof UNIT_SORTS)[number]; down: boolean };
};

const SORT_COLUMNS: Record<UnitPage["sort"]["by"], string> = {
  tag: "unit.tag",
  model: "m.name",
  stage: "unit.stage",
  tray: "unit.tray",
  source: "unit.source",
  receivedAt: "unit.received_at",
};

const WORD_LETTERS = 3;

const NEWEST = 4000;

export const unitLines = (db: Knex, narrow: Narrow) =>
  rowsOf(
    narrow(db("unit").join("model_profile as m", "m.id", "unit.profile_id")),
    { unit: "unit", m: "model_profile" },
    "unit.id",
    "unit.tag",
    "m.name as model",
    "m.key as model_key",
    "unit.stage",
    "unit.next_action",
    "unit.ending",
    "unit.source",
    "unit.claim",
    "unit.tray",
    "unit.received_at",
    "unit.reference_since",
  );

export const asLine = (r: Awaited<ReturnType<typeof unitLines>>[number]): UnitLine => ({
  id: r.id,
  tag: r.tag,
  model: r.model,
  modelKey: r.model_key,
  stage: r.stage,
  nextAction: r.next_action,
  ending: r.ending,
  source: r.source,
  claim: r.claim,
  tray: r.tray,
  receivedAt: r.received_at.toISOString(),
  reference: r.reference_since !== null,
});

/** What a filter leaves of the units; words are looked for in tag, claim and model's name. */
async function within(db: Knex, filter: UnitFilter): Promise<Narrow> {
  const models: string[] | null = filter.model
    ? await db("model_profile").where({ key: filter.model }).pluck("id")
    : null;
  const like = filter.q ? likeOf(filter.q) : null;
  const called: string[] = like ? await db("model_profile").whereILike("name", like).pluck("id") : [];
  return (of) => {
    if (filter.stage === "open") of.whereNull("ending");
    else if (filter.stage === "reference") of.whereNotNull("reference_since");
    else if (filter.stage) of.where({ stage: filter.stage });
    if (models) of.whereIn("profile_id", models);
    if (filter.source) of.where({ source: filter.source });
    if (like)
      of.where((w) => w.whereILike("tag", like).orWhereILike("claim", like).orWhereIn("profile_id", called));
    return of;
  };
}

const likeOf = (q: string): string => `%${q.replace(/[%_\\]/g, "\\$&")}%`;

/** One page of the units that a filter leaves, and how many there are of all. */
export async function listUnits(
  db: Knex,
  filter: UnitFilter,
  p: UnitPage,
): Promise<{ units: UnitLine[]; total: number }> {
  const narrow = await within(db, filter);
  const [rows, count] = await Promise.all([
    unitLines(db, (q) =>
      narrow(q)
        .orderByRaw(`${SORT_COLUMNS[p.sort.by]} ${p.sort.down ? "desc" : "asc"} nulls last`)
        .orderBy("tag", "desc")
        .offset(p.page * p.size)
        .limit(p.size),
    ),
    countOf(narrow(db("unit"))),
  ]);
  return { units: rows.map(asLine), total: count };
}

const FOUND = 8;

/** What a person who types may mean; one or two letters look among the newest units only. */
export async function searchUnits(db: Knex, q: string): Promise<UnitLine[]> {
  const narrow = await within(db, { q });
  const newestOf = (of: Knex.QueryBuilder) => of.orderBy("tag", "desc").limit(FOUND);
  // common words are met among the newest units; rare ones are few, and found by the index of words
  const newest = db("unit").orderBy("tag", "desc").limit(NEWEST).as("unit");
  const idsOf = async (of: Knex.QueryBuilder) =>
    (await rowsOf(of, { unit: "unit" }, "unit.id")).map((r) => r.id);
  const near = await idsOf(newestOf(narrow(db.from(newest))));
  const enough = near.length >= FOUND || q.length < WORD_LETTERS;
  const hits = () => db.withMaterialized("hits", narrow(db("unit")).select("id", "tag")).from("hits as unit");
  const ids = enough ? near : await idsOf(newestOf(hits()));
  return (await unitLines(db, (q) => q.whereIn("unit.id", ids).orderBy("tag", "desc"))).map(asLine);
}
