import { z } from "zod";

import { GRADES } from "@/core/grade/grade";

/** What a certificate states, as it was on the day: no customer, no cost, no seller. */

const grade = z.enum(GRADES);
const figure = z.strictObject({ measure: z.string(), value: z.string(), limit: z.string(), before: z.string().nullable() });

export const certificateSchema = z.strictObject({
  v: z.literal(1),
  shop: z.strictObject({ name: z.string(), town: z.string() }),
  tag: z.string(),
  model: z.string(),
  revision: z.string().nullable(),
  grade,
  releasedAt: z.string(),
  warrantyUntil: z.string().nullable(),
  limit: z.string(),
  limitReason: z.string(),
  tester: z.strictObject({ person: z.string(), label: z.string(), host: z.string(), source: z.string(), at: z.string() }),
  controls: z.array(z.strictObject({ id: z.string(), name: z.string(), grade, figures: z.array(figure) })),
  functions: z.array(
    z.strictObject({ id: z.string(), name: z.string(), result: z.enum(["pass", "fail", "not-tested", "not-fitted"]) }),
  ),
  work: z.array(z.strictObject({ what: z.string(), part: z.string() })),
  known: z.string(),
});
export type CertificateBody = z.infer<typeof certificateSchema>;
