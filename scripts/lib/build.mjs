import { spawn } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";

import { ROOT } from "./paths.mjs";
import { fail } from "./run.mjs";

const SOURCES = ["src", "catalogue", "public", "next.config.mjs", "package-lock.json", "tsconfig.json"];

function* files(path) {
  if (!existsSync(path)) return;
  if (statSync(path).isDirectory())
    for (const name of readdirSync(path).sort()) yield* files(join(path, name));
  else if (!/\.test\.tsx?$/.test(path)) yield path;
}

function sourceHash() {
  const hash = createHash("sha256");
  for (const source of SOURCES)
    for (const file of files(join(ROOT, source)))
      hash.update(file.slice(ROOT.length)).update(readFileSync(file));
  return hash.digest("hex");
}

/** Builds the application when its sources have changed since the last build. */
export async function ensureBuild() {
  const stamp = join(ROOT, ".next", "birdcage-sources");
  const hash = sourceHash();
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === hash) return;
  console.log("Building the application (about a minute) ...");
  const next = join(ROOT, "node_modules/next/dist/bin/next");
  const child = spawn(process.execPath, [next, "build"], {
    cwd: ROOT,
    stdio: ["ignore", "pipe", "pipe"],
    env: { ...process.env, NODE_ENV: "production", NEXT_TELEMETRY_DISABLED: "1" },
  });
  let said = "";
  for (const stream of [child.stdout, child.stderr]) stream.on("data", (c) => (said += c.toString()));
  const status = await new Promise((resolve) => child.once("close", resolve));
  if (status !== 0) fail(`the build failed.\n${said}`);
  writeFileSync(stamp, hash);
}
