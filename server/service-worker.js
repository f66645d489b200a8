/**
 * Stands between the pages and the workshop while it is out of reach: a page that is asked for gets our words
 * instead of the browser's own error, and a page that is open waits for its answer instead of being torn down
 * with what was typed in it.
 */
const WAIT_MS = 1000;
/** A line can die without a word: what has not begun to answer by then is asked for again. */
const ANSWER_MS = 25_000;
const MOST_TRIES = 240; // a browser ends a worker that answers later than that anyway

const AWAY_PAGE = "__AWAY_PAGE__";

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

self.addEventListener("fetch", (event) => {
  const { request } = event;
  if (request.method !== "GET" || new URL(request.url).origin !== self.location.origin) return;
  if (request.mode === "navigate") event.respondWith(orAwayPage(request));
  else if (request.headers.has("rsc") && !request.headers.has("next-router-prefetch"))
    event.respondWith(patiently(request, event.clientId));
});

async function orAwayPage(request) {
  try {
    return await fetch(request);
  } catch {
    return new Response(AWAY_PAGE, {
      status: 503,
      headers: {
        "Content-Type": "text/html; charset=utf-8",
        "Cross-Origin-Opener-Policy": "same-origin",
        "Cross-Origin-Embedder-Policy": "require-corp",
      },
    });
  }
}

async function tell(clientId, reach) {
  const client = await self.clients.get(clientId);
  client?.postMessage({ birdcageReach: reach });
}

/** The answer, once it begins; an error where none begins in time. */
async function inTime(request) {
  const late = new AbortController();
  const timer = setTimeout(() => late.abort(), ANSWER_MS);
  try {
    return await fetch(request.clone(), { signal: AbortSignal.any([request.signal, late.signal]) });
  } finally {
    clearTimeout(timer);
  }
}

async function patiently(request, clientId) {
  for (let tries = 0; ; tries++) {
    try {
      const response = await inTime(request);
      if ((response.status !== 502 && response.status !== 503) || tries >= MOST_TRIES) {
        if (tries > 0) await tell(clientId, "back");
        return response;
      }
    } catch (error) {
      if (request.signal.aborted || tries >= MOST_TRIES) throw error;
    }
    if (tries === 0) await tell(clientId, "away");
    await new Promise((resolve) => setTimeout(resolve, WAIT_MS));
  }
}
