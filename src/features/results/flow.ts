import "server-only";

import type { Knex } from "knex";

import type { Report } from "@/contract/reports";

import { type Asked, columns, moments, ofAsked, reportOn } from "./base";
import { daysLater } from "@/core/days/days";
import { computed, type Narrow, rowsOf } from "@/platform/db/joined";
import { codeWords } from "@/words/codes";
import { say } from "@/features/results/words/words";

/** Where units are and wait: counts by station day by day, and how long a stay at each station took. */

const ORDER = ["intake", "test", "find", "decide", "mend", "prove", "release", "quarantine"];
const MOST_DAYS = 90;
/** a calendar of so many days is a slip of the pen */
const LONGEST = 5000;
const HOUR_MS = 3600_000;

type Counted = { x: string[]; series: { name: string; values: number[] }[] };

/** Units at each station at the end of each day, every so many days where they are too many to draw. */
async function countsByDay(db: Knex, a: Asked): Promise<Counted> {
  const ofModel: Narrow = (q) => (a.model ? q.where({ model: a.model }) : q);
  const sum = computed<{ n: number }>(db.raw("sum(delta)::int as n"));
  const base = await rowsOf(
    ofModel(db("stage_day").where("day", "<", a.from).groupBy("stage")),
    { stage_day: "stage_day" },
    "stage_day.stage",
    sum,
  );
  const changes = await rowsOf(
    ofModel(db("stage_day").whereBetween("day", [a.from, a.to]).groupBy("day", "stage").orderBy("day")),
    { stage_day: "stage_day" },
    "stage_day.day",
    "stage_day.stage",
    sum,
  );
  // days before the first unit came show nothing
  const first =
    base.length === 0 && changes[0] && changes[0].day > a.from ? daysLater(changes[0].day, -1) : a.from;
  const days = daysOf(first, a.to);
  const stride = Math.max(1, Math.ceil(days.length / MOST_DAYS));
  const now = new Map(base.map((b) => [b.stage, b.n]));
  const x: string[] = [];
  const series = ORDER.map((name) => ({ name, values: [] as number[] }));
  let next = 0;
  for (const [i, d] of days.entries()) {
    for (; next < changes.length && changes[next]!.day <= d; next++) {
      const c = changes[next]!;
      now.set(c.stage, (now.get(c.stage) ?? 0) + c.n);
    }
    if ((days.length - 1 - i) % stride !== 0) continue;
    x.push(d);
    for (const s of series) s.values.push(Math.max(0, now.get(s.name) ?? 0));
  }
  return { x, series };
}

function daysOf(first: string, last: string): string[] {
  const days: string[] = [];
  for (let d = first; d <= last && days.length < LONGEST; d = daysLater(d, 1)) days.push(d);
  return days;
}

type Passed = { stage: string; n: number; mean: number; long: number };
type There = { stage: string; n: number; oldest: number };

/** Stays that ended in the days asked for. */
async function passedThrough(db: Knex, a: Asked): Promise<Passed[]> {
  const [from, before] = moments(a);
  const stays = db("stay as s").where("s.left_at", ">=", from).where("s.left_at", "<", before);
  if (a.model || a.source)
    ofAsked(
      stays.join("unit as u", "u.id", "s.unit_id").join("model_profile as p", "p.id", "u.profile_id"),
      a,
    );
  return stays
    .groupBy("s.stage")
    .select(
      "s.stage",
      db.raw("count(*)::int as n"),
      db.raw("avg(extract(epoch from s.left_at - s.came_at))::float8 * 1000 as mean"),
      db.raw("max(extract(epoch from s.left_at - s.came_at))::float8 * 1000 as long"),
    );
}

/** Stays that go on today. */
const thereNow = async (db: Knex, a: Asked): Promise<There[]> =>
  ofAsked(
    db("stay as s")
      .join("unit as u", "u.id", "s.unit_id")
      .join("model_profile as p", "p.id", "u.profile_id")
      .whereNull("s.left_at")
      .whereNull("u.ending")
      .whereNull("u.reference_since"),
    a,
  )
    .groupBy("s.stage")
    .select(
      "s.stage",
      db.raw("count(*)::int as n"),
      db.raw("max(extract(epoch from now() - s.came_at))::float8 * 1000 as oldest"),
    );

const COLUMNS = columns(
  ["station", say("station")],
  ["now", say("thereNow"), "count"],
  ["oldest", say("longestOfThese"), "hours"],
  ["passed", say("passedThrough"), "count"],
  ["mean", say("stayedOnAverage"), "hours"],
  ["long", say("longestStay"), "hours"],
);

export async function flowReport(db: Knex, a: Asked): Promise<Report> {
  const { x, series } = await countsByDay(db, a);
  const passed = await passedThrough(db, a);
  const there = await thereNow(db, a);
  return reportOn(a, {
    id: "flow",
    columns: COLUMNS,
    rows: ORDER.map((stage) => {
      const s = passed.find((p) => p.stage === stage);
      const t = there.find((p) => p.stage === stage);
      return {
        station: codeWords(stage),
        now: t?.n ?? 0,
        oldest: t ? t.oldest / HOUR_MS : null,
        passed: s?.n ?? 0,
        mean: s ? s.mean / HOUR_MS : null,
        long: s ? s.long / HOUR_MS : null,
      };
    }),
    chart: {
      kind: "stacked",
      x,
      series: series
        .filter((s) => s.values.some((v) => v > 0))
        .map((s) => ({ ...s, name: codeWords(s.name) })),
      axis: say("unitsInHouse"),
    },
    notes: [...(a.source ? [say("theChartCountsUnitsOfEvery")] : []), say("aUnitIsWhereItsNext")],
  });
}
