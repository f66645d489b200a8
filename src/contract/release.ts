import { idOf, z } from "@/core/base/schema";
import { day, minor, version } from "./fields";

import { PROOF_RESULTS } from "@/core/prove/proof";

/** What the deeds about proving, releasing, handing over and coming back take. */

const line = (max: number) => z.string().trim().min(1).max(max);
const text = (max: number) => z.string().trim().max(max);
const WORKERS = ["technician", "lead"] as const;
const LEADS = ["lead"] as const;

export const HANDOVERS = ["sold", "returned"] as const;
export type HandoverKind = (typeof HANDOVERS)[number];

export const RELEASE_DEEDS = {
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
  "unit.release": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      version,
      priceMinor: minor.nullable(),
      warrantyDays: z.int().min(0).max(3650),
      /** warranty of fitted parts by their id; the house's days for those that are not named */
      partDays: z.record(idOf("fitted"), z.int().min(0).max(3650)).default({}),
      known: text(1000),
      limit: text(300),
      reason: text(600),
      /** the number of the shop's own seal, when one is put on */
      seal: text(40).default(""),
    }),
  },
  "certificate.revoke": { roles: LEADS, input: z.strictObject({ certificateId: idOf("certificate"), why: line(300) }) },
  "unit.hand-over": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      kind: z.enum(HANDOVERS),
      channel: text(80),
      priceMinor: minor.nullable(),
      feesMinor: minor.default(0),
      handedOn: day,
      /** to whom, for a letter or a call later; never on anything public */
      buyer: text(80).default(""),
      contact: text(200).default(""),
    }),
  },
  "unit.came-back": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      version,
      mendId: idOf("mend").nullable(),
      /** the fitted part that it points to */
      fittedId: idOf("fitted").nullable().default(null),
      words: line(600),
    }),
  },
  "feed.make": { roles: WORKERS, input: z.strictObject({ name: line(60) }) },
  "feed.revoke": { roles: WORKERS, input: z.strictObject({ feedId: idOf("feed") }) },
} as const;
