import { idOf, z } from "@/core/base/schema";
import { PROOF_RESULTS } from "@/core/prove/proof";
import { line, text, version } from "./fields";
import { type Deeds, WORKERS } from "./roles";

/** What the deeds of the Prove station take, and damage on the way. */

export const PROVE_DEEDS = {
  "damage.add": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      place: line(60),
      what: line(200),
      clipLost: z.boolean(),
      stillFirm: z.boolean().nullable(),
    }),
  },
  "damage.make-good": {
    roles: WORKERS,
    input: z.strictObject({ damageId: idOf("damage"), version: version, how: line(200) }),
  },
  "proof.answer": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      key: z.string().max(40),
      result: z.enum(PROOF_RESULTS),
      /** the charge as a share of full, for the item that asks for it */
      value: z.number().min(0).max(1).nullable().default(null),
      note: text(300).default(""),
    }),
  },
} as const satisfies Deeds;
