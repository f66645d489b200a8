import { minorInUnit } from "@/text/format";
import "server-only";

import type { Knex } from "knex";

import type { Report } from "@/contract/reports";
import type { Family } from "@/core/decide/families";
import { FAMILY_WORDS, MAKE_WORDS, SCHOOL_WORDS } from "@/features/decide/words/text";
import { loadRoutes } from "@/features/routes/deeds";
import { listModels } from "@/features/models/deeds";
import { type Asked, barsOf, columns, ofAsked, outcomes, reportOn } from "./base";
import { dayOf } from "@/core/days/days";
import { codeWords } from "@/words/codes";
import { say } from "@/features/results/words/words";

/** Reports about money: margin, forecast, sellers, suppliers, and what is tied up. */

const MOST_POINTS = 400;

type Sums = { key: string; n: number; known: number; margin: number; minutes: number; off: number | null };

/** A unit with several routes or faults counts under each of them. */
const MANY: Partial<Record<Asked["by"], "routes" | "families">> = {
  route: "routes",
  way: "routes",
  make: "routes",
  fault: "families",
};

function marginSums(db: Knex, a: Asked): Promise<Sums[]> {
  const sums = [
    db.raw("count(*)::int as n"),
    db.raw("count(o.forecast_minor)::int as known"),
    db.raw("sum(o.margin_minor)::float8 as margin"),
    db.raw("sum(o.minutes)::float8 as minutes"),
    db.raw("avg(o.margin_minor - o.forecast_minor)::float8 as off"),
  ];
  const query = outcomes(db, a);
  const many = MANY[a.by];
  if (many)
    return query
      .joinRaw(`left join lateral unnest(o.${many}) as k(key) on true`)
      .groupBy("k.key")
      .select(db.raw("coalesce(k.key, '') as key"), ...sums);
  if (a.by === "seller")
    return query
      .groupByRaw("1")
      .select(db.raw("case when o.source = 'customer' then '-customers' else o.seller end as key"), ...sums);
  return query.groupBy("o.model").select("o.model as key", ...sums);
}

/** What a group is called, by what one asks for. */
async function groupNames(db: Knex, by: Asked["by"]): Promise<(key: string) => string> {
  const { value: routes } = await loadRoutes(db);
  const models = new Map((await listModels(db)).map((m) => [m.key, m.body.name]));
  const routeOf = (key: string) => routes.find((r) => r.id === key);
  switch (by) {
    case "model":
      return (key) => models.get(key) ?? key;
    case "seller":
      return (key) => (key === "-customers" ? codeWords("customers") : key || say("notNamed"));
    case "fault":
      return (key) => (key ? FAMILY_WORDS[key as Family] : say("noFaultNamed"));
    case "route":
      return (key) => routeOf(key)?.name ?? (key || say("noRouteLogged"));
    case "way":
      return (key) => {
        const route = routeOf(key);
        return route ? SCHOOL_WORDS[route.school] : say("noRouteLogged");
      };
    case "make":
      return (key) => {
        const part = routeOf(key)?.part;
        return part ? MAKE_WORDS[part.make] : say("noPart");
      };
  }
}

/** Sums of one name added up: several keys may share it. */
function groupedByName(rows: readonly Sums[], nameOf: (key: string) => string) {
  const groups = new Map<string, Omit<Sums, "key">>();
  for (const r of rows) {
    const name = nameOf(r.key);
    const g = groups.get(name) ?? { n: 0, margin: 0, minutes: 0, off: null, known: 0 };
    groups.set(name, {
      n: g.n + r.n,
      margin: g.margin + r.margin,
      minutes: g.minutes + r.minutes,
      off: r.off === null ? g.off : ((g.off ?? 0) * g.known + r.off * r.known) / (g.known + r.known),
      known: g.known + r.known,
    });
  }
  return groups;
}

