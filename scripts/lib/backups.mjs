import { fork } from "node:child_process";
import { existsSync, readdirSync, renameSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";

import { dataFolder, ROOT } from "./paths.mjs";
import { binFolder } from "./postgres.mjs";
import { sessionSecret } from "./workshop.mjs";

/**
 * Backups by the workshop's own programs: where they lie, when one is due, and running one beside the open
 * workshop.
 */

export const backupFolder = () => process.env.BIRDCAGE_BACKUPS ?? join(dataFolder(), "backups");

function run(url, args, heard = () => {}) {
  const child = fork(join(ROOT, "src/cli/backup.ts"), args, {
    cwd: ROOT,
    execArgv: ["--conditions=react-server", "--import", "tsx"],
    env: {
      ...process.env,
      DATABASE_URL: url,
      BIRDCAGE_PG_BIN: binFolder() ?? "",
      SESSION_SECRET: process.env.SESSION_SECRET ?? sessionSecret(dataFolder()),
    },
  });
  child.on("message", heard);
  return new Promise((resolve) => child.on("exit", (code) => resolve(code ?? 1)));
}

export const backUp = (url) => run(url, ["backup", backupFolder()]);

/**
 * Restores; the secret that sealed the signing key comes back with the workshop, and the one that was here is
 * kept beside it.
 */
export async function restore(url, file) {
  let secret = null;
  const database = new URL(url).pathname.slice(1);
  const code = await run(url, ["restore", file, database], (m) => (secret = m.sessionSecret ?? secret));
  if (code !== 0 || secret === null || process.env.SESSION_SECRET) return code;
  const path = join(dataFolder(), "session-secret");
  if (existsSync(path)) renameSync(path, `${path}.before`);
  writeFileSync(path, secret, { mode: 0o600 });
  return code;
}

const LOOK_MS = 20_000; // more often than a minute, so that none is skipped
const DAY_MS = 24 * 3600_000;
const FIRST_MS = 10 * 60_000;

function newest(folder) {
  const names = existsSync(folder) ? readdirSync(folder).filter((n) => n.endsWith(".backup")) : [];
  return names.length ? Math.max(...names.map((n) => statSync(join(folder, n)).mtimeMs)) : null;
}

/**
 * Takes a backup each day at BACKUP_AT (hours and minutes of this machine's clock; 03:00), and ten minutes
 * after a start when the machine was off at that time. "never" leaves it to somebody else. Answers a function
 * that ends it.
 */
export function backUpByDay(urlNow) {
  const at = process.env.BACKUP_AT ?? "03:00";
  if (at === "never") return () => {};
  const [hour, minute] = at.split(":").map(Number);
  if (!Number.isInteger(hour) || !Number.isInteger(minute) || hour > 23 || minute > 59)
    throw new Error(`BACKUP_AT is "${at}"; it should read like 03:00, or never.`);
  const began = Date.now();
  let running = false;
  const timer = setInterval(async () => {
    const now = new Date();
    const last = newest(backupFolder());
    const isTime =
      now.getHours() === hour &&
      now.getMinutes() === minute &&
      (last === null || Date.now() - last > DAY_MS / 2);
    const isMissed =
      Date.now() - began > FIRST_MS && (last === null || Date.now() - last > DAY_MS + FIRST_MS);
    if (running || !(isTime || isMissed)) return;
    running = true;
    const code = await backUp(urlNow());
    if (code !== 0)
      console.error("The backup of today failed; see the lines above. The Bench tells the leads.");
    running = false;
  }, LOOK_MS);
  timer.unref();
  return () => clearInterval(timer);
}
