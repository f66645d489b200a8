import { idOf, z } from "@/core/base/schema";
import { line, text } from "./fields";
import { type Deeds, WORKERS } from "./roles";

/** What the deeds about waits take: soaks, drying, curing, charging. */

export const WAIT_KINDS = ["soak", "dry", "cure", "charge", "air", "other"] as const;

export type WaitKind = (typeof WAIT_KINDS)[number];

export const WAIT_DEEDS = {
  "wait.start": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit").nullable(),
      kind: z.enum(WAIT_KINDS),
      what: line(80),
      minutes: z.number().min(0.05).max(20_160),
    }),
  },
  "wait.move": {
    roles: WORKERS,
    input: z.strictObject({ waitId: idOf("wait"), minutes: z.number().min(-20_160).max(20_160) }),
  },
  "wait.seen": { roles: WORKERS, input: z.strictObject({ waitId: idOf("wait"), outcome: text(200) }) },
} as const satisfies Deeds;
