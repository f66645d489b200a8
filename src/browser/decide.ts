import { type Remote, wrap } from "comlink";

import type { DecideWorkerApi } from "./decide-worker";

/** One worker a page; it is made when first asked and ends with the page. */
let remote: Remote<DecideWorkerApi> | null = null;

export function decider(): Remote<DecideWorkerApi> {
  remote ??= wrap<DecideWorkerApi>(
    new Worker(new URL("./decide-worker.ts", import.meta.url), { type: "module" }),
  );
  return remote;
}
