import "server-only";

import type { Knex } from "knex";

import type { Settings } from "@/contract/deeds";
import { nothing, Refused } from "@/platform/deed/base";
import { loadSettings, saveValue, validZone } from "./settings";
import { deed } from "@/platform/deed/declare";
import { say } from "@/features/people/words/words";

/** The shop's own settings, and what follows from a change of them. */

export const saveSettings = deed(
  "settings.save",
  { units: ({ settings }, db) => unitsUnderRules(settings, db) },
  async ({ db, note }, { version, settings }) => {
    if (!validZone(settings.timeZone, settings.locale, settings.currency))
      throw new Refused({
        code: "bad-input",
        issues: [{ path: "timeZone", message: say("timeZoneLocaleOrCurrencyIs") }],
      });
    const { settings: was } = await loadSettings(db);
    await saveValue(db, "shop", version, settings);
    note("settings-saved", null, { version: version + 1 });
    if (rulesOfRelease(was) !== rulesOfRelease(settings))
      note("rules-changed", null, { floor: settings.floor, prove: settings.prove });
    return nothing;
  },
);

/** What the stage of a unit rests on besides its own record. */
const rulesOfRelease = ({ floor, prove }: Settings): string => JSON.stringify([floor, prove]);

/** Every open unit's stage follows the shop's new rules. */
async function unitsUnderRules(next: Settings, db: Knex): Promise<string[]> {
  const { settings: was } = await loadSettings(db);
  return rulesOfRelease(was) === rulesOfRelease(next) ? [] : db("unit").whereNull("ending").pluck("id");
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [saveSettings] as const;
