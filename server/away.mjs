/**
 * What every address answers while the database is away: 503 in words, as the asker reads it. The page comes back by itself.
 * Asked for before each request that needs the database, so that nobody gets half a page.
 */
import { randomBytes } from "node:crypto";

import pg from "pg";

const GOOD_FOR_MS = 250;
const WITHIN_MS = 3000;

/** Answers whether the database does. What was good a moment ago is not asked again. */
export function databaseProbe(url) {
  const pool = new pg.Pool({ connectionString: url, max: 1, connectionTimeoutMillis: WITHIN_MS, query_timeout: WITHIN_MS });
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

const page = (nonce) => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Out of reach · Birdcage</title>
<style>
:root { color-scheme: light dark }
body { font: 1.1rem/1.5 "Atkinson Hyperlegible Next Variable", system-ui, sans-serif; max-width: 34rem; margin: 18vh auto; padding: 0 1.2rem }
h1 { font-size: 1.7rem; line-height: 1.15; margin: 0 0 .6rem }
</style>
</head>
<body>
<main>
<h1>The workshop is out of reach</h1>
<p>Birdcage cannot get at its records just now. What you had typed waits in this browser, and this page comes back by itself.</p>
<p role="status">Looking again every two seconds.</p>
</main>
<script nonce="${nonce}">
setInterval(() => fetch("/health", { cache: "no-store" }).then((r) => { if (r.ok) location.reload(); }).catch(() => {}), 2000);
</script>
</body>
</html>
`;

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
  return response.end(page(nonce));
}
