import { idOf, z } from "@/core/base/schema";
import { type Deeds, WORKERS } from "./roles";

/** What the deed of the bench takes: who is there, and at which unit. */

export const BENCH_DEEDS = {
  "bench.present": { roles: WORKERS, input: z.strictObject({ unitId: idOf("unit") }) },
} as const satisfies Deeds;
