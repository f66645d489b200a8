import type { Metadata } from "next";

import { reportFilterSchema } from "@/contract/reports";
import { database } from "@/platform/db/connection";
import { pagePerson } from "@/platform/http/page";
import { modelNames } from "@/features/models/deeds";
import { askedOf } from "@/features/results/base";
import { resultsView } from "@/features/results/results";
import { loadSettings } from "@/features/settings/settings";
import { Results } from "@/features/results/ui/Results";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("results") };

export default async function ResultsPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, unknown>>;
}) {
  await pagePerson();
  const db = database();
  const { settings } = await loadSettings(db);
  const asked = askedOf(reportFilterSchema.parse(await searchParams), settings.timeZone);
  const [view, models] = await Promise.all([resultsView(db, asked), modelNames(db)]);
  return <Results key={`${asked.from} ${asked.to}`} view={view} models={models} shop={settings} />;
}
