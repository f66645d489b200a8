import type { Reply } from "@/contract/refusals";
import { DeedQueue, type QueuedDeed, type Sent } from "./deed-queue";

/** The queue against a slow, refusing, vanishing server and a browser's store, all made up here. */

const BRAM = { id: "00000000-0000-4000-8000-000000000001", name: "bram" };
const OONA = { id: "00000000-0000-4000-8000-000000000002", name: "oona" };
const DONE: Reply = { ok: true, value: {} };
const refused = (code: "closed" | "busy" | "away" | "signed-out" | "other-person"): Reply => ({
  ok: false,
  problem: { code },
});

class MemoryStore {
  private readonly map = new Map<string, string>();
  get length() {
    return this.map.size;
  }
  key = (i: number) => [...this.map.keys()][i] ?? null;
  getItem = (k: string) => this.map.get(k) ?? null;
  setItem = (k: string, v: string) => void this.map.set(k, v);
  removeItem = (k: string) => void this.map.delete(k);
  all = () => [...this.map.values()];
}

/** A server whose answers are given one by one by the test, in the order in which it was asked. */
class Server {
  readonly asked: QueuedDeed[] = [];
  private readonly waiting: ((sent: Sent) => void)[] = [];
  post = (deed: QueuedDeed): Promise<Sent> => {
    this.asked.push(deed);
    return new Promise((resolve) => this.waiting.push(resolve));
  };
  async answer(sent: Reply | "away"): Promise<void> {
    this.waiting.shift()!(sent === "away" ? sent : { reply: sent });
    await settled();
  }
}
const settled = () => new Promise((resolve) => setImmediate(resolve));

function pageOf(store: MemoryStore, server: Server) {
  let n = 0;
  const slept: number[] = [];
  const queue = new DeedQueue({
    post: server.post,
    store: () => store,
    sleep: (ms) => {
      slept.push(ms);
      return settled().then(() => undefined);
    },
    alone: (work) => work(),
    newId: () => `${store.length}-${++n}`,
    now: () => 1000,
  });
  return { queue, slept };
}

let store: MemoryStore;
let server: Server;
beforeEach(() => {
  store = new MemoryStore();
  server = new Server();
});
const here = () => true;
const gone = () => false;
const check = (functionId: string, result = "pass") => ({ unitId: "u", functionId, result, note: "" });
const statesOf = (queue: DeedQueue) => queue.snapshot().deeds.map((d) => d.state);

test("ten answers given at once are all done, one after another, in the order of the hands", async () => {
  const { queue } = pageOf(store, server);
  queue.begin(BRAM, false);
  const outcomes = Array.from({ length: 10 }, (_, i) => queue.add("function.check", check(`f${i}`), here)!);
  expect(statesOf(queue)).toEqual(Array(10).fill("waiting")); // shown at once
  expect(server.asked).toHaveLength(1);
  for (let i = 0; i < 10; i++) {
    expect(server.asked).toHaveLength(i + 1);
    await server.answer(DONE);
  }
  expect(server.asked.map((d) => (d.input as { functionId: string }).functionId)).toEqual(
    Array.from({ length: 10 }, (_, i) => `f${i}`),
  );
  expect(await Promise.all(outcomes)).toEqual(Array(10).fill(DONE));
  // until the page shows the new state they still count as on their way
  expect(statesOf(queue)).toEqual(Array(10).fill("done"));
  expect(store.length).toBe(10);
  queue.shown(queue.snapshot().deeds.map((d) => d.id));
  expect(queue.snapshot().deeds).toEqual([]);
  expect(store.length).toBe(0);
});

