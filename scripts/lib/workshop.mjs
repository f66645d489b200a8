import { fork, spawn, spawnSync } from "node:child_process";
import { randomBytes } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";

import { ensureBuild } from "./build.mjs";
import { ensurePackages } from "./packages.mjs";
import { dataFolder, ROOT } from "./paths.mjs";
import { OwnPostgres } from "./postgres.mjs";
import { alive, fail, freePort } from "./run.mjs";

const cliArgs = (name, args) => [
  "--conditions=react-server",
  "--import",
  "tsx",
  join(ROOT, "src/cli", `${name}.ts`),
  ...args,
];
const cliOptions = (url, options) => ({
  cwd: ROOT,
  stdio: "inherit",
  ...options,
  env: { ...process.env, DATABASE_URL: url, ...options.env },
});

/** Runs one of src/cli with the database's address. */
export function cli(name, url, args = [], options = {}) {
  const run = spawnSync(process.execPath, cliArgs(name, args), cliOptions(url, options));
  if (run.status !== 0) fail(`${name} failed; see the lines above.`);
}

/** Begins one of src/cli; the promise is kept when it has ended well. */
export async function beginCli(name, url, args = [], options = {}) {
  const child = spawn(process.execPath, cliArgs(name, args), cliOptions(url, options));
  const status = await new Promise((resolve) => child.once("close", resolve));
  if (status !== 0) fail(`${name} failed; see the lines above.`);
}

/** A secret that stays the same from start to start, in a file that only its owner reads. */
export function sessionSecret(folder) {
  const file = join(folder, "session-secret");
  if (!existsSync(file)) {
    mkdirSync(folder, { recursive: true });
    writeFileSync(file, randomBytes(48).toString("base64url"), { mode: 0o600 });
  }
  return readFileSync(file, "utf8").trim();
}

/** Where a run of this folder's workshop serves now; null when none does. */
export function runningAt(folder, database) {
  try {
    const held = JSON.parse(readFileSync(join(folder, `run-${database}.json`), "utf8"));
    const command = existsSync(`/proc/${held.pid}/cmdline`)
      ? readFileSync(`/proc/${held.pid}/cmdline`, "utf8")
      : "";
    return alive(held.pid) && command.includes("scripts/") ? held.address : null;
  } catch {
    return null; // there is none, or a crash left one that cannot be read
  }
}

/** Only one run serves a data folder at a time. */
function takeLock(folder, database) {
  mkdirSync(folder, { recursive: true });
  const file = join(folder, `run-${database}.json`);
  const address = runningAt(folder, database);
  if (address) fail(`it is already running at ${address}.`);
  return {
    write: (address) => writeFileSync(file, JSON.stringify({ pid: process.pid, address })),
    release: () => rmSync(file, { force: true }),
  };
}

/** The database that this run uses: DATABASE_URL's, or the workshop's own server, started here. */
export async function openDatabase(folder, name, { reset = false } = {}) {
  if (process.env.DATABASE_URL) return { url: process.env.DATABASE_URL, stop: () => {}, server: null };
  const server = new OwnPostgres(folder);
  await server.start();
  if (reset) server.dropDatabase(name);
  server.ensureDatabase(name);
  return { url: server.url(name), stop: () => server.stop(), server };
}

const LOOK_MS = 1000;
const MOST_QUICK = 3; // starts in a row that ended before they served
const QUICK_WAIT_MS = 3000;

/**
 * Everything from nothing to a served application, which is kept running: when it ends by itself it is
 * started again, and so is the database. Resolves never: it ends with the signal that stops it. `dev`: from
 * the sources, which may change meanwhile.
 */
export async function serve({
  database,
  reset = false,
  dev = false,
  prepare,
  announce,
  beside = () => () => {},
}) {
  const began = performance.now();
  ensurePackages();
  const folder = dataFolder();
  const lock = takeLock(folder, database);
  const db = await openDatabase(folder, database, { reset });
  let child = null;
  let stopping = false;
  let endBeside = () => {};
  const stop = (code) => {
    if (stopping) return;
    stopping = true;
    endBeside();
    const finish = () => {
      if (!otherRun(folder, database)) db.stop();
      lock.release();
      process.exit(code);
    };
    if (!child || child.exitCode !== null || child.signalCode !== null) return finish();
    child.once("exit", finish);
    child.kill("SIGTERM");
  };
  process.on("SIGINT", () => stop(0));
  process.on("SIGTERM", () => stop(0));
  process.on("SIGHUP", () => stop(0));

  // certificates of the demo are signed while it loads, by the key that the server goes on with
  process.env.SESSION_SECRET ??= sessionSecret(folder);
  if (!dev) await ensureBuild();
  cli("migrate", db.url);
  prepare?.(db.url);
  const host = process.env.HOST ?? "127.0.0.1";
  const wished = Number(process.env.PORT ?? 4170);
  const port = await freePort(wished, host);
  if (port !== wished) console.log(`Port ${wished} is taken; Birdcage uses ${port}.`);
  const scheme = process.env.TLS_CERT && process.env.TLS_KEY ? "https" : "http";
  const address = process.env.PUBLIC_URL ?? `${scheme}://${host === "0.0.0.0" ? "127.0.0.1" : host}:${port}`;
  lock.write(address);

  let url = db.url;
  let served = false;
  let quick = 0;
  const launch = () => {
    let isUp = false;
    child = fork(join(ROOT, "server/main.mjs"), {
      cwd: ROOT,
      env: {
        ...process.env,
        NODE_ENV: dev ? "development" : "production",
        NEXT_TELEMETRY_DISABLED: "1",
        DATABASE_URL: url,
        HOST: host,
        PORT: String(port),
        LOG_LEVEL: process.env.LOG_LEVEL ?? "warn",
      },
    });
    const launched = performance.now();
    child.on("message", (m) => {
      if (m !== "serving") return;
      isUp = true;
      quick = 0;
      if (served)
        console.error(
          `The application is back after ${((performance.now() - launched) / 1000).toFixed(1)} s.`,
        );
      else announce(address, Math.round(performance.now() - began));
      served = true;
    });
    child.on("exit", (code, signal) => {
      if (stopping) return;
      if (!isUp && ++quick >= MOST_QUICK && !served) {
        console.error(`The application does not start (${signal ?? code}); see the lines above.`);
        return stop(1);
      }
      console.error(
        `The application ended (${signal ?? code}) and is started again; nothing entered is lost.`,
      );
      setTimeout(() => !stopping && launch(), isUp ? 0 : QUICK_WAIT_MS);
    });
  };
  launch();
  endBeside = beside(() => url);
  if (db.server)
    keepDatabase(
      db.server,
      () => stopping,
      (port) => {
        console.error("The database had ended and was started again.");
        const moved = new URL(url);
        if (moved.port === String(port)) return;
        moved.port = String(port);
        url = moved.href;
        child.kill("SIGTERM"); // it is started again with the new address
      },
    );
}

/**
 * The database's life does not hang on the application's, nor the other way: whoever of them ends is started
 * again.
 */
function keepDatabase(server, isStopping, onBack) {
  let starting = false;
  setInterval(async () => {
    if (starting || isStopping() || server.isRunning()) return;
    starting = true;
    try {
      await server.start();
      onBack(server.port);
    } finally {
      starting = false;
    }
  }, LOOK_MS).unref();
}

/** Whether another kind of run (the demo, development) still uses this folder's server. */
const otherRun = (folder, database) =>
  readdirSync(folder)
    .map((name) => /^run-(\w+)\.json$/.exec(name)?.[1])
    .some((other) => other !== undefined && other !== database && runningAt(folder, other) !== null);
