import { spawnSync } from "node:child_process";
import { join } from "node:path";

import { ensurePackages } from "./lib/packages.mjs";
import { ROOT } from "./lib/paths.mjs";

ensurePackages();
const run = spawnSync(
  process.execPath,
  ["--import", "tsx", join(ROOT, "src/cli/advise.ts"), ...process.argv.slice(2)],
  {
    stdio: "inherit",
  },
);
process.exit(run.status ?? 1);
