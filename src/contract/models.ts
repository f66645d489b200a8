import { z } from "@/core/base/schema";
import { FAMILIES } from "@/core/decide/families";
import { routesSchema } from "@/core/decide/routes";
import { profileSchema } from "@/core/profile/profile";
import { marketSchema } from "@/core/profile/slots";
import { text, versionOrNone } from "./fields";
import { type Deeds, LEADS, WORKERS } from "./roles";

/** What the deeds about models and their routes and money take. */

export const MODELS_DEEDS = {
  "profile.import": { roles: WORKERS, input: z.strictObject({ profile: profileSchema }) },
  "routes.save": { roles: LEADS, input: z.strictObject({ version: versionOrNone, routes: routesSchema }) },
  "model.save-money": {
    roles: LEADS,
    input: z.strictObject({
      key: z.string().max(60),
      version: versionOrNone,
      market: marketSchema,
      rules: z
        .array(
          z.strictObject({
            family: z.enum(FAMILIES),
            also: z.enum(FAMILIES).nullable(),
            route: z.string().max(40),
            why: text(200),
          }),
        )
        .max(40),
    }),
  },
} as const satisfies Deeds;
