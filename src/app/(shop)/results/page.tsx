import type { Metadata } from "next";

import { database } from "@/db/connection";
import { pagePerson } from "@/door/page";
import { resultsView } from "@/service/results";
import { loadSettings } from "@/service/settings";
import { Results } from "@/ui/results/Results";

export const metadata: Metadata = { title: "Results" };

export default async function ResultsPage() {
  await pagePerson();
  const { settings } = await loadSettings(database());
  return <Results view={await resultsView(database())} shop={settings} />;
}
