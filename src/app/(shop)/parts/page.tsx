import type { Metadata } from "next";

import { database } from "@/platform/db/connection";
import { typed } from "@/platform/http/http";
import { pagePerson } from "@/platform/http/page";
import { PART_TABS, type PartTab, partsView } from "@/features/parts/view";
import { loadSettings } from "@/features/settings/settings";
import { Parts } from "@/features/parts/ui/Parts";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("parts") };

export default async function PartsPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const actor = await pagePerson();
  const asked = await searchParams;
  const tab = PART_TABS.find((t) => t === asked.tab) ?? "stock";
  const hours = typeof asked.hours === "string" && /^\d{1,3}$/.test(asked.hours) ? Number(asked.hours) : 20;
  const view = await partsView(database(), tab satisfies PartTab, hours);
  const { settings } = await loadSettings(database());
  return (
    <Parts
      tab={tab}
      view={view}
      shop={settings}
      hours={hours}
      part={typeof asked.part === "string" ? typed(asked.part, 24) : ""}
      canWork={actor.role !== "viewer"}
      canLead={actor.role === "lead"}
    />
  );
}
