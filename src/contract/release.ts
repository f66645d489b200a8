import { idOf, z } from "@/core/base/schema";
import { ENDINGS } from "@/core/record/standing";
import { day, line, minor, text, version } from "./fields";
import { type Deeds, LEADS, WORKERS } from "./roles";

/** What the deeds about releasing, other endings, handing over and coming back take. */

export const HANDOVERS = ["sold", "returned"] as const;

export type HandoverKind = (typeof HANDOVERS)[number];

export const RELEASE_DEEDS = {
  "unit.end": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      version,
      kind: z.enum(ENDINGS).exclude(["released"]),
      known: line(1000),
      priceMinor: minor.nullable(),
    }),
  },
  "unit.reopen": { roles: LEADS, input: z.strictObject({ unitId: idOf("unit"), version, why: line(300) }) },
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
  "certificate.revoke": {
    roles: LEADS,
    input: z.strictObject({ certificateId: idOf("certificate"), why: line(300) }),
  },
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
      /** our own seal as it is read: its number, or that it is broken or gone */
      sealRead: text(40).default(""),
      sealBroken: z.boolean().default(false),
    }),
  },
} as const satisfies Deeds;
