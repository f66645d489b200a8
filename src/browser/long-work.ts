import type { Reply } from "@/contract/refusals";

/**
 * Work at the server for which somebody waits: how far it is, and stopped when its signal says so (then it
 * throws an AbortError).
 */

const AWAY: Reply = { ok: false, problem: { code: "away" } };
const BROKEN_OFF: Reply = { ok: false, problem: { code: "busy" } };

/** Asks for what is told as it goes (door/told). */
export async function askLong<S>(
  url: string,
  signal: AbortSignal,
  onStep: (step: S) => void,
): Promise<Reply> {
  const response = await fetch(url, { method: "POST", signal }).catch(aborted(signal));
  if (!response) return AWAY;
  if (!response.body || !response.headers.get("content-type")?.includes("ndjson"))
    return (await response.json()) as Reply;
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (;;) {
    const { value, done } = await reader.read().catch((error: unknown) => {
      signal.throwIfAborted();
      throw error;
    });
    if (done) return BROKEN_OFF;
    const lines = (rest + value).split("\n");
    rest = lines.pop() ?? "";
    for (const line of lines) {
      const told = JSON.parse(line) as { step: S } | { reply: Reply };
      if ("reply" in told) return told.reply;
      onStep(told.step);
    }
  }
}

/**
 * Sends a file; `onSent` says which share of it is at the server (0 to 1), where reading it begins once all
 * of it is.
 */
export function sendFile(
  url: string,
  body: Blob,
  headers: Record<string, string>,
  signal: AbortSignal,
  onSent: (share: number) => void,
): Promise<Reply> {
  return new Promise((resolve, reject) => {
    signal.throwIfAborted(); // stopped while the file was packed
    const request = new XMLHttpRequest(); // fetch does not say how far a body is
    request.open("POST", url);
    for (const [name, value] of Object.entries(headers)) request.setRequestHeader(name, value);
    request.upload.onprogress = (e) => e.lengthComputable && onSent(e.loaded / e.total);
    request.onload = () => {
      try {
        resolve(JSON.parse(request.responseText) as Reply);
      } catch {
        resolve(BROKEN_OFF);
      }
    };
    request.onerror = () => resolve(AWAY);
    request.onabort = () => reject(new DOMException("stopped", "AbortError"));
    signal.addEventListener("abort", () => request.abort());
    request.send(body);
  });
}

const aborted = (signal: AbortSignal) => (): null => {
  signal.throwIfAborted();
  return null;
};
export const isStop = (error: unknown): boolean =>
  error instanceof DOMException && error.name === "AbortError";
