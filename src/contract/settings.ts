import { found } from "@/core/base/finding";
import { z } from "@/core/base/schema";
import { lexiconSchema } from "@/core/claim/lexicon";
import { GRADES } from "@/core/grade/grade";
import { limitsSchema } from "@/core/grade/limits";
import { houseRulesSchema, NO_RULES } from "@/core/decide/house-rules";
import { HOUSE_RATES, ratesSchema } from "@/core/money/rates";
import { HOUSE_RISK, riskSchema } from "@/core/parts/sampling";
import { HOUSE_PROVE, proveSchema } from "@/core/prove/proof";
import { line, slug, text, versionOrNone } from "./fields";
import { type Deeds, LEADS } from "./roles";

/** What the shop sets for itself: its settings, tools and words of complaints. */

/** Tools that the shop owns, by id. */
export const toolsSchema = z.array(slug).max(200);

export const SETTINGS_DEEDS = {
  "lexicon.save": { roles: LEADS, input: z.strictObject({ version: versionOrNone, lexicon: lexiconSchema }) },
  "settings.save": {
    roles: LEADS,
    input: z.strictObject({
      version: versionOrNone,
      settings: z.strictObject({
        shopName: line(80),
        town: text(80),
        currency: z.string().regex(/^[A-Z]{3}$/, found({ rule: "letters", of: "currency" })),
        locale: z.string().min(2).max(20),
        timeZone: z.string().min(1).max(60),
        floor: z.enum(GRADES).extract(["A", "B", "C"]),
        warrantyDays: z.int().min(0).max(3650),
        /** after how many hours without anybody a browser is signed out */
        idleHours: z.number().min(0.25).max(336).default(12),
        labelWidthMm: z.number().min(15).max(120),
        labelHeightMm: z.number().min(10).max(120),
        limits: limitsSchema,
        rates: ratesSchema.prefault(HOUSE_RATES),
        /** the risks that the shop bears at incoming inspection */
        risk: riskSchema.prefault(HOUSE_RISK),
        /** what the shop does not do, whatever it would bring */
        house: houseRulesSchema.prefault(NO_RULES),
        /** what a proof asks beside the test, and how the shop stands behind it */
        prove: proveSchema.prefault(HOUSE_PROVE),
      }),
    }),
  },
  "tools.save": { roles: LEADS, input: z.strictObject({ version: versionOrNone, tools: toolsSchema }) },
} as const satisfies Deeds;
