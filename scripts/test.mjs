/**
 * npm test [-- --only NAME]: everything. Installs what is missing, checks the sources, then runs the unit tests, the tests
 * on a throwaway PostgreSQL, and the browser tests on the built application. NAME: checks, unit, db or e2e.
 */
import { spawn, spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync } from "node:fs";
import { availableParallelism, tmpdir } from "node:os";
import { join } from "node:path";

import { ensurePackages } from "./lib/packages.mjs";
import { ROOT } from "./lib/paths.mjs";
import { aptInstall, fail } from "./lib/run.mjs";
import { THROWAWAY_SECRET, throwawayPostgres, throwawayWorkshop } from "./lib/throwaway.mjs";

const only = process.argv.includes("--only") ? process.argv[process.argv.indexOf("--only") + 1] : null;
const wants = (name) => only === null || only === name;
const rest = process.argv.includes("--") ? process.argv.slice(process.argv.lastIndexOf("--") + 1) : [];
const bin = (path) => join(ROOT, "node_modules", path);
const totals = { passed: 0, failed: 0, skipped: 0 };
let undo = () => {};

function run(title, args, env = {}) {
  console.log(`\n=== ${title}`);
  const began = Date.now();
  const done = spawnSync(process.execPath, args, {
    cwd: ROOT,
    stdio: "inherit",
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1", ...env },
  });
  console.log(`--- ${title}: ${done.status === 0 ? "good" : "FAILED"} after ${((Date.now() - began) / 1000).toFixed(1)} s`);
  return done.status === 0;
}

function must(title, args, env) {
  if (run(title, args, env)) return;
  undo();
  report();
  fail(`${title} failed; its lines are above.`);
}

function report() {
  console.log(`\n${totals.passed} passed, ${totals.failed} failed, ${totals.skipped} skipped`);
}

/**
 * The tests on a database share it, so they run one file after another. What runs beside something else says its words at its end.
 */
async function jest(project, env = {}, pick = []) {
  const title = [project, "tests", ...pick].join(" ");
  const out = join(mkdtempSync(join(tmpdir(), "birdcage-jest-")), "result.json");
  const args = [bin("jest/bin/jest.js"), "--selectProjects", project, "--json", `--outputFile=${out}`, ...pick, ...rest];
  args.push(...(project === "db" ? ["--runInBand"] : [`--maxWorkers=${availableParallelism()}`]));
  const began = Date.now();
  const child = spawn(process.execPath, args, {
    cwd: ROOT,
    stdio: ["ignore", "pipe", "pipe"],
    env: { ...process.env, ...env },
  });
  let said = "";
  for (const stream of [child.stdout, child.stderr]) stream.on("data", (c) => (said += c.toString()));
  const status = await new Promise((resolve) => child.once("close", resolve));
  console.log(`\n=== ${title}\n${said}`);
  console.log(`--- ${title}: ${status === 0 ? "good" : "FAILED"} after ${((Date.now() - began) / 1000).toFixed(1)} s`);
  const counts = existsSync(out)
    ? JSON.parse(readFileSync(out, "utf8"))
    : { numPassedTests: 0, numFailedTests: 1, numPendingTests: 0 };
  totals.passed += counts.numPassedTests;
  totals.failed += counts.numFailedTests + (status === 0 ? 0 : Number(counts.numFailedTests === 0));
  totals.skipped += counts.numPendingTests;
  return status === 0;
}

/** The longest file of the database tests beside all the others, each on a database of its own. */
async function databaseTests(postgres) {
  const env = (name) => ({
    DATABASE_URL: postgres.database(name),
    NODE_OPTIONS: "--conditions=react-server",
    TZ: "Pacific/Auckland",
    SESSION_SECRET: THROWAWAY_SECRET,
  });
  if (rest.length > 0) return jest("db", env("birdcage_db"));
  const done = await Promise.all([
    jest("db", env("birdcage_db_whole"), ["--testPathPatterns=whole-workshop"]),
    jest("db", env("birdcage_db"), ["--testPathIgnorePatterns=whole-workshop"]),
  ]);
  return done.every(Boolean);
}

function playwright(env) {
  const out = join(mkdtempSync(join(tmpdir(), "birdcage-e2e-")), "result.json");
  const args = [bin("@playwright/test/cli.js"), "test", "--config", "playwright.config.ts", ...rest];
  const good = run("browser tests", args, { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: out });
  const stats = existsSync(out)
    ? JSON.parse(readFileSync(out, "utf8")).stats
    : { expected: 0, unexpected: 1, flaky: 0, skipped: 0 };
  totals.passed += stats.expected;
  totals.failed += stats.unexpected + stats.flaky + (good ? 0 : Number(stats.unexpected + stats.flaky === 0));
  totals.skipped += stats.skipped;
  return good;
}

ensurePackages();
if (wants("checks")) {
  must("page types", [bin("next/dist/bin/next"), "typegen"]);
  must("types", [bin("typescript/bin/tsc"), "--noEmit"]);
  must("lint", [bin("eslint/bin/eslint.js"), ".", "--max-warnings", "0"]);
  must("formatting", [bin("prettier/bin/prettier.cjs"), "--check", "--log-level", "warn", "."]);
  must("import rules", [bin("dependency-cruiser/bin/dependency-cruise.mjs"), "src", "--config", ".dependency-cruiser.cjs"]);
  must("dead code", [bin("knip/bin/knip.js"), "--no-progress"]);
}
let good = true;
// no test may rest on the machine's own clock being the shop's: one runs west of it, the other far east
if (wants("unit")) good = (await jest("unit", { TZ: "America/St_Johns" })) && good;

if (wants("db") || wants("e2e")) {
  const postgres = await throwawayPostgres(54700);
  undo = postgres.stop;
  if (wants("db")) good = (await databaseTests(postgres)) && good;
  if (wants("e2e")) {
    if (!existsSync("/usr/bin/chromium")) aptInstall("chromium");
    const { url, base } = await throwawayWorkshop(postgres, "birdcage_e2e", 4700);
    good = playwright({ BASE_URL: base, E2E_DATABASE_URL: url }) && good;
  }
  undo();
}
report();
process.exit(good && totals.failed === 0 ? 0 : 1);
