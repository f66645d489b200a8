/**
 * Serves the built application on HOST:PORT, by TLS when TLS_CERT and TLS_KEY name files.
 * Logs each request as JSON, puts the connection's address where the application reads it, and stops cleanly.
 */
import { AsyncLocalStorage } from "node:async_hooks";
import { readFileSync } from "node:fs";
import { createServer } from "node:http";
import { createServer as createTlsServer } from "node:https";
import { availableParallelism } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

import next from "next";
import pino from "pino";
import { Piscina } from "piscina";
import proxyAddr from "proxy-addr";

import { answerAway, databaseProbe } from "./away.mjs";

const {
  HOST = "127.0.0.1",
  PORT = "4170",
  TLS_CERT,
  TLS_KEY,
  DATABASE_URL,
  TRUSTED_PROXIES = "",
} = process.env;
const dir = join(dirname(fileURLToPath(import.meta.url)), "..");
const log = pino({ name: "birdcage", level: process.env.LOG_LEVEL ?? "info", base: null });

// only for npm run bench:shop, which asks one page at a time: what each request's queries took goes to the
// parent
if (process.env.BENCH_SQL === "1") globalThis.birdcageSqlTimes = [];

/**
 * The request that is answered now: src/platform/db/connection.ts chooses the records by it, once
 * src/platform/http/session.ts knows whose it is.
 */
globalThis.birdcageRequest = new AsyncLocalStorage();

/**
 * The sender's address. Only what a trusted proxy says is believed (TRUSTED_PROXIES: addresses and networks,
 * by commas; also "loopback"): then it is the nearest one that is not itself a trusted proxy.
 */
const trusted = proxyAddr.compile(
  TRUSTED_PROXIES.split(",")
    .map((t) => t.trim())
    .filter(Boolean),
);
const addressOf = (request) => {
  try {
    return proxyAddr(request, trusted) ?? "unknown";
  } catch {
    return request.socket.remoteAddress ?? "unknown";
  }
};
const databaseAnswers = databaseProbe(DATABASE_URL);
const needsDatabase = (path) =>
  !path.startsWith("/_next/") && !["/health", "/icon.svg", "/sw.js"].includes(path);
/** An address whose percent signs say nothing is one at which nothing is. */
const readable = (path) => {
  try {
    decodeURIComponent(path);
    return true;
  } catch {
    return false;
  }
};

/**
 * Threads for what takes long (src/platform/work/pool.ts); one stands ready, since loading what it needs
 * takes a moment.
 */
globalThis.birdcageWorkers = new Piscina({
  filename: new URL("./worker.mjs", import.meta.url).href,
  execArgv: ["--import", new URL("./plain-react.mjs", import.meta.url).href],
  minThreads: 1,
  maxThreads: Math.max(1, Math.min(3, availableParallelism() - 1)),
  maxQueue: 100,
  resourceLimits: { maxOldGenerationSizeMb: 1024 },
});

const dev = process.env.NODE_ENV === "development"; // npm run dev: from the sources
const app = next({ dev, dir, hostname: HOST, port: Number(PORT) });
await app.prepare();
const handle = app.getRequestHandler();

/** Addresses of certificates, questions and calendars are secrets: logs keep their first letters only. */
const logged = (url) => url.split("?")[0].replace(/^(\/(?:c|q|calendar)\/.{4})[^/]*/, "$1...");

function listener(request, response) {
  const began = performance.now();
  delete request.headers["x-nonce"];
  request.headers["x-birdcage-address"] = addressOf(request);
  if (!readable(request.url ?? "/")) request.url = "/nothing-at-this-address";
  const path = (request.url ?? "/").split("?")[0];
  response.on("finish", () => {
    const line = {
      method: request.method,
      path: logged(request.url ?? ""),
      status: response.statusCode,
      ms: Math.round(performance.now() - began),
    };
    if (globalThis.birdcageSqlTimes) {
      const queries = globalThis.birdcageSqlTimes.splice(0);
      process.send?.({ path: request.url, ms: performance.now() - began, queries });
    }
    if (response.statusCode >= 500) log.error(line, "request");
    else if (line.path.startsWith("/_next/")) log.debug(line, "request");
    else log.info(line, "request");
  });
  const serve = async () => {
    if (needsDatabase(path) && !(await databaseAnswers())) return answerAway(request, response);
    return handle(request, response);
  };
  globalThis.birdcageRequest.run({ path, bench: "unknown" }, serve).catch((err) => {
    log.error({ err }, "request failed");
    if (!response.headersSent) response.statusCode = 500;
    response.end();
  });
}

const server =
  TLS_CERT && TLS_KEY
    ? createTlsServer({ cert: readFileSync(TLS_CERT), key: readFileSync(TLS_KEY) }, listener)
    : createServer(listener);

// a browser or a proxy uses a line again that was idle for a minute: closed by us at that very moment, its next
// request would be lost
server.keepAliveTimeout = 75_000;
server.headersTimeout = 80_000;
if (dev) server.on("upgrade", app.getUpgradeHandler()); // pages are told of changed sources
server.on("error", (err) => {
  log.fatal({ err }, "cannot serve");
  process.exit(1);
});
server.listen(Number(PORT), HOST, () => {
  log.info({ host: HOST, port: Number(PORT), tls: Boolean(TLS_CERT) }, "serving");
  process.send?.("serving");
});

let stopping = false;
function stop(signal) {
  if (stopping) return;
  stopping = true;
  log.info({ signal }, "stopping");
  const late = setTimeout(() => process.exit(0), 4000);
  late.unref();
  server.close(async () => {
    await app.close().catch(() => {});
    process.exit(0);
  });
  server.closeIdleConnections();
  setTimeout(() => server.closeAllConnections(), 1500).unref();
}
process.on("SIGTERM", () => stop("SIGTERM"));
process.on("SIGINT", () => stop("SIGINT"));
process.on("disconnect", () => stop("parent gone"));
