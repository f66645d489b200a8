import { readFileSync } from "node:fs";
import { join } from "node:path";

import { SETTINGS_DEEDS } from "@/contract/settings";
import { HOUSE_LIMITS } from "@/core/grade/limits";
import { type ModelProfile, profileSchema } from "@/core/profile/profile";

/** What a page is given in the component tests: shipped models, and a shop of its own. */

export const modelOf = (id: string): ModelProfile =>
  profileSchema.parse(JSON.parse(readFileSync(join(__dirname, `../../profiles/${id}.json`), "utf8")));

export const SHOP = SETTINGS_DEEDS["settings.save"].input.shape.settings.parse({
  shopName: "Weir Street Repairs",
  town: "Ostermouth",
  currency: "EUR",
  locale: "en-IE",
  timeZone: "Europe/Dublin",
  floor: "B",
  warrantyDays: 90,
  labelWidthMm: 40,
  labelHeightMm: 20,
  limits: HOUSE_LIMITS,
});
