import "server-only";

import type { Knex } from "knex";
import type { z } from "@/core/base/schema";

import { DEEDS, type Settings } from "@/contract/deeds";
import { toolsSchema } from "@/contract/settings";
import { NO_RULES } from "@/core/decide/house-rules";
import { HOUSE_LIMITS } from "@/core/grade/limits";
import { HOUSE_TOOLS } from "@/core/mend/tools";
import { HOUSE_RATES } from "@/core/money/rates";
import { HOUSE_RISK } from "@/core/parts/sampling";
import { HOUSE_PROVE } from "@/core/prove/proof";
import { onceIn, overtaken } from "@/platform/deed/base";
import type { SettingRow } from "@/platform/db/tables";
import { rowsBy } from "@/platform/db/batched";
import { rowsOf } from "@/platform/db/joined";

/**
 * What holds before the shop has said anything of itself: it has no name yet, and nothing is printed under
 * another's.
 */
const DEFAULTS: Settings = {
  shopName: "",
  town: "",
  currency: "EUR",
  locale: "en-IE",
  timeZone: "Europe/Dublin",
  floor: "B",
  warrantyDays: 90,
  idleHours: 12,
  labelWidthMm: 50,
  labelHeightMm: 25,
  limits: HOUSE_LIMITS,
  rates: HOUSE_RATES,
  risk: HOUSE_RISK,
  prove: HOUSE_PROVE,
  house: NO_RULES,
};

const settingOf = (db: Knex, key: string): Promise<Pick<SettingRow, "value" | "version"> | undefined> =>
  onceIn(db, `setting ${key}`, ["setting"], async () => (await settingBy(db, key))[0]);
/** Several settings that a change is about to read, in one question. */
export const settingsAhead = async (db: Knex, keys: readonly string[]): Promise<void> =>
  void (await Promise.all(keys.map((key) => settingOf(db, key))));
const settingBy = rowsBy((db, keys) =>
  rowsOf(db("setting as s").whereIn("s.key", keys), { s: "setting" }, "s.value", "s.version", "s.key as of"),
);

export async function loadSettings(db: Knex): Promise<{ settings: Settings; version: number }> {
  const row = await settingOf(db, "shop");
  if (!row) return { settings: DEFAULTS, version: 0 };
  return { settings: DEEDS["settings.save"].input.shape.settings.parse(row.value), version: row.version };
}

export const validZone = (timeZone: string, locale: string, currency: string): boolean => {
  try {
    new Intl.DateTimeFormat(locale, { timeZone });
    new Intl.NumberFormat(locale, { style: "currency", currency });
    return true;
  } catch {
    return false;
  }
};

const parsed = new WeakMap<object, unknown>();
/** A row that several get at the same moment is read once: each key has one schema. */
function parsedOnce<T>(row: { value: unknown }, schema: z.ZodType<T>): T {
  const value = parsed.has(row) ? (parsed.get(row) as T) : schema.parse(row.value);
  parsed.set(row, value);
  return value;
}

/** One value of the shop's own under a key, parsed by its schema; the house's where none was saved. */
export async function loadValue<T>(
  db: Knex,
  key: string,
  schema: z.ZodType<T>,
  house: T,
): Promise<{ value: T; version: number }> {
  const row = await settingOf(db, key);
  return row ? { value: parsedOnce(row, schema), version: row.version } : { value: house, version: 0 };
}

/** Saves it if nobody did meanwhile; version 0 is the first time. */
export async function saveValue(db: Knex, key: string, version: number, value: unknown): Promise<void> {
  const body = JSON.stringify(value);
  const done =
    version === 0
      ? await db("setting").insert({ key, value: body }).onConflict("key").ignore().returning("key")
      : await db("setting")
          .where({ key, version })
          .update({ value: body, version: version + 1 })
          .returning("key");
  if (done.length !== 1) throw overtaken();
}

/** The tools that the shop owns, by id. */
export const loadTools = (db: Knex) => loadValue(db, "tools", toolsSchema, HOUSE_TOOLS);
