/**
 * What every address answers while the database is away: 503 in words, as the asker reads it. The page comes
 * back by itself. Asked for before each request that needs the database, so that nobody gets half a page.
 */
import { randomBytes } from "node:crypto";
import { readFileSync } from "node:fs";

import pg from "pg";

const GOOD_FOR_MS = 250;
const WITHIN_MS = 3000;

/** Answers whether the database does. What was good a moment ago is not asked again. */
export function databaseProbe(url) {
  const pool = new pg.Pool({
    connectionString: url,
    max: 1,
    connectionTimeoutMillis: WITHIN_MS,
    query_timeout: WITHIN_MS,
  });
  pool.on("error", () => {}); // the next question finds out
  let goodAt = -Infinity;
  let asking = null;
  const ask = async () => {
    try {
      await pool.query("select 1");
      goodAt = performance.now();
      return true;
    } catch {
      return false;
    } finally {
      asking = null;
    }
  };
  return () => (performance.now() - goodAt < GOOD_FOR_MS ? Promise.resolve(true) : (asking ??= ask()));
}

const PAGE = readFileSync(new URL("./away.html", import.meta.url), "utf8");

export function answerAway(request, response) {
  response.setHeader("Cache-Control", "no-store");
  response.setHeader("Retry-After", "2");
  response.setHeader("X-Content-Type-Options", "nosniff");
  if ((request.url ?? "").startsWith("/api/")) {
    response.writeHead(503, { "Content-Type": "application/json" });
    return response.end(JSON.stringify({ ok: false, problem: { code: "away" } }));
  }
  const nonce = randomBytes(16).toString("base64");
  response.writeHead(503, {
    "Content-Type": "text/html; charset=utf-8",
    "Content-Security-Policy": `default-src 'none'; style-src 'unsafe-inline'; connect-src 'self'; script-src 'nonce-${nonce}'; frame-ancestors 'none'; base-uri 'none'`,
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Embedder-Policy": "require-corp",
  });
  return response.end(PAGE.replace("<script>", `<script nonce="${nonce}">`));
}
