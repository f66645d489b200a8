import { createStore, del, entries, get, set } from "idb-keyval";

import type { Refusal } from "@/contract/deeds";

/** Recordings that wait in this browser until the server has them. Sent once: the id makes repeats harmless. */

export type Waiting = {
  id: string;
  unitId: string;
  tag: string;
  purpose: "quick" | "full" | "spot";
  source: "gamepad" | "simulated" | "playback" | "import";
  tester: { label: string; host: string; version?: string; slot?: number; link?: "cable" | "radio" | "unknown" };
  spot?: { controls: string[]; force: "normal" | "light" | "hard" } | null;
  startedAt: number;
  csvGz: Blob;
  /** an unfinished test is kept at each step's end, and sent only when the person says so */
  state: "unfinished" | "ready" | "refused";
  problem?: Refusal;
};

const store = () => createStore("birdcage-outbox", "recordings");
const CHANGED = "birdcage-outbox-changed";

const changed = () => window.dispatchEvent(new Event(CHANGED));
export function onOutboxChange(listener: () => void): () => void {
  window.addEventListener(CHANGED, listener);
  window.addEventListener("online", listener);
  return () => {
    window.removeEventListener(CHANGED, listener);
    window.removeEventListener("online", listener);
  };
}

export async function keep(item: Waiting): Promise<void> {
  await set(item.id, item, store());
  changed();
}

export async function discard(id: string): Promise<void> {
  await del(id, store());
  changed();
}

export async function waiting(): Promise<Waiting[]> {
  return (await entries<string, Waiting>(store())).map(([, item]) => item).sort((a, b) => a.startedAt - b.startedAt);
}

export type Sent = { ok: true } | { ok: false; problem: Refusal };
const RETRY = new Set(["busy", "signed-out"]);

/** Sends one recording. On success it leaves the browser; on a refusal it stays, with the reason. */
export async function sendOne(id: string): Promise<Sent> {
  return navigator.locks.request(`birdcage-outbox-${id}`, async (): Promise<Sent> => {
    const item = await get<Waiting>(id, store());
    if (!item) return { ok: true };
    const head = {
      id: item.id,
      unitId: item.unitId,
      purpose: item.purpose,
      source: item.source,
      tester: item.tester,
      spot: item.spot ?? null,
      startedAgoMs: Math.max(0, Date.now() - item.startedAt),
    };
    try {
      const response = await fetch("/api/recordings", {
        method: "POST",
        headers: { "x-recording": encodeURIComponent(JSON.stringify(head)), "Content-Type": "application/gzip" },
        body: item.csvGz,
      });
      const reply = (await response.json()) as Sent;
      if (reply.ok) await discard(id);
      else if (!RETRY.has(reply.problem.code)) await keep({ ...item, state: "refused", problem: reply.problem });
      return reply;
    } catch {
      return { ok: false, problem: { code: "busy" } };
    }
  });
}
