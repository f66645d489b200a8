import "server-only";

import { Refused } from "@/platform/deed/base";
import { offThread, TooMuchWork } from "@/platform/work/pool";
import type { PAPERS } from "@/print/papers";

const MOST_SECONDS = 30;

/** A paper, set on another thread; refused in words where it is more than any paper needs. */
export async function onPaper<N extends keyof typeof PAPERS>(
  name: N,
  input: Parameters<(typeof PAPERS)[N]>[0],
): Promise<Uint8Array> {
  try {
    return await offThread(name, input, MOST_SECONDS);
  } catch (error) {
    if (error instanceof TooMuchWork) throw new Refused({ code: "too-large", limit: "one paper at a time" });
    throw error;
  }
}
