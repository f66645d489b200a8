/** npm run user:add -- --name NAME [--role lead|technician|viewer]: adds a person; asks for the password. */
import { ensurePackages } from "./lib/packages.mjs";
import { dataFolder } from "./lib/paths.mjs";
import { cli, openDatabase } from "./lib/workshop.mjs";
import { OwnPostgres } from "./lib/postgres.mjs";

ensurePackages();
const wasRunning = process.env.DATABASE_URL ? true : new OwnPostgres(dataFolder()).isRunning();
const db = await openDatabase(dataFolder(), "birdcage");
cli("migrate", db.url);
cli("user-add", db.url, process.argv.slice(2));
if (!wasRunning) db.stop();
