import { createStore, del, entries, get, set } from "idb-keyval";

import type { Refusal } from "@/contract/refusals";
import type { Id } from "@/core/base/ids";

/**
 * Recordings that wait in this browser until the server has them. Sent once: the id makes repeats harmless.
 * They are their maker's: nobody else's session sends or throws them away, and what the server refuses stays
 * until its maker says otherwise.
 */

export type Maker = { id: string; name: string };
export type Waiting = {
  id: string;
  unitId: Id<"unit">;
  tag: string;
  purpose: "quick" | "full" | "spot";
  source: "gamepad" | "simulated" | "playback" | "import";
  tester: {
    label: string;
    host: string;
    version?: string;
    slot?: number;
    link?: "cable" | "radio" | "unknown";
  };
  spot?: { controls: string[]; force: "normal" | "light" | "hard" } | null;
  startedAt: number;
  /**
   * who measured it and at which bench; those of an older version have neither, and are whoever's is signed
   * in
   */
  by?: Maker;
  practice?: boolean;
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

let here: { by: Maker; practice: boolean } | null = null;
/** Who is signed in on this page, and at which bench. */
export function beginOutbox(by: Maker, practice: boolean): void {
  here = { by, practice };
}
export const isMine = (item: Waiting): boolean =>
  (item.by === undefined || item.by.id === here?.by.id) &&
  (item.practice ?? here?.practice) === here?.practice;

let running: string | null = null;
/** Which recording is being made on this page: what is kept of it meanwhile was left by nobody. */
export function runsHere(id: string | null): void {
  running = id;
  changed();
}
export const isRunningHere = (item: Waiting): boolean => item.state === "unfinished" && item.id === running;

/** Keeps a recording, as that of the person who is signed in where it is new. */
export async function keep(item: Waiting): Promise<void> {
  await set(item.id, item.by ? item : { ...item, ...here }, store());
  changed();
}

export async function discard(id: string): Promise<void> {
  await del(id, store());
  changed();
}

export async function waiting(): Promise<Waiting[]> {
  return (await entries<string, Waiting>(store()))
    .map(([, item]) => item)
    .sort((a, b) => a.startedAt - b.startedAt);
}

export type Sent = { ok: true } | { ok: false; problem: Refusal };
/** What passes by itself, or once its maker is back at that bench. */
const RETRY = new Set<Refusal["code"]>(["busy", "away", "signed-out", "other-person", "other-bench"]);

/** Sends one recording. On success it leaves the browser; on a refusal it stays, with the reason. */
export async function sendOne(id: string): Promise<Sent> {
  return navigator.locks.request(`birdcage-outbox-${id}`, async (): Promise<Sent> => {
    const item = await get<Waiting>(id, store());
    if (!item) return { ok: true };
    if (!isMine(item)) return { ok: false, problem: { code: "other-person" } };
    const head = {
      id: item.id,
      unitId: item.unitId,
      purpose: item.purpose,
      source: item.source,
      tester: item.tester,
      spot: item.spot ?? null,
      ...(item.by ? { by: item.by.id, practice: item.practice ?? false } : {}),
      startedAgoMs: Math.max(0, Date.now() - item.startedAt),
    };
    try {
      const response = await fetch("/api/recordings", {
        method: "POST",
        headers: {
          "x-recording": encodeURIComponent(JSON.stringify(head)),
          "Content-Type": "application/gzip",
        },
        body: item.csvGz,
      });
      const reply = (await response.json()) as Sent;
      if (reply.ok) await discard(id);
      else if (!RETRY.has(reply.problem.code))
        await keep({ ...item, state: "refused", problem: reply.problem });
      return reply;
    } catch {
      return { ok: false, problem: { code: "away" } };
    }
  });
}
