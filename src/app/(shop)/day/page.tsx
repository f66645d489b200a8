import type { Metadata } from "next";

import { database } from "@/platform/db/connection";
import { pagePerson } from "@/platform/http/page";
import { dayView } from "@/features/day/deeds";
import { loadSettings } from "@/features/settings/settings";
import { DayPlan } from "@/features/day/ui/DayPlan";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("theDay") };

/** Who does what next: planned anew on every visit. */
export default async function DayPage() {
  const actor = await pagePerson();
  const db = database();
  const { settings } = await loadSettings(db);
  return <DayPlan view={await dayView(db)} me={actor.id} shop={settings} canWork={actor.role !== "viewer"} />;
}
