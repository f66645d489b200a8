import type { DeedName } from "@/contract/deeds";
import type { Refusal, Reply } from "@/contract/refusals";
import { say } from "@/words/frame";

/**
 * Everything that a person changes goes through one queue of the page: done in the order of the hands, kept
 * in the browser until the server has answered, sent again by itself after a reload or while the workshop is
 * out of reach. The request's id makes repeats harmless. What the server refuses is told, never dropped.
 */

export type QueuedDeed = {
  id: string;
  deed: DeedName;
  input: unknown;
  /** who did it: it goes out as theirs or not at all */
  by: { id: string; name: string };
  /** practice has records of its own */
  practice: boolean;
  order: number;
  /** `done` stands until the page shows the new state */
  state: "waiting" | "done" | "refused";
  problem: Refusal | null;
};
export type Outcome = Reply;
/** Why nothing goes out just now. */
export type Held = "away" | "signed-out" | null;
export type QueueState = { deeds: readonly QueuedDeed[]; held: Held };

/** What an attempt to send came to; `away` when no answer of the application came back. */
export type Sent = { reply: Reply } | "away";

type Store = Pick<Storage, "getItem" | "setItem" | "removeItem" | "key" | "length">;
type Doors = {
  post: (deed: QueuedDeed) => Promise<Sent>;
  store: () => Store;
  sleep: (ms: number) => Promise<void>;
  /** one page of a browser sends at a time */
  alone: <T>(work: () => Promise<T>) => Promise<T>;
  newId: () => string;
  now: () => number;
};

const PREFIX = "birdcage-deed-";
/** Their inputs hold passwords, which are never written down in a browser. */
const SECRET: ReadonlySet<DeedName> = new Set(["person.add", "person.change-password"]);
/** A line can die without a word; what got no answer by then goes out again, which does no harm. */
const ANSWER_MS = 20_000;
const AWAY_MS = [500, 1000, 2000, 4000] as const;
/** How often a busy server is asked again before its answer stands. */
const BUSY_TRIES = 3;
const HOLDS: ReadonlySet<Refusal["code"]> = new Set(["signed-out", "other-person", "other-bench"]);
export const NOTHING_QUEUED: QueueState = { deeds: [], held: null };

/** No answer came, or one that says that the records are out of reach: it goes out again by itself. */
const isAway = (sent: Sent): sent is "away" =>
  sent === "away" || (!sent.reply.ok && sent.reply.problem.code === "away");

type Live = { settle: (outcome: Outcome) => void; alive: () => boolean };

export class DeedQueue {
  private state: QueueState = NOTHING_QUEUED;
  private me: { by: QueuedDeed["by"]; practice: boolean } | null = null;
  private readonly live = new Map<string, Live>();
  private readonly listeners = new Set<() => void>();
  private pumping = false;
  private last = 0;

  constructor(private readonly doors: Doors) {}

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  snapshot = (): QueueState => this.state;

  /** Somebody is signed in on this page: what was left of theirs by an earlier page goes out. */
  begin(by: QueuedDeed["by"], practice: boolean): void {
    this.me = { by, practice };
    const known = new Set(this.state.deeds.map((d) => d.id));
    const found = this.stored().filter((d) => !known.has(d.id));
    this.set({ deeds: [...found, ...this.state.deeds].sort((a, b) => a.order - b.order), held: null });
    void this.pump();
  }

  /**
   * Queues a deed; answers what the server says of it in the end. Null when the very same stands last in the
   * queue: a finger that hit twice. `alive` says whether the asker is still there to show a refusal; if not,
   * the queue keeps it to be shown.
   */
  add(deed: DeedName, input: unknown, alive: () => boolean): Promise<Outcome> | null {
    if (!this.me) throw new Error(say("aDeedBeforeAnybodyIsSigned"));
    const before = this.state.deeds
      .filter((d) => d.deed === deed && d.state === "waiting" && this.isMine(d))
      .at(-1);
    if (before && JSON.stringify(before.input) === JSON.stringify(input)) return null;
    this.last = Math.max(this.doors.now(), this.last + 1);
    const queued: QueuedDeed = {
      id: this.doors.newId(),
      deed,
      input,
      ...this.me,
      order: this.last,
      state: "waiting",
      problem: null,
    };
    this.keep(queued);
    const outcome = new Promise<Outcome>((settle) => this.live.set(queued.id, { settle, alive }));
    this.set({ ...this.state, deeds: [...this.state.deeds, queued] });
    void this.pump();
    return outcome;
  }

  /** Tries again now: somebody signed in elsewhere, or the line is back. */
  wake(): void {
    if (this.state.held === "signed-out") this.set({ ...this.state, held: null });
    void this.pump();
  }

  /**
   * The page shows the new state: what was done no longer has to be shown as saving, not even by the page
   * after a reload.
   */
  shown(ids: readonly string[]): void {
    for (const id of ids) this.forget(id);
    this.set({
      ...this.state,
      deeds: this.state.deeds.filter((d) => d.state !== "done" || !ids.includes(d.id)),
    });
  }

  /** A refusal was read. */
  discard(id: string): void {
    this.forget(id);
    this.set({ ...this.state, deeds: this.state.deeds.filter((d) => d.id !== id || d.state !== "refused") });
  }

