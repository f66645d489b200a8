import "server-only";

import type { Knex } from "knex";

import { DEEDS, type Settings } from "@/contract/deeds";
import { HOUSE_LIMITS } from "@/core/grade/limits";
import { type Deed, note, nothing, Refused } from "./base";

const DEFAULTS: Settings = {
  shopName: "Reedbed Controller Works",
  town: "Oxmere",
  currency: "EUR",
  locale: "en-IE",
  timeZone: "Europe/Dublin",
  floor: "B",
  warrantyDays: 90,
  labelWidthMm: 50,
  labelHeightMm: 25,
  limits: HOUSE_LIMITS,
};

export async function loadSettings(db: Knex): Promise<{ settings: Settings; version: number }> {
  const row = await db("setting").where({ key: "shop" }).first("value", "version");
  if (!row) return { settings: DEFAULTS, version: 0 };
  return { settings: DEEDS["settings.save"].input.shape.settings.parse(row.value), version: row.version };
}

const validZone = (timeZone: string, locale: string, currency: string): boolean => {
  try {
    new Intl.DateTimeFormat(locale, { timeZone });
    new Intl.NumberFormat(locale, { style: "currency", currency });
    return true;
  } catch {
    return false;
  }
};

export const saveSettings: Deed<"settings.save"> = async (db, actor, { version, settings }) => {
  if (!validZone(settings.timeZone, settings.locale, settings.currency))
    throw new Refused({
      code: "bad-input",
      issues: [{ path: "timeZone", message: "time zone, locale or currency is not known" }],
    });
  const value = JSON.stringify(settings);
  const done =
    version === 0
      ? await db("setting").insert({ key: "shop", value }).onConflict("key").ignore().returning("key")
      : await db("setting")
          .where({ key: "shop", version })
          .update({ value, version: version + 1 })
          .returning("key");
  if (done.length !== 1) throw new Refused({ code: "changed-meanwhile", by: "someone else", at: new Date().toISOString() });
  await note(db, actor, "settings-saved", null, { version: version + 1 });
  return nothing;
};
