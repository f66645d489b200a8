import { z } from "@/core/base/schema";

import { PROOF_RESULTS } from "@/core/prove/proof";
import { CARES } from "@/core/prove/care";
import { CONDITIONS } from "@/core/grade/condition";
import { MAKES } from "@/core/profile/slots";
import { type Disclosure, disclosureSchema } from "@/core/prove/disclosures";

/**
 * What a certificate says, as it stood on the day of release. Plain text and numbers: it must read the same
 * in ten years. Nothing of a customer and no cost. Version 2 added condition, parts, disclosures, care, plots
 * and the proof sheet, and is signed.
 */

const grade = z.enum(["A", "B", "C", "untested", "fail"]);
const figure = z.strictObject({
  measure: z.string(),
  value: z.string(),
  limit: z.string(),
  /** from what size on a defect would have shown; certificates of before it was told have none */
  seen: z.string().optional(),
  before: z.string().nullable(),
});
const points = z.array(z.tuple([z.number(), z.number()])).max(400);
/**
 * a stick's path along its edge, or a trigger's slowest pull over time, with what grade A reaches at least
 */
const curve = z.strictObject({ now: points, before: points, limit: z.number().nullable().default(null) });

export type { Disclosure };

export const certificateSchema = z.strictObject({
  v: z.union([z.literal(1), z.literal(2)]),
  /** makes the content, and so its address, one that nobody can guess */
  nonce: z.string().default(""),
  shop: z.strictObject({ name: z.string(), town: z.string() }),
  tag: z.string(),
  model: z.string(),
  revision: z.string().nullable(),
  grade,
  condition: z
    .strictObject({
      grade: z.enum(CONDITIONS),
      reasons: z.array(z.strictObject({ rule: z.string(), count: z.int() })),
    })
    .nullable()
    .default(null),
  releasedAt: z.string(),
  warrantyUntil: z.string().nullable(),
  warrantyDays: z.int().default(0),
  /** the longest of its fitted parts */
  partWarrantyDays: z.int().default(0),
  seal: z.string().default(""),
  limit: z.string(),
  limitReason: z.string(),
  /** the proof was not made here: who took it all the same, and why */
  proofTaken: z.strictObject({ by: z.string(), why: z.string() }).nullable().default(null),
  tester: z.strictObject({
    person: z.string(),
    label: z.string(),
    host: z.string(),
    source: z.string(),
    at: z.string(),
  }),
  controls: z.array(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      grade,
      figures: z.array(figure),
      curve: curve.nullable().default(null),
    }),
  ),
  functions: z.array(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      result: z.enum(["pass", "fail", "not-tested", "not-fitted"]),
      /** what was measured, with what, by whom and when */
      measured: z.string().default(""),
      with: z.string().default(""),
      by: z.string().default(""),
      at: z.string().nullable().default(null),
    }),
  ),
  proof: z
    .array(
      z.strictObject({
        key: z.string(),
        result: z.enum(PROOF_RESULTS),
        value: z.number().nullable(),
        by: z.string(),
        at: z.string(),
      }),
    )
    .default([]),
  work: z.array(z.strictObject({ what: z.string(), part: z.string() })),
  parts: z
    .array(
      z.strictObject({
        place: z.string(),
        name: z.string(),
        make: z.enum(MAKES).nullable(),
        used: z.boolean(),
        warrantyDays: z.int().nullable().default(null),
      }),
    )
    .default([]),
  disclosures: z.array(disclosureSchema).default([]),
  care: z.array(z.enum(CARES)).default([]),
  known: z.string(),
});
export type CertificateBody = z.infer<typeof certificateSchema>;

/** Whether what is shown is what was signed. */
export type SignatureState =
  | { state: "good"; kid: string; sha256: string; retired: boolean }
  | { state: "tampered" | "unknown-key" | "broken"; kid: string; sha256: string }
  | { state: "unsigned" };
