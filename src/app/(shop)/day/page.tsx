import type { Metadata } from "next";

import { database } from "@/db/connection";
import { pagePerson } from "@/door/page";
import { dayView } from "@/service/dayplan";
import { loadSettings } from "@/service/settings";
import { DayPlan } from "@/ui/day/DayPlan";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("theDay") };

/** Who does what next: planned anew on every visit. */
export default async function DayPage() {
  const actor = await pagePerson();
  const db = database();
  const { settings } = await loadSettings(db);
  return <DayPlan view={await dayView(db)} me={actor.id} shop={settings} canWork={actor.role !== "viewer"} />;
}
