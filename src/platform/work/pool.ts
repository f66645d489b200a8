import "server-only";

import type { PAPERS } from "@/print/papers";
import { TASKS } from "./tasks";

/** Runs heavy tasks on other threads, so that one person's file never holds up another person's page. */

type Pool = {
  run(task: { name: string; input: unknown }, options: { signal: AbortSignal }): Promise<unknown>;
};
/**
 * set by the server (server/main.mjs); command-line tools and tests of the database have one thread and
 * nobody waits for them
 */
const held = globalThis as { birdcageWorkers?: Pool };

/** Whoever asked for it stopped it. Its thread was ended. */
export class Stopped extends Error {}
/** The task took longer, or more memory, than any honest input needs. Its thread was ended. */
export class TooMuchWork extends Error {}

type Tasks = typeof TASKS & typeof PAPERS;
type TaskName = keyof Tasks;

/** On this thread; what lays out paper is loaded when the first paper is asked for. */
async function here(name: TaskName, input: unknown): Promise<unknown> {
  const tasks = name in TASKS ? TASKS : (await import("@/print/papers")).PAPERS;
  return (tasks as Record<string, (input: unknown) => unknown>)[name]!(input);
}

export async function offThread<N extends TaskName>(
  name: N,
  input: Parameters<Tasks[N]>[0],
  seconds: number,
  stop?: AbortSignal,
): Promise<Awaited<ReturnType<Tasks[N]>>> {
  type Out = Awaited<ReturnType<Tasks[N]>>;
  if (!held.birdcageWorkers) return (await here(name, input)) as Out;
  const late = AbortSignal.timeout(seconds * 1000);
  try {
    return (await held.birdcageWorkers.run(
      { name, input },
      { signal: stop ? AbortSignal.any([late, stop]) : late },
    )) as Out;
  } catch (error) {
    if (stop?.aborted) throw new Stopped(name);
    const { name: kind, code } = error as { name?: string; code?: string };
    if (kind === "AbortError" || kind === "TimeoutError" || code === "ERR_WORKER_OUT_OF_MEMORY")
      throw new TooMuchWork(name);
    throw error;
  }
}
