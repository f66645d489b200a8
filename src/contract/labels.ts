import { found } from "@/core/base/finding";
import { z } from "@/core/base/schema";

import { LABEL_KINDS } from "@/core/labels/layout";

/** What a request for labels says: of what, which, how large, and one by one or on a sheet. */
export const labelRequestSchema = z.object({
  kind: z.enum(LABEL_KINDS),
  codes: z
    .string()
    .max(6000)
    .transform((t) => t.split(",").filter(Boolean))
    .pipe(
      z.array(z.string().regex(/^[A-Za-z0-9-]{1,40}$/, found({ rule: "letters", of: "mixed" }))).max(300),
    ),
  w: z.coerce.number().min(15).max(120).optional(),
  h: z.coerce.number().min(10).max(120).optional(),
  sheet: z.enum(["0", "1"]).default("0"),
});
