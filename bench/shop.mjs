/**
 * npm run bench:shop [-- UNITS HISTORY ROUNDS]: fills a workshop of 100,000 units with 2,000,000 rows of
 * history and measures, page by
 * page and one request at a time once the server is warm, the server's time to the last byte beside the time
 * of its queries alone.
 */
import { readFileSync } from "node:fs";
import { join } from "node:path";

import pg from "pg";

import { ROOT } from "../scripts/lib/paths.mjs";
import { throwawayPostgres, throwawayWorkshop } from "../scripts/lib/throwaway.mjs";

const [units = 100_000, history = 2_000_000, rounds = 20] = process.argv.slice(2).map(Number);
const postgres = await throwawayPostgres(54810);
const at = (values, q) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * q))];

async function fill(url) {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const began = performance.now();
  const sql = readFileSync(join(ROOT, "bench/shop-fill.sql"), "utf8")
    .replaceAll(":UNITS", String(units))
    .replaceAll(":HISTORY", String(history));
  await client.query(sql);
  await client.query("vacuum analyze"); // as the server does by itself in time
  const { rows } = await client.query(
    "select (select count(*) from unit) as units, (select count(*) from event) as events, (select count(*) from stay) as stays, pg_size_pretty(pg_database_size(current_database())) as size",
  );
  const [r] = rows;
  console.log(
    `${r.units} units, ${r.events} rows of history, ${r.stays} stays, ${r.size}; filled in ${((performance.now() - began) / 1000).toFixed(0)} s`,
  );
  await client.end();
}

const { url, base, server } = await throwawayWorkshop(postgres, "bench_shop", 4810, {
  env: { BENCH_SQL: "1" },
});
await fill(url);
const client = new pg.Client({ connectionString: url });
await client.connect();

let last = null;
server.on("message", (m) => {
  if (m?.queries) last = m;
});
const signIn = await fetch(`${base}/api/sign-in`, {
  method: "POST",
  headers: { "Content-Type": "application/json", Origin: base },
  body: JSON.stringify({ name: "ida", password: "reed-warbler-1" }),
});
const cookie = signIn.headers
  .getSetCookie()
  .map((c) => c.split(";")[0])
  .join("; ");

const tags = (
  await client.query(
    "select tag from unit where length(tag) > 6 and ending = 'released' order by random() limit 200",
  )
).rows.map((r) => r.tag);
const open = (
  await client.query(
    "select tag from unit where length(tag) > 6 and ending is null order by random() limit 200",
  )
).rows.map((r) => r.tag);
const demo = ["B-0113", "B-0119", "B-0120", "B-0117", "B-0121"];
const token = (await client.query("select token from certificate limit 1")).rows[0].token;
const words = ["b-05", "drift", "B-0012", "knot", "trigger", "cuts", "dun", "004711", "unt", "seller"];
const pick = (list, i) => list[i % list.length];

const PAGES = [
  ["bench", () => "/"],
  ["day", () => "/day"],
  ["units", () => "/units"],
  ["units, open", () => "/units?stage=open"],
  ["units, by words", (i) => `/units?q=${encodeURIComponent(pick(words, i))}`],
  ["unit, test", (i) => `/units/${pick(demo, i)}/test`],
  ["unit, find", (i) => `/units/${pick(demo, i)}/find`],
  ["unit, decide", (i) => `/units/${pick(demo, i)}/decide`],
  ["unit, mend", (i) => `/units/${pick(demo, i)}/mend`],
  ["unit, prove", (i) => `/units/${pick(demo, i)}/prove`],
  ["unit, release", (i) => `/units/${pick(demo, i)}/release`],
  ["sold unit, release", (i) => `/units/${pick(tags, i)}/release`],
  ["sold unit, record", (i) => `/units/${pick(tags, i)}/record`],
  ["open unit, intake", (i) => `/units/${pick(open, i)}/intake`],
  ["take in", () => "/units/new"],
  ["parts", () => "/parts"],
  ["after", () => "/after"],
  ["buying", () => "/buying"],
  ["routes", () => "/routes"],
  ["models", () => "/models"],
  ["labels", () => "/labels"],
  ["certificate", () => `/c/${token}`],
  ["next for me", () => "/api/next"],
  ["bench strip", () => "/api/bench"],
];
const REPORTS = [
  "",
  "/flow",
  "/yield",
  "/margin",
  "/margin?by=route",
  "/forecast",
  "/returns",
  "/sellers",
  "/suppliers",
  "/faults",
  "/steps",
  "/tied-up",
].map((r) => [`results${r}`, () => `/results${r}`]);
const SEARCH = [
  ["search as you type", (i) => `/api/search?q=${encodeURIComponent(pick(words, i).slice(0, 2 + (i % 4)))}`],
];