/** Margin a unit and an hour, by what one asks for. */
export async function marginReport(db: Knex, a: Asked): Promise<Report> {
  const groups = groupedByName(await marginSums(db, a), await groupNames(db, a.by));
  const lines = [...groups]
    .map(([name, g]) => ({
      name,
      units: g.n,
      each: g.margin / g.n,
      minutes: g.minutes / g.n,
      hour: g.minutes > 0 ? (g.margin / g.minutes) * 60 : null,
      off: g.off,
    }))
    .sort((x, y) => (y.hour ?? -1e12) - (x.hour ?? -1e12));
  const heading = codeWords(a.by).replace(/^./, (first) => first.toUpperCase());
  return reportOn(a, {
    id: "margin",
    columns: columns(
      ["name", a.by === "make" ? say("partMake2") : heading],
      ["units", say("units"), "count"],
      ["each", say("marginEach"), "money"],
      ["minutes", say("minutesEach"), "minutes"],
      ["hour", say("anHour2"), "money"],
      ["off", say("againstForecast"), "money"],
    ),
    rows: lines,
    chart: {
      kind: "bars",
      bars: barsOf(
        lines,
        (l) => l.name,
        (l) => l.hour,
      ),
      unit: "money",
      axis: say("marginAnHourAtTheBench"),
    },
    notes: [say("benchTimeIsAlreadyPaidIn"), ...(MANY[a.by] ? [say("aUnitWithSeveralCountsUnder")] : [])],
  });
}

/** What decisions expected against what came. */
export async function forecastReport(db: Knex, a: Asked): Promise<Report> {
  const known = () => outcomes(db, a).whereNotNull("o.forecast_minor");
  const rows: { model: string; n: number; forecast: number; fact: number; off: number; inside: number }[] =
    await known()
      .groupBy("o.model")
      .select(
        "o.model",
        db.raw("count(*)::int as n"),
        db.raw("avg(o.forecast_minor)::float8 as forecast"),
        db.raw("avg(o.margin_minor)::float8 as fact"),
        db.raw("avg(o.margin_minor - o.forecast_minor)::float8 as off"),
        db.raw(
          "avg((o.margin_minor between o.forecast_low_minor and o.forecast_high_minor)::int)::float8 as inside",
        ),
      );
  const latest: { tag: string; x: number; y: number }[] = await known()
    .join("unit as u", "u.id", "o.unit_id")
    .orderBy("o.closed_at", "desc")
    .limit(MOST_POINTS)
    .select("u.tag", "o.forecast_minor as x", "o.margin_minor as y");
  const models = new Map((await listModels(db)).map((m) => [m.key, m.body.name]));
  return reportOn(a, {
    id: "forecast",
    columns: columns(
      ["model", say("model")],
      ["n", say("units"), "count"],
      ["forecast", say("forecastEach"), "money"],
      ["fact", say("cameEach"), "money"],
      ["off", say("offBy"), "money"],
      ["inside", say("withinTheInterval"), "share"],
    ),
    rows: rows.map((r) => ({ ...r, model: models.get(r.model) ?? r.model })).sort((x, y) => y.n - x.n),
    chart: latest.length
      ? { kind: "scatter", points: latest.map((p) => ({ name: p.tag, x: p.x, y: p.y })) }
      : null,
    notes: [
      say("theIntervalHoldsEightOfTen"),
      ...(latest.length === MOST_POINTS
        ? [say("theChartShowsTheLatestMOSTPOINTS", { mOSTPOINTS: MOST_POINTS })]
        : []),
    ],
  });
}

