import type { Metadata } from "next";

import { reportFilterSchema } from "@/contract/reports";
import { database } from "@/db/connection";
import { pagePerson } from "@/door/page";
import { modelNames } from "@/service/models";
import { askedOf } from "@/service/reports/base";
import { resultsView } from "@/service/reports/results";
import { loadSettings } from "@/service/settings";
import { Results } from "@/ui/results/Results";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("results") };

export default async function ResultsPage({ searchParams }: { searchParams: Promise<Record<string, unknown>> }) {
  await pagePerson();
  const db = database();
  const { settings } = await loadSettings(db);
  const asked = askedOf(reportFilterSchema.parse(await searchParams), settings.timeZone);
  const [view, models] = await Promise.all([resultsView(db, asked), modelNames(db)]);
  return <Results key={`${asked.from} ${asked.to}`} view={view} models={models} shop={settings} />;
}
