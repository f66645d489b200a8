import { z } from "@/core/base/schema";

import { LABEL_KINDS } from "@/core/labels/layout";

/** What a request for labels says: of what, which, how large, and one by one or on a sheet. */
export const labelRequestSchema = z.object({
  kind: z.enum(LABEL_KINDS),
  codes: z
    .string()
    .max(6000)
    .transform((t) => t.split(",").filter(Boolean))
    .pipe(z.array(z.string().regex(/^[A-Za-z0-9-]{1,40}$/, "codes of letters, digits and hyphens")).max(300)),
  w: z.coerce.number().min(15, "15 to 120 mm wide").max(120, "15 to 120 mm wide").optional(),
  h: z.coerce.number().min(10, "10 to 120 mm high").max(120, "10 to 120 mm high").optional(),
  sheet: z.enum(["0", "1"]).default("0"),
});
