import { proxy, type Remote, wrap } from "comlink";

import type { PlanWorkerApi } from "./plan-worker";

/** A solver of its own for each asking, so that it can be ended in the middle. */
export function planner(): { api: Remote<PlanWorkerApi>; end: () => void } {
  const worker = new Worker(new URL("./plan-worker.ts", import.meta.url), { type: "module" });
  return { api: wrap<PlanWorkerApi>(worker), end: () => worker.terminate() };
}

export { proxy };