test("it is quiet when nothing of this person waits or is about to be drawn; what another left here disturbs nobody", async () => {
  const { queue } = pageOf(store, server);
  queue.begin(OONA, false);
  void queue.add("function.check", check("left by oona"), gone);
  expect(queue.isQuiet()).toBe(false);
  const own = new Server();
  const { queue: page } = pageOf(store, own);
  page.begin(BRAM, false);
  expect(page.isQuiet()).toBe(true);
  void page.add("function.check", check("a"), here);
  expect(page.isQuiet()).toBe(false);
  await settled();
  await own.answer(DONE);
  expect(statesOf(page)).toContain("done");
  expect(page.isQuiet()).toBe(false); // the page is drawn anew just now
  page.shown(page.snapshot().deeds.map((d) => d.id));
  expect(page.isQuiet()).toBe(true);
  void page.add("function.check", check("b"), here);
  await settled();
  await own.answer(refused("signed-out"));
  expect(page.isQuiet()).toBe(true); // nothing goes out meanwhile
});

test("a finger that hits twice is one act; the same again after another is one more", () => {
  const { queue } = pageOf(store, server);
  queue.begin(BRAM, false);
  expect(queue.add("function.check", check("a"), here)).not.toBeNull();
  expect(queue.add("function.check", check("a"), here)).toBeNull();
  expect(queue.add("function.check", check("a", "fail"), here)).not.toBeNull();
  expect(queue.add("function.check", check("a"), here)).not.toBeNull();
  expect(queue.snapshot().deeds).toHaveLength(3);
});

test("one that is refused is told, and the ones after it are done all the same", async () => {
  const { queue } = pageOf(store, server);
  queue.begin(BRAM, false);
  const first = queue.add("function.check", check("a"), here);
  const second = queue.add("function.check", check("b"), here);
  await server.answer(refused("closed"));
  await server.answer(DONE);
  expect(await first).toEqual(refused("closed"));
  expect(await second).toEqual(DONE);
  expect(statesOf(queue)).toEqual(["done"]);
});

test("a refusal whose page has gone is kept to be read, over a reload too, until somebody has read it", async () => {
  const { queue } = pageOf(store, server);
  queue.begin(BRAM, false);
  void queue.add("function.check", check("a"), gone);
  await server.answer(refused("closed"));
  expect(queue.snapshot().deeds).toMatchObject([{ state: "refused", problem: { code: "closed" } }]);
  const later = pageOf(store, new Server()).queue;
  later.begin(BRAM, false);
  expect(statesOf(later)).toEqual(["refused"]);
  later.discard(later.snapshot().deeds[0]!.id);
  expect(store.length).toBe(0);
});

test("a reload with ten waiting sends them all, each under its first id", async () => {
  const { queue } = pageOf(store, server);
  queue.begin(BRAM, false);
  for (let i = 0; i < 10; i++) void queue.add("function.check", check(`f${i}`), here);
  const ids = queue.snapshot().deeds.map((d) => d.id);
  const after = new Server();
  const { queue: next } = pageOf(store, after);
  next.begin(BRAM, false);
  await settled();
  for (let i = 0; i < 10; i++) await after.answer(DONE);
  expect(after.asked.map((d) => d.id)).toEqual(ids);
  next.shown(ids);
  expect(store.length).toBe(0);
});

test("while nobody answers it waits and tries again, longer each time, and says so", async () => {
  const { queue, slept } = pageOf(store, server);
  queue.begin(BRAM, false);
  const asked = queue.add("function.check", check("a"), here);
  for (let i = 0; i < 5; i++) {
    await server.answer("away");
    expect(queue.snapshot().held).toBe("away");
    await settled();
  }
  expect(slept).toEqual([500, 1000, 2000, 4000, 4000]);
  await server.answer(DONE);
  expect(await asked).toEqual(DONE);
  expect(queue.snapshot().held).toBeNull();
  expect(new Set(server.asked.map((d) => d.id)).size).toBe(1);
});

test("an answer that the records are out of reach is no refusal: it waits, and goes out again as often as it takes", async () => {
  const { queue } = pageOf(store, server);
  queue.begin(BRAM, false);
  const asked = queue.add("function.check", check("a"), here);
  for (let i = 0; i < 7; i++) {
    await server.answer(refused("away"));
    await settled();
    expect(queue.snapshot()).toMatchObject({ held: "away", deeds: [{ state: "waiting" }] });
  }
  await server.answer(DONE);
  expect(await asked).toEqual(DONE);
  expect(queue.snapshot().held).toBeNull();
});

