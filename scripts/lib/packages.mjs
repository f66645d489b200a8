import { createHash } from "node:crypto";
import { spawnSync } from "node:child_process";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";

import { ROOT } from "./paths.mjs";

/**
 * Installs the packages of the lock file when they are missing or the lock file has changed. Talks on
 * standard error.
 */
export function ensurePackages() {
  const stamp = join(ROOT, "node_modules", ".birdcage-lock");
  const hash = createHash("sha256")
    .update(readFileSync(join(ROOT, "package-lock.json")))
    .digest("hex");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === hash) return;
  console.error("Installing packages from the lock file ...");
  const run = spawnSync("npm", ["ci", "--no-audit", "--no-fund", "--include=dev"], {
    cwd: ROOT,
    stdio: ["ignore", 2, 2],
    env: { ...process.env, NODE_ENV: "development" },
  });
  if (run.status !== 0) {
    console.error(
      "npm ci failed; see its lines above. Check that the npm registry can be reached, then run this again.",
    );
    process.exit(1);
  }
  writeFileSync(stamp, hash);
}
