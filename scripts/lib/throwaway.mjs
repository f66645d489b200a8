import { fork, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

import { ensureBuild } from "./build.mjs";
import { ROOT } from "./paths.mjs";
import { OwnPostgres } from "./postgres.mjs";
import { freePort } from "./run.mjs";
import { beginCli } from "./workshop.mjs";

/** A PostgreSQL of its own that is gone afterwards; ended too when the run is interrupted. */
export async function throwawayPostgres(wishedPort) {
  const folder = mkdtempSync(join(process.getuid?.() === 0 ? "/var/tmp" : tmpdir(), "birdcage-throwaway-"));
  spawnSync("chmod", ["755", folder]);
  const postgres = new OwnPostgres(folder, { wishedPort, durable: false });
  const others = [];
  let stopped = false;
  const stop = () => {
    if (stopped) return;
    stopped = true;
    others.forEach((child) => child.kill("SIGTERM"));
    postgres.stop();
    rmSync(folder, { recursive: true, force: true });
  };
  process.on("exit", stop); // also after an error that nobody caught
  for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => (stop(), process.exit(130)));
  await postgres.start();
  return {
    database: (name) => {
      postgres.ensureDatabase(name);
      return postgres.url(name);
    },
    /** A copy of a database that nobody is using. */
    copy: (from, name) => {
      postgres.copyDatabase(from, name);
      return postgres.url(name);
    },
    alsoStop: (child) => others.push(child),
    stop,
  };
}

export const THROWAWAY_SECRET = "only-for-a-throwaway-".repeat(3);

/** Begins to load the demonstration into a new database; the promise gives its address once it is whole. */
export function demoDatabase(postgres, name) {
  const url = postgres.database(name);
  return beginCli("demo-data", url, [], { env: { SESSION_SECRET: THROWAWAY_SECRET } }).then(() => url);
}

/** Serves the built application from a database; ended with its PostgreSQL. */
export async function throwawayServer(postgres, url, wishedPort, env = {}) {
  const port = await freePort(wishedPort);
  const server = fork(join(ROOT, "server/main.mjs"), {
    cwd: ROOT,
    env: {
      ...process.env,
      NODE_ENV: "production",
      NEXT_TELEMETRY_DISABLED: "1",
      DATABASE_URL: url,
      HOST: "127.0.0.1",
      PORT: String(port),
      PUBLIC_URL: "",
      SESSION_SECRET: THROWAWAY_SECRET,
      LOG_LEVEL: "error",
      ...env,
    },
  });
  postgres.alsoStop(server);
  await new Promise((resolve, reject) => {
    server.once("message", resolve);
    server.once("exit", (code) => reject(new Error(`the application ended with ${code}`)));
  });
  return { url, base: `http://127.0.0.1:${port}`, server };
}

/**
 * The built application with the demo data, served from a throwaway database; `fill` adds to the data before
 * it is served.
 */
export async function throwawayWorkshop(postgres, name, wishedPort, { fill = () => {}, env = {} } = {}) {
  const loading = demoDatabase(postgres, name); // beside the build: neither keeps two cores busy alone
  await ensureBuild();
  const url = await loading;
  fill(url);
  return throwawayServer(postgres, url, wishedPort, env);
}
