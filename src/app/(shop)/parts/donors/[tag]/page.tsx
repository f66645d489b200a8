import type { Metadata } from "next";
import { notFound } from "next/navigation";

import { database } from "@/platform/db/connection";
import { typed } from "@/platform/http/http";
import { pagePerson } from "@/platform/http/page";
import { donorView } from "@/features/parts/donors";
import { modelByKey } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { openNeeds, unitIdOf } from "@/features/parts/needs";
import { DonorMap } from "@/features/parts/ui/DonorMap";
import { say } from "@/words/frame";

type Props = { params: Promise<{ tag: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: say("donorTag", { tag: (await params).tag }) };
}

export default async function DonorPage({ params }: Props) {
  const actor = await pagePerson();
  const found = await unitIdOf(database(), typed((await params).tag, 12).toUpperCase());
  if (!found || found.ending !== "donor") notFound();
  const view = await donorView(database(), found.id);
  const profile = (await modelByKey(database(), view.unit.modelKey))!;
  const { settings } = await loadSettings(database());
  return (
    <DonorMap
      view={view}
      profile={profile.body}
      needs={await openNeeds(database())}
      shop={settings}
      canWork={actor.role !== "viewer"}
    />
  );
}
