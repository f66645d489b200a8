import { idOf, z } from "@/core/base/schema";
import { DISPOSITIONS } from "@/core/decide/ends";
import { text, version } from "./fields";
import { type Deeds, WORKERS } from "./roles";

/** What a decision takes. */

export const DECIDE_DEEDS = {
  "decision.take": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      version,
      disposition: z.enum(DISPOSITIONS),
      /** the first route when it is mended by another than the advised one */
      route: z.string().max(40).nullable(),
      why: text(400),
    }),
  },
} as const satisfies Deeds;