test("a busy server is asked three times, then its answer stands and the next one goes on", async () => {
  const { queue } = pageOf(store, server);
  queue.begin(BRAM, false);
  const asked = queue.add("function.check", check("a"), here);
  const next = queue.add("function.check", check("b"), here);
  for (let i = 0; i < 3; i++) {
    await server.answer(refused("busy"));
    await settled();
  }
  expect(await asked).toEqual(refused("busy"));
  await server.answer(DONE);
  expect(await next).toEqual(DONE);
});

describe("signed out in the middle", () => {
  test("they wait, and go out when the same person is back", async () => {
    const { queue } = pageOf(store, server);
    queue.begin(BRAM, false);
    for (let i = 0; i < 10; i++) void queue.add("function.check", check(`f${i}`), here);
    await server.answer(refused("signed-out"));
    expect(queue.snapshot().held).toBe("signed-out");
    expect(await queue.drained()).toBe("held");
    expect(server.asked).toHaveLength(1);
    queue.wake();
    await settled();
    for (let i = 0; i < 10; i++) await server.answer(DONE);
    expect(await queue.drained()).toBe("sent");
    expect(server.asked.slice(1).map((d) => (d.input as { functionId: string }).functionId)).toHaveLength(10);
  });

  test("somebody else who signs in sends nothing of theirs, and sees that it waits", async () => {
    const { queue } = pageOf(store, server);
    queue.begin(BRAM, false);
    void queue.add("function.check", check("a"), here);
    const others = new Server();
    const { queue: page } = pageOf(store, others);
    page.begin(OONA, false);
    await settled();
    expect(others.asked).toEqual([]);
    expect(page.snapshot().deeds).toMatchObject([{ by: BRAM, state: "waiting" }]);
    // nor does a page that still thinks it is hers: the server refuses, and it is held
    await server.answer(refused("other-person"));
    expect(queue.snapshot().held).toBe("signed-out");
    expect(store.length).toBe(1);
  });
});

test("what was done at the practice bench never reaches the workshop's own records", async () => {
  const { queue } = pageOf(store, server);
  queue.begin(BRAM, true);
  void queue.add("function.check", check("a"), here);
  const own = new Server();
  const { queue: page } = pageOf(store, own);
  page.begin(BRAM, false);
  await settled();
  expect(own.asked).toEqual([]);
});

test("a password is never written down in the browser", async () => {
  const { queue } = pageOf(store, server);
  queue.begin(BRAM, false);
  const asked = queue.add(
    "person.change-password",
    { current: "reed-secret-1", next: "reed-secret-2" },
    gone,
  );
  expect(store.all().join()).not.toContain("secret");
  await server.answer(refused("closed"));
  await asked;
  expect(store.all().join()).not.toContain("secret");
});

test("another page of the browser sends what an earlier one left, once", async () => {
  const { queue } = pageOf(store, server);
  queue.begin(BRAM, false);
  void queue.add("function.check", check("a"), here);
  const second = new Server();
  const { queue: page } = pageOf(store, second);
  await server.answer(DONE); // the first page got there before
  page.begin(BRAM, false);
  await settled();
  expect(second.asked).toEqual([]);
  // its page may have been drawn before the deed: it stands as done until this page was drawn anew
  expect(statesOf(page)).toEqual(["done"]);
  page.shown(page.snapshot().deeds.map((d) => d.id));
  expect(page.snapshot().deeds).toEqual([]);
  expect(store.length).toBe(0);
});

test("a store that takes nothing keeps the act in the page", async () => {
  store.setItem = () => {
    throw new Error("full");
  };
  const { queue } = pageOf(store, server);
  queue.begin(BRAM, false);
  const asked = queue.add("function.check", check("a"), here);
  await server.answer(DONE);
  expect(await asked).toEqual(DONE);
});
