import { fork, spawnSync } from "node:child_process";
import { randomBytes } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";

import { ensureBuild } from "./build.mjs";
import { ensurePackages } from "./packages.mjs";
import { dataFolder, ROOT } from "./paths.mjs";
import { OwnPostgres } from "./postgres.mjs";
import { alive, fail, freePort } from "./run.mjs";

/** Runs one of src/cli with the database's address. */
export function cli(name, url, args = [], options = {}) {
  const run = spawnSync(
    process.execPath,
    ["--conditions=react-server", "--import", "tsx", join(ROOT, "src/cli", `${name}.ts`), ...args],
    {
      cwd: ROOT,
      stdio: "inherit",
      ...options,
      env: { ...process.env, DATABASE_URL: url, ...options.env },
    },
  );
  if (run.status !== 0) fail(`${name} failed; see the lines above.`);
}

/** A secret that stays the same from start to start, in a file that only its owner reads. */
function sessionSecret(folder) {
  const file = join(folder, "session-secret");
  if (!existsSync(file)) {
    mkdirSync(folder, { recursive: true });
    writeFileSync(file, randomBytes(48).toString("base64url"), { mode: 0o600 });
  }
  return readFileSync(file, "utf8").trim();
}

/** Only one run serves a data folder at a time. */
function takeLock(folder, database) {
  mkdirSync(folder, { recursive: true });
  const file = join(folder, `run-${database}.json`);
  if (existsSync(file)) {
    try {
      const held = JSON.parse(readFileSync(file, "utf8"));
      const command = existsSync(`/proc/${held.pid}/cmdline`) ? readFileSync(`/proc/${held.pid}/cmdline`, "utf8") : "";
      if (alive(held.pid) && command.includes("scripts/"))
        fail(`it is already running at ${held.address} (process ${held.pid}).`);
    } catch {
      // a lock that cannot be read was left by a crash
    }
  }
  return {
    write: (address) => writeFileSync(file, JSON.stringify({ pid: process.pid, address })),
    release: () => rmSync(file, { force: true }),
  };
}

/** The database that this run uses: DATABASE_URL's, or the workshop's own server, started here. */
export async function openDatabase(folder, name, { reset = false } = {}) {
  if (process.env.DATABASE_URL) return { url: process.env.DATABASE_URL, stop: () => {}, own: false };
  const server = new OwnPostgres(folder);
  await server.start();
  if (reset) server.dropDatabase(name);
  server.ensureDatabase(name);
  return { url: server.url(name), stop: () => server.stop(), own: true };
}

/** Everything from nothing to a served application. Resolves never: it ends with the signal that stops it. */
export async function serve({ database, reset = false, prepare, announce }) {
  const began = performance.now();
  ensurePackages();
  const folder = dataFolder();
  const lock = takeLock(folder, database);
  const db = await openDatabase(folder, database, { reset });
  let child = null;
  let stopping = false;
  const stop = (code) => {
    if (stopping) return;
    stopping = true;
    const finish = () => {
      if (!otherRun(folder, database)) db.stop();
      lock.release();
      process.exit(code);
    };
    if (!child || child.exitCode !== null) return finish();
    child.once("exit", finish);
    child.kill("SIGTERM");
  };
  process.on("SIGINT", () => stop(0));
  process.on("SIGTERM", () => stop(0));
  process.on("SIGHUP", () => stop(0));

  // certificates of the demo are signed while it loads, by the key that the server goes on with
  process.env.SESSION_SECRET ??= sessionSecret(folder);
  ensureBuild();
  cli("migrate", db.url);
  prepare?.(db.url);
  const host = process.env.HOST ?? "127.0.0.1";
  const wished = Number(process.env.PORT ?? 4170);
  const port = await freePort(wished, host);
  if (port !== wished) console.log(`Port ${wished} is taken; Birdcage uses ${port}.`);
  const scheme = process.env.TLS_CERT && process.env.TLS_KEY ? "https" : "http";
  const address = process.env.PUBLIC_URL ?? `${scheme}://${host === "0.0.0.0" ? "127.0.0.1" : host}:${port}`;
  lock.write(address);
  child = fork(join(ROOT, "server/main.mjs"), {
    cwd: ROOT,
    env: {
      ...process.env,
      NODE_ENV: "production",
      NEXT_TELEMETRY_DISABLED: "1",
      DATABASE_URL: db.url,
      HOST: host,
      PORT: String(port),
      LOG_LEVEL: process.env.LOG_LEVEL ?? "warn",
    },
  });
  child.on("message", (m) => {
    if (m === "serving") announce(address, Math.round(performance.now() - began));
  });
  child.on("exit", (code) => {
    if (!stopping) {
      console.error(`The application ended (${code}). Start it again with the same command; nothing entered is lost.`);
      stop(1);
    }
  });
}

/** Whether the other kind of run (demo or not) still uses this folder's server. */
function otherRun(folder, database) {
  const other = join(folder, `run-${database === "birdcage" ? "birdcage_demo" : "birdcage"}.json`);
  if (!existsSync(other)) return false;
  try {
    return alive(JSON.parse(readFileSync(other, "utf8")).pid);
  } catch {
    return false;
  }
}