/** Sellers by what their units brought, and how they came. */
export async function sellersReport(db: Knex, a: Asked): Promise<Report> {
  const rows: {
    seller: string;
    n: number;
    each: number;
    faults: number;
    claimed: number;
    poor: number;
    differed: number;
  }[] = await outcomes(db, a)
    .whereNot({ "o.source": "customer" })
    .whereNot({ "o.seller": "" })
    .groupBy("o.seller")
    .select(
      "o.seller",
      db.raw("count(*)::int as n"),
      db.raw("avg(o.margin_minor)::float8 as each"),
      db.raw("sum(o.faults)::int as faults"),
      db.raw("sum(o.faults_claimed)::int as claimed"),
      db.raw("count(*) filter (where o.poor_parcel)::int as poor"),
      db.raw("count(*) filter (where o.differed)::int as differed"),
    );
  const lines = rows
    .map((r) => ({
      seller: r.seller,
      units: r.n,
      each: r.each,
      told: r.faults ? r.claimed / r.faults : null,
      poor: r.poor / r.n,
      differed: r.differed / r.n,
    }))
    .sort((x, y) => y.each - x.each);
  return reportOn(a, {
    id: "sellers",
    columns: columns(
      ["seller", say("seller")],
      ["units", say("unitsClosed"), "count"],
      ["each", say("marginEach"), "money"],
      ["told", say("faultsThatTheyNamed"), "share"],
      ["poor", say("poorParcels"), "share"],
      ["differed", say("notAsPromised"), "share"],
    ),
    rows: lines,
    chart: {
      kind: "bars",
      bars: barsOf(
        lines,
        (l) => l.seller,
        (l) => l.each,
      ),
      unit: "money",
      axis: say("marginAUnit"),
    },
    notes: [say("lotsAreNamedByTheirSeller")],
  });
}

const AGES: [string, number][] = [
  [say("upTo7Days"), 7],
  [say("days8To30"), 30],
  [say("days31To90"), 90],
  [say("days91ToAYear"), 365],
  [say("overAYear"), Infinity],
];

/** Money that lies in open units and on the shelf, by age. */
export async function tiedUpReport(db: Knex, a: Asked): Promise<Report> {
  const today = dayOf(new Date(), a.zone);
  const age = (at: string) =>
    db.raw("(?::date - (?? at time zone ?)::date)::int as days", [today, at, a.zone]);
  const units: { days: number; n: number; purchase: number; parts: number }[] = await ofAsked(
    db("unit as u")
      .join("model_profile as p", "p.id", "u.profile_id")
      .joinRaw(
        "left join lateral (select sum(part_minor)::float8 as minor from mend where unit_id = u.id) w on true",
      )
      .whereNull("u.ending"),
    a,
  )
    .groupByRaw("1")
    .select(
      age("u.received_at"),
      db.raw("count(*)::int as n"),
      db.raw(
        `sum(case when u.source = 'lot' then coalesce(u.lot_share_minor, 0)
             when u.source = 'single' then coalesce(u.price_minor, 0) + coalesce(u.carriage_minor, 0) else 0 end)::float8 as purchase`,
      ),
      db.raw("sum(coalesce(w.minor, 0))::float8 as parts"),
    );
  const shelf: { days: number; value: number }[] = await db("batch")
    .where("on_hand", ">", 0)
    .groupByRaw("1")
    .select(age("at"), db.raw("sum(value_minor)::float8 as value"));
  const rows = AGES.map(([age, most], i) => {
    const least = i === 0 ? -Infinity : AGES[i - 1]![1];
    const within = <T extends { days: number }>(xs: T[]) =>
      xs.filter((x) => x.days > least && x.days <= most);
    const sum = (xs: number[]) => xs.reduce((s, x) => s + x, 0);
    const mine = within(units);
    return {
      age,
      units: sum(mine.map((x) => x.n)),
      purchase: sum(mine.map((x) => x.purchase)),
      parts: sum(mine.map((x) => x.parts)),
      shelf: sum(within(shelf).map((x) => x.value)),
    };
  });
  return reportOn(a, {
    id: "tied-up",
    columns: columns(
      ["age", say("age")],
      ["units", say("openUnits"), "count"],
      ["purchase", say("paidForThem"), "money"],
      ["parts", say("partsInThem"), "money"],
      ["shelf", say("onTheShelf"), "money"],
    ),
    rows,
    chart: {
      kind: "stacked",
      x: rows.map((r) => r.age),
      series: [
        { name: say("paidForOpenUnits"), values: rows.map((r) => r.purchase / minorInUnit()) },
        { name: say("partsInThem2"), values: rows.map((r) => r.parts / minorInUnit()) },
        { name: say("partsOnTheShelf"), values: rows.map((r) => r.shelf / minorInUnit()) },
      ],
      axis: codeWords("money"),
    },
    notes: [say("asOfTodayTheDaysOf")],
  });
}