  /** When nothing of this person waits any more, or nothing can go out. */
  drained(): Promise<"sent" | "held"> {
    return new Promise((resolve) => {
      const look = () => {
        const waits = this.state.deeds.some((d) => d.state === "waiting" && this.isMine(d));
        if (waits && this.state.held === null) return;
        off();
        resolve(waits ? "held" : "sent");
      };
      const off = this.subscribe(look);
      look();
    });
  }

  /** Nothing of this person is on its way or about to be drawn anew. */
  isQuiet = (): boolean =>
    this.state.held !== null ||
    this.state.deeds.every((d) => d.state === "refused" || (d.state === "waiting" && !this.isMine(d)));

  private isMine = (d: QueuedDeed): boolean => d.by.id === this.me?.by.id && d.practice === this.me.practice;

  private async pump(): Promise<void> {
    if (this.pumping) return;
    this.pumping = true;
    let away = 0;
    let busy = 0;
    for (;;) {
      const next = this.state.deeds.find((d) => d.state === "waiting" && this.isMine(d));
      if (!next || this.state.held === "signed-out") break;
      const sent = await this.doors.alone(async (): Promise<Sent | "elsewhere"> => {
        // another page of this browser sent it meanwhile; whoever waits for its answer asks once more and
        // gets the first one
        if (!this.live.has(next.id) && !SECRET.has(next.deed) && this.wentOut(next.id)) return "elsewhere";
        return this.doors.post(next);
      });
      if (sent === "elsewhere")
        this.set({ ...this.state, deeds: this.state.deeds.filter((d) => d.id !== next.id) });
      else if (isAway(sent)) {
        this.set({ ...this.state, held: "away" });
        await this.doors.sleep(AWAY_MS[Math.min(away++, AWAY_MS.length - 1)]!);
      } else if (!sent.reply.ok && HOLDS.has(sent.reply.problem.code))
        this.set({ ...this.state, held: "signed-out" });
      else if (!sent.reply.ok && sent.reply.problem.code === "busy" && ++busy < BUSY_TRIES)
        await this.doors.sleep(AWAY_MS[busy - 1]!);
      else {
        away = busy = 0;
        this.settle(next, sent.reply);
      }
    }
    this.pumping = false;
  }

  private settle(deed: QueuedDeed, reply: Reply): void {
    const asker = this.live.get(deed.id);
    this.live.delete(deed.id);
    const told = asker?.alive() ?? false;
    const left = (): QueuedDeed[] => {
      if (reply.ok) return [{ ...deed, state: "done" }];
      return told ? [] : [{ ...deed, state: "refused", problem: reply.problem }];
    };
    const after = left();
    // what was done stays written down until a page shows it: a reload in between may have been drawn before
    // it
    if (after[0]) this.keep(after[0]);
    else this.forget(deed.id);
    this.set({ held: null, deeds: this.state.deeds.flatMap((d) => (d.id === deed.id ? after : [d])) });
    asker?.settle(reply);
  }

  private set(state: QueueState): void {
    this.state = state;
    for (const listener of [...this.listeners]) listener();
  }

  private keep(deed: QueuedDeed): void {
    if (SECRET.has(deed.deed)) return;
    try {
      this.doors.store().setItem(PREFIX + deed.id, JSON.stringify(deed));
    } catch {
      // a full or forbidden store: it waits in this page only
    }
  }
  private forget(id: string): void {
    this.doors.store().removeItem(PREFIX + id);
  }

  private wentOut(id: string): boolean {
    const kept = this.doors.store().getItem(PREFIX + id);
    return kept === null || (JSON.parse(kept) as QueuedDeed).state === "done";
  }

  private stored(): QueuedDeed[] {
    const store = this.doors.store();
    const keys = Array.from({ length: store.length }, (_, i) => store.key(i)).filter((k) =>
      k?.startsWith(PREFIX),
    );
    return keys.flatMap((key): QueuedDeed[] => {
      try {
        return [JSON.parse(store.getItem(key!)!) as QueuedDeed];
      } catch {
        return []; // not ours, or cut short
      }
    });
  }
}

async function post(deed: QueuedDeed): Promise<Sent> {
  try {
    const response = await fetch(`/api/do/${deed.deed}`, {
      method: "POST",
      signal: AbortSignal.timeout(ANSWER_MS),
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({
        requestId: deed.id,
        input: deed.input,
        by: deed.by.id,
        practice: deed.practice,
      }),
    });
    return { reply: (await response.json()) as Reply };
  } catch {
    return "away";
  }
}

/** The queue of this page. */
export const deedQueue = new DeedQueue({
  post,
  store: () => localStorage,
  sleep: (ms) =>
    new Promise((resolve) => {
      const done = () => {
        clearTimeout(timer);
        window.removeEventListener("online", done);
        resolve();
      };
      const timer = setTimeout(done, ms);
      window.addEventListener("online", done);
    }),
  alone: (work) =>
    navigator.locks ? (navigator.locks.request("birdcage-deeds", work) as ReturnType<typeof work>) : work(),
  newId: () => crypto.randomUUID(),
  now: () => Date.now(),
});
