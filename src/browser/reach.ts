/**
 * Whether the workshop can be reached from this page. The service worker says when a page's answer is
 * overdue; the page itself asks now and then, since it may be at an address that may have no worker (plain
 * http in the house's network).
 */

const QUIET_MS = 10_000;
const AWAY_MS = 2000;
const WITHIN_MS = 5000;

type Reach = "here" | "away";
let reach: Reach = "here";
let timer: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();

function say(next: Reach): void {
  if (next === reach) return;
  reach = next;
  for (const listener of [...listeners]) listener();
}

async function look(): Promise<void> {
  clearTimeout(timer);
  if (document.visibilityState === "visible" || reach === "away") {
    const ok = await fetch("/health", { cache: "no-store", signal: AbortSignal.timeout(WITHIN_MS) })
      .then((r) => r.ok)
      .catch(() => false);
    say(ok ? "here" : "away");
  }
  clearTimeout(timer);
  if (listeners.size > 0) timer = setTimeout(() => void look(), reach === "away" ? AWAY_MS : QUIET_MS);
}

function heard(event: MessageEvent): void {
  const said = (event.data as { birdcageReach?: Reach | "back" } | null)?.birdcageReach;
  if (said === "away") {
    say("away");
    void look();
  } else if (said === "back") say("here");
}

const lookNow = (): void => void look();

export const reachNow = (): Reach => reach;

export function onReach(listener: () => void): () => void {
  if (listeners.size === 0) {
    navigator.serviceWorker?.addEventListener("message", heard);
    window.addEventListener("online", lookNow);
    window.addEventListener("offline", lookNow);
    timer = setTimeout(() => void look(), QUIET_MS);
  }
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
    if (listeners.size > 0) return;
    clearTimeout(timer);
    navigator.serviceWorker?.removeEventListener("message", heard);
    window.removeEventListener("online", lookNow);
    window.removeEventListener("offline", lookNow);
  };
}

/** Lets the worker stand in for the workshop; without it (an insecure address) the page looks for itself. */
export const startWorker = (): void => {
  if (window.isSecureContext) navigator.serviceWorker?.register("/sw.js").catch(() => {}); // forbidden by the browser: we look ourselves
};
