/**
 * npm run backup: a backup of the workshop into its folder of backups, read back before it counts
 * (docs/operations.md).
 */
import { backUp } from "./lib/backups.mjs";
import { ensurePackages } from "./lib/packages.mjs";
import { dataFolder } from "./lib/paths.mjs";
import { OwnPostgres } from "./lib/postgres.mjs";
import { openDatabase } from "./lib/workshop.mjs";

ensurePackages();
const wasRunning = process.env.DATABASE_URL ? true : new OwnPostgres(dataFolder()).isRunning();
const db = await openDatabase(dataFolder(), "birdcage");
const code = await backUp(db.url);
if (!wasRunning) db.stop();
process.exit(code);
