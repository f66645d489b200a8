import { askLong, isStop, sendFile } from "./long-work";

/** What a page makes of an answer that comes in pieces, breaks off, or is stopped. */

const reach = globalThis.fetch;
afterEach(() => void (globalThis.fetch = reach));

function answers(pieces: string[], type = "application/x-ndjson"): void {
  const bytes = pieces.map((p) => new TextEncoder().encode(p));
  const body = new ReadableStream<Uint8Array>({
    pull: (out) => {
      const next = bytes.shift();
      if (next) out.enqueue(next);
      else out.close();
    },
  });
  globalThis.fetch = async () => new Response(body, { headers: { "Content-Type": type } });
}
const steps: unknown[] = [];
const ask = (signal = new AbortController().signal) => {
  steps.length = 0;
  return askLong("/api/archive/make", signal, (step) => steps.push(step));
};

test("lines that arrive in pieces are whole steps, and the reply is the last", async () => {
  answers(['{"step":{"done":1}}\n{"st', 'ep":{"done":2}}\n{"reply":{"ok":', 'true,"value":{"key":"k"}}}\n']);
  expect(await ask()).toEqual({ ok: true, value: { key: "k" } });
  expect(steps).toEqual([{ done: 1 }, { done: 2 }]);
});

test("an answer that breaks off is no success", async () => {
  answers(['{"step":{"done":1}}\n', '{"reply":{"ok":true']);
  expect(await ask()).toEqual({ ok: false, problem: { code: "busy" } });
});

test("a refusal before the work begins is that refusal; no line is out of reach", async () => {
  answers(['{"ok":false,"problem":{"code":"confirm-password"}}'], "application/json");
  expect(await ask()).toEqual({ ok: false, problem: { code: "confirm-password" } });
  globalThis.fetch = () => Promise.reject(new TypeError("no line"));
  expect(await ask()).toEqual({ ok: false, problem: { code: "away" } });
});

test("what was stopped before it is sent is not sent", async () => {
  const stop = new AbortController();
  stop.abort();
  const sent = sendFile("/api/recordings", new Blob(["x"]), {}, stop.signal, () => {});
  expect(isStop(await sent.catch((error: unknown) => error))).toBe(true);
});
