import "server-only";

import type { Knex } from "knex";

import type { Settings } from "@/contract/deeds";
import { type Deed, note, nothing, Refused } from "./base";
import { refreshStanding } from "./facts";
import { loadSettings, saveValue, validZone } from "./settings";

/** The shop's own settings, and what follows from a change of them. */

export const saveSettings: Deed<"settings.save"> = async (db, actor, { version, settings }) => {
  if (!validZone(settings.timeZone, settings.locale, settings.currency))
    throw new Refused({
      code: "bad-input",
      issues: [{ path: "timeZone", message: "time zone, locale or currency is not known" }],
    });
  const { settings: was } = await loadSettings(db);
  await saveValue(db, "shop", version, settings);
  await note(db, actor, "settings-saved", null, { version: version + 1 });
  if (rulesOfRelease(was) !== rulesOfRelease(settings)) await refreshOpen(db);
  return nothing;
};

/** What the stage of a unit rests on besides its own record. */
const rulesOfRelease = ({ floor, prove }: Settings): string => JSON.stringify([floor, prove]);

/** Every open unit's stage follows the shop's new rules, in the order of their ids, as all who lock several do. */
async function refreshOpen(db: Knex): Promise<void> {
  const open: string[] = await db("unit").whereNull("ending").orderBy("id").forUpdate().pluck("id");
  for (const id of open) await refreshStanding(db, id);
}
