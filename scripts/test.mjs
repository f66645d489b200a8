/**
 * npm test [-- --only NAME]: everything. Installs what is missing, checks the sources, then runs the unit tests, the tests
 * on a throwaway PostgreSQL, and the browser tests on the built application. NAME: checks, unit, db or e2e.
 */
import { fork, spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

import { ensureBuild } from "./lib/build.mjs";
import { ensurePackages } from "./lib/packages.mjs";
import { ROOT } from "./lib/paths.mjs";
import { OwnPostgres } from "./lib/postgres.mjs";
import { aptInstall, fail, freePort } from "./lib/run.mjs";
import { cli } from "./lib/workshop.mjs";

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

function jest(project, env = {}) {
  const out = join(mkdtempSync(join(tmpdir(), "birdcage-jest-")), "result.json");
  const good = run(
    `${project} tests`,
    [bin("jest/bin/jest.js"), "--selectProjects", project, "--json", `--outputFile=${out}`, ...rest],
    env,
  );
  const counts = existsSync(out)
    ? JSON.parse(readFileSync(out, "utf8"))
    : { numPassedTests: 0, numFailedTests: 1, numPendingTests: 0 };
  totals.passed += counts.numPassedTests;
  totals.failed += counts.numFailedTests + (good ? 0 : Number(counts.numFailedTests === 0));
  totals.skipped += counts.numPendingTests;
  return good;
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
if (wants("unit")) good = jest("unit") && good;

if (wants("db") || wants("e2e")) {
  const folder = mkdtempSync(join(process.getuid?.() === 0 ? "/var/tmp" : tmpdir(), "birdcage-test-"));
  spawnSync("chmod", ["755", folder]);
  const postgres = new OwnPostgres(folder, { wishedPort: 54700, durable: false });
  let server = null;
  undo = () => {
    server?.kill("SIGTERM");
    postgres.stop();
    rmSync(folder, { recursive: true, force: true });
    undo = () => {};
  };
  for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => (undo(), process.exit(130)));
  await postgres.start();
  if (wants("db")) {
    postgres.ensureDatabase("birdcage_db");
    good = jest("db", { DATABASE_URL: postgres.url("birdcage_db"), NODE_OPTIONS: "--conditions=react-server" }) && good;
  }
  if (wants("e2e")) {
    if (!existsSync("/usr/bin/chromium")) aptInstall("chromium");
    ensureBuild();
    postgres.ensureDatabase("birdcage_e2e");
    const url = postgres.url("birdcage_e2e");
    cli("demo-data", url);
    const port = await freePort(4700);
    server = fork(join(ROOT, "server/main.mjs"), {
      cwd: ROOT,
      env: {
        ...process.env,
        NODE_ENV: "production",
        NEXT_TELEMETRY_DISABLED: "1",
        DATABASE_URL: url,
        HOST: "127.0.0.1",
        PORT: String(port),
        SESSION_SECRET: "only-for-the-tests-".repeat(3),
        LOG_LEVEL: "error",
      },
    });
    await new Promise((resolve, reject) => {
      server.once("message", resolve);
      server.once("exit", (code) => reject(new Error(`the application ended with ${code}`)));
    }).catch((error) => (undo(), fail(error.message)));
    good = playwright({ BASE_URL: `http://127.0.0.1:${port}`, E2E_DATABASE_URL: url }) && good;
  }
  undo();
}
report();
process.exit(good && totals.failed === 0 ? 0 : 1);
