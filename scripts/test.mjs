/**
 * npm test [-- --only NAME]: everything. Installs what is missing, checks the sources, then runs the unit
 * tests, the tests
 * on a throwaway PostgreSQL, and the browser tests on the built application. NAME: checks, unit, db or e2e.
 */
import { spawn } from "node:child_process";
import { existsSync, mkdtempSync, readdirSync, readFileSync } from "node:fs";
import { availableParallelism, tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";

import { ensureBuild } from "./lib/build.mjs";
import { ensurePackages } from "./lib/packages.mjs";
import { ROOT } from "./lib/paths.mjs";
import { aptInstall, fail } from "./lib/run.mjs";
import { demoDatabase, THROWAWAY_SECRET, throwawayPostgres, throwawayServer } from "./lib/throwaway.mjs";

const only = process.argv.includes("--only") ? process.argv[process.argv.indexOf("--only") + 1] : null;
const wants = (name) => only === null || only === name;
const rest = process.argv.includes("--") ? process.argv.slice(process.argv.lastIndexOf("--") + 1) : [];
const bin = (path) => join(ROOT, "node_modules", path);
const totals = { passed: 0, failed: 0, skipped: 0 };
let undo = () => {};

/**
 * What runs beside something else says its words at its end, or each line at once with its mark before it.
 */
async function run(title, args, env = {}, mark = null) {
  const began = Date.now();
  const child = spawn(process.execPath, args, {
    cwd: ROOT,
    stdio: ["ignore", "pipe", "pipe"],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", ...env },
  });
  let said = "";
  for (const stream of [child.stdout, child.stderr])
    if (mark === null) stream.on("data", (c) => (said += c.toString()));
    else createInterface(stream).on("line", (line) => console.log(mark + line));
  const status = await new Promise((resolve) => child.once("close", resolve));
  console.log(`\n=== ${title}\n${said}`);
  console.log(
    `--- ${title}: ${status === 0 ? "good" : "FAILED"} after ${((Date.now() - began) / 1000).toFixed(1)} s`,
  );
  return status === 0;
}

async function must(title, args, env) {
  if (await run(title, args, env)) return;
  undo();
  report();
  fail(`${title} failed; its lines are above.`);
}

function report() {
  console.log(`\n${totals.passed} passed, ${totals.failed} failed, ${totals.skipped} skipped`);
}

/** The tests on a database share it, so they run one file after another. */
async function jest(project, env = {}, pick = []) {
  const out = join(mkdtempSync(join(tmpdir(), "birdcage-jest-")), "result.json");
  const args = [
    bin("jest/bin/jest.js"),
    "--selectProjects",
    ...project.split(" "),
    "--json",
    `--outputFile=${out}`,
    ...pick,
    ...rest,
  ];
  args.push(...(project === "db" ? ["--runInBand"] : [`--maxWorkers=${availableParallelism()}`]));
  const good = await run([project, "tests", ...pick].join(" "), args, env);
  const counts = existsSync(out)
    ? JSON.parse(readFileSync(out, "utf8"))
    : { numPassedTests: 0, numFailedTests: 1, numPendingTests: 0 };
  totals.passed += counts.numPassedTests;
  totals.failed += counts.numFailedTests + (good ? 0 : Number(counts.numFailedTests === 0));
  totals.skipped += counts.numPendingTests;
  return good;
}

/**
 * The longest file of the database tests beside all the others, each on a database of its own; `then` begins what may
 * run beside the longer of the two.
 */
async function databaseTests(postgres, then) {
  const env = (name) => ({
    DATABASE_URL: postgres.database(name),
    NODE_OPTIONS: "--conditions=react-server",
    TZ: "Pacific/Auckland",
    SESSION_SECRET: THROWAWAY_SECRET,
  });
  if (rest.length > 0) return jest("db", env("birdcage_db"));
  const done = await Promise.all([
    jest("db", env("birdcage_db_whole"), ["--testPathPatterns=whole-workshop"]).finally(then),
    jest("db", env("birdcage_db"), ["--testPathIgnorePatterns=whole-workshop"]),
  ]);
  return done.every(Boolean);
}

// Two halves of the browser tests of about the same length; a file that is named in neither goes with the
// second.
const FIRST_HALF = [
  "access",
  "causes",
  "currencies",
  "decide",
  "exact",
  "find",
  "forms",
  "input",
  "keyboard",
  "live",
  "mend",
  "out-of-reach",
  "parts",
  "practice",
  "readable",
  "walk",
];

/**
 * The browser tests in two halves side by side, each on a workshop of its own, so that neither meets what the
 * other wrote.
 */
async function browserTests(postgres, prepared) {
  if (!existsSync("/usr/bin/chromium")) aptInstall("chromium");
  const url = await prepared;
  if (rest.length > 0) return playwright("browser tests", await e2eServer(postgres, url, 4700), rest, "");
  const files = readdirSync(join(ROOT, "test/e2e")).filter((f) => f.endsWith(".spec.ts"));
  const isFirst = (file) => FIRST_HALF.includes(file.replace(".spec.ts", ""));
  const second = await e2eServer(postgres, postgres.copy("birdcage_e2e", "birdcage_e2e_2"), 4400);
  const first = await e2eServer(postgres, url, 4700);
  const done = await Promise.all([
    playwright("browser tests, first half", first, files.filter(isFirst), "1 | "),
    playwright(
      "browser tests, second half",
      second,
      files.filter((f) => !isFirst(f)),
      "2 | ",
    ),
  ]);
  return done.every(Boolean);
}

/** The built application and the demo data. */
async function prepare(postgres) {
  const loading = demoDatabase(postgres, "birdcage_e2e"); // beside the build: neither keeps two cores busy alone
  await ensureBuild();
  return loading;
}

async function e2eServer(postgres, url, port) {
  const { base } = await throwawayServer(postgres, url, port);
  return { BASE_URL: base, E2E_DATABASE_URL: url };
}

async function playwright(title, env, pick, mark) {
  const out = mkdtempSync(join(tmpdir(), "birdcage-e2e-"));
  const report = join(out, "result.json");
  const args = [
    bin("@playwright/test/cli.js"),
    "test",
    "--config",
    "playwright.config.ts",
    `--output=${join(out, "kept")}`,
    ...pick,
  ];
  const good = await run(title, args, { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: report }, mark);
  const stats = existsSync(report)
    ? JSON.parse(readFileSync(report, "utf8")).stats
    : { expected: 0, unexpected: 1, flaky: 0, skipped: 0 };
  totals.passed += stats.expected;
  totals.failed += stats.unexpected + stats.flaky + (good ? 0 : Number(stats.unexpected + stats.flaky === 0));
  totals.skipped += stats.skipped;
  return good;
}

/** The linter knows the types and takes as long as all the others, which run beside it. */
async function checks() {
  await must("page types", [bin("next/dist/bin/next"), "typegen"]);
  await Promise.all([
    must("lint", [bin("eslint/bin/eslint.js"), ".", "--max-warnings", "0"]),
    (async () => {
      await must("types", [bin("typescript/bin/tsc"), "--noEmit"]);
      await must("formatting", [bin("prettier/bin/prettier.cjs"), "--check", "--log-level", "warn", "."]);
      await must("import rules", [
        bin("dependency-cruiser/bin/dependency-cruise.mjs"),
        "src",
        "--config",
        ".dependency-cruiser.cjs",
      ]);
      await must("folder rings", [join(ROOT, "scripts/folder-rings.mjs")]);
      await must("dead code", [bin("knip/bin/knip.js"), "--no-progress"]);
    })(),
  ]);
}

ensurePackages();
if (wants("checks")) await checks();
let good = true;
// no test may rest on the machine's own clock being the shop's: one runs west of it, the other far east
if (wants("unit")) good = (await jest("unit ui", { TZ: "America/St_Johns" })) && good;

if (wants("db") || wants("e2e")) {
  const postgres = await throwawayPostgres(54700);
  undo = postgres.stop;
  let prepared = null;
  const begin = () => (prepared ??= wants("e2e") ? prepare(postgres) : Promise.resolve(""));
  if (wants("db")) good = (await databaseTests(postgres, begin)) && good;
  if (wants("e2e")) good = (await browserTests(postgres, begin())) && good;
  undo();
}
report();
process.exit(good && totals.failed === 0 ? 0 : 1);
