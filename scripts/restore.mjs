/**
 * npm run restore -- FILE: puts the workshop of a backup in the place of the one that is here, which is kept
 * beside it.
 */
import { resolve } from "node:path";

import { restore } from "./lib/backups.mjs";
import { ensurePackages } from "./lib/packages.mjs";
import { dataFolder } from "./lib/paths.mjs";
import { OwnPostgres } from "./lib/postgres.mjs";
import { fail } from "./lib/run.mjs";
import { cli, openDatabase, runningAt } from "./lib/workshop.mjs";

const file = process.argv[2];
if (!file) fail("say which: npm run restore -- FILE");
ensurePackages();
const running = runningAt(dataFolder(), "birdcage");
if (running) fail(`the workshop is open at ${running}. Stop it first (Ctrl-C there), then restore.`);
const wasRunning = process.env.DATABASE_URL ? true : new OwnPostgres(dataFolder()).isRunning();
const db = await openDatabase(dataFolder(), "birdcage");
const code = await restore(db.url, resolve(file));
if (code === 0) cli("migrate", db.url); // a backup may be of an older version
if (!wasRunning) db.stop();
process.exit(code);
