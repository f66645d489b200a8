/**
 * npm run bench [-- NAME]: figures and ratios, apart from the tests. NAME: analysis, memory, pages, measures,
 * diagnosis, decide, policy, plan, dayplan, deeds, named, heavy, shop or shopfloor.
 * `pages` starts a throwaway workshop with the demo data, as the tests do.
 */
import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gzipSync } from "node:zlib";

import { ensurePackages } from "./lib/packages.mjs";
import { ROOT } from "./lib/paths.mjs";
import { demoDatabase, THROWAWAY_SECRET, throwawayPostgres, throwawayWorkshop } from "./lib/throwaway.mjs";

const only = process.argv[2] ?? null;
const wants = (name) => only === null || only === name;
const tsx = (file, args = [], options = {}) =>
  spawnSync(process.execPath, [...(options.node ?? []), "--import", "tsx", join(ROOT, file), ...args], {
    cwd: ROOT,
    stdio: "inherit",
    ...options,
  });

ensurePackages();
if (wants("analysis")) tsx("bench/analysis.ts");

if (wants("decide")) tsx("bench/decide.ts", process.argv.slice(3));
if (wants("diagnosis")) tsx("bench/diagnosis.ts", process.argv.slice(3));
if (wants("dayplan")) tsx("bench/dayplan.ts", process.argv.slice(3));
if (wants("plan")) tsx("bench/plan.ts", process.argv.slice(3));
if (wants("policy")) tsx("bench/policy.ts", process.argv.slice(3));
if (wants("measures")) tsx("bench/measures.ts", process.argv.slice(3));

// twenty minutes: only when it is asked for
if (only === "shopfloor") tsx("bench/shopfloor.ts", process.argv.slice(3));

// a large workshop takes minutes to fill: only when it is asked for
if (only === "shop")
  spawnSync(process.execPath, [join(ROOT, "bench/shop.mjs"), ...process.argv.slice(3)], {
    cwd: ROOT,
    stdio: "inherit",
  });

if (wants("deeds")) {
  const postgres = await throwawayPostgres(54850);
  const url = postgres.database("birdcage_deeds");
  tsx("bench/deeds.ts", [], {
    node: ["--conditions=react-server"],
    env: { ...process.env, DATABASE_URL: url, SESSION_SECRET: THROWAWAY_SECRET },
  });
  postgres.stop();
}

if (wants("named")) {
  const postgres = await throwawayPostgres(54870);
  const url = await demoDatabase(postgres, "birdcage_named");
  tsx("bench/named.ts", [], {
    node: ["--conditions=react-server"],
    env: { ...process.env, DATABASE_URL: url },
  });
  postgres.stop();
}

if (wants("heavy")) {
  const folder = mkdtempSync(join(tmpdir(), "birdcage-bench-"));
  const file = join(folder, "ten-minutes.csv");
  tsx("bench/long-recording.ts", [file]);
  const postgres = await throwawayPostgres(54860);
  const { url, base } = await throwawayWorkshop(postgres, "heavy", 4860);
  tsx("bench/heavy.ts", [file], {
    node: ["--conditions=react-server"],
    env: { ...process.env, BASE_URL: base, DATABASE_URL: url },
  });
  postgres.stop();
  rmSync(folder, { recursive: true, force: true });
}

if (wants("memory")) {
  const folder = mkdtempSync(join(tmpdir(), "birdcage-bench-"));
  const file = join(folder, "ten-minutes.csv");
  tsx("bench/long-recording.ts", [file]);
  const timed = spawnSync(process.execPath, ["--import", "tsx", join(ROOT, "bench/peak-memory.ts"), file], {
    cwd: ROOT,
    encoding: "utf8",
  });
  console.log(`\nCommand line on ${(statSync(file).size / 1e6).toFixed(0)} MB of CSV (10 minutes at 1 kHz):`);
  console.log(`  ${timed.stderr.trim()}`);
  rmSync(folder, { recursive: true, force: true });
}

if (wants("pages")) {
  const postgres = await throwawayPostgres(54800);
  const { url, base } = await throwawayWorkshop(postgres, "bench", 4800);
  tsx("bench/pages.ts", [], {
    node: ["--conditions=react-server"],
    env: { ...process.env, BASE_URL: base, DATABASE_URL: url },
  });
  postgres.stop();

  const chunks = join(ROOT, ".next/static/chunks");
  const all = readdirSync(chunks)
    .filter((f) => f.endsWith(".js"))
    .map((f) => gzipSync(readFileSync(join(chunks, f))).length);
  console.log(
    `\nAll JavaScript of the application, gzipped: ${(all.reduce((a, b) => a + b, 0) / 1024).toFixed(0)} kB in ${all.length} files`,
  );
}
