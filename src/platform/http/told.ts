import "server-only";

import type { Reply } from "@/contract/refusals";
import type { Actor } from "@/platform/deed/base";
import { problemOf } from "@/platform/deed/trouble";

/** Whoever asked went away or stopped it: the work ends, and nobody reads why. */
class Stopped extends Error {}

/**
 * An answer that takes a while, as lines of JSON (application/x-ndjson): each step when it is made, `{
 * "step": ... }`, and at the end the `{ "reply": ... }`. Whoever stops reading stops the work at its next
 * step.
 */
export function tellAsItGoes<S>(
  request: Request,
  about: { what: string; by: Actor },
  work: (tell: (step: S) => void) => Promise<Reply>,
): Response {
  let stopped = request.signal.aborted;
  const stop = () => void (stopped = true);
  request.signal.addEventListener("abort", stop);
  const lines = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    async start(out) {
      const put = (line: object) => out.enqueue(lines.encode(`${JSON.stringify(line)}\n`));
      const reply = await work((step) => {
        if (stopped) throw new Stopped();
        put({ step });
      }).catch((error: unknown): Reply | null =>
        error instanceof Stopped
          ? null
          : { ok: false, problem: problemOf(error, { what: about.what, by: about.by.id }) },
      );
      if (stopped || reply === null) return;
      put({ reply });
      out.close();
    },
    cancel: stop,
  });
  return new Response(body, {
    headers: { "Content-Type": "application/x-ndjson", "Cache-Control": "no-store" },
  });
}