let slowest = { ms: 0 };
const worst = new Map(); // the slowest query of each page
async function measure(name, addressOf) {
  const times = [];
  const sql = [];
  let queries = 0;
  for (let i = 0; i < rounds; i++) {
    last = null;
    const began = performance.now();
    const response = await fetch(base + addressOf(i), { headers: { cookie }, redirect: "manual" });
    await response.arrayBuffer();
    const ms = performance.now() - began;
    if (response.status !== 200) throw new Error(`${addressOf(i)} answered ${response.status}`);
    for (let k = 0; k < 50 && last === null; k++) await new Promise((r) => setTimeout(r, 2));
    times.push(ms);
    sql.push(last.queries.reduce((s, q) => s + q.ms, 0));
    queries = last.queries.length;
    for (const q of last.queries) if (q.ms > (worst.get(name)?.ms ?? 0)) worst.set(name, q);
    for (const q of last.queries) if (q.ms > slowest.ms) slowest = { ...q, page: addressOf(i) };
  }
  const row = {
    name,
    median: at(times, 0.5),
    p95: at(times, 0.95),
    sql: at(sql, 0.5),
    sql95: at(sql, 0.95),
    queries,
  };
  const f = (x) => x.toFixed(0).padStart(6);
  console.log(
    `${name.padEnd(24)}${f(row.median)}${f(row.p95)}   ${f(row.sql)}${f(row.sql95)}   ${String(row.queries).padStart(4)}`,
  );
  return row;
}
const WARM = 10;
async function group(title, list) {
  console.log(`\n${title.padEnd(24)}median   p95    SQL med  p95   queries   (ms, ${rounds} requests each)`);
  const rows = [];
  // a server runs for days: its code is compiled and the tables are in memory before anything is counted
  for (const [, addressOf] of list)
    for (let i = 0; i < WARM; i++)
      await (await fetch(base + addressOf(i), { headers: { cookie }, redirect: "manual" })).arrayBuffer();
  for (const [name, addressOf] of list) rows.push(await measure(name, addressOf));
  return rows;
}
const pages = await group("Pages", PAGES);
const reports = await group("Reports", REPORTS);
const search = await group("Search", SEARCH);
const within = (rows, most) => `${rows.filter((r) => r.p95 < most).length} of ${rows.length}`;
console.log(`\nPages whose 95th percentile is under 150 ms: ${within(pages, 150)} (aim: 95 %)`);
console.log(`Reports whose 95th percentile is under 500 ms: ${within(reports, 500)}`);
console.log(`Search: 95th percentile ${search[0].p95.toFixed(0)} ms`);
console.log("\nThe slowest query of each page over its aim:");
for (const r of [
  ...pages.filter((x) => x.p95 >= 150),
  ...reports.filter((x) => x.p95 >= 500),
  ...search.filter((x) => x.p95 >= 150),
])
  console.log(
    `  ${r.name}: ${worst.get(r.name)?.ms.toFixed(0)} ms  ${worst.get(r.name)?.sql.replace(/\s+/g, " ").slice(0, 260)}`,
  );
console.log(
  `\nSlowest query, ${slowest.ms.toFixed(0)} ms on ${slowest.page}:\n${slowest.sql.slice(0, 1500)}\n`,
);
const plan = await client
  .query({ text: `explain (analyze, buffers) ${slowest.sql}`, values: [...slowest.bindings] })
  .catch((e) => ({ rows: [{ "QUERY PLAN": e.message }] }));
console.log(plan.rows.map((r) => r["QUERY PLAN"]).join("\n"));
await client.end();
server.kill("SIGTERM");
postgres.stop();
process.exit(0);
