import { notFound } from "next/navigation";

import { database } from "@/platform/db/connection";
import { typed } from "@/platform/http/http";
import { pagePerson } from "@/platform/http/page";
import { modelByKey } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { ModelView } from "@/features/models/ui/ModelView";

export default async function ModelPage({ params }: { params: Promise<{ key: string }> }) {
  await pagePerson();
  const model = await modelByKey(database(), typed((await params).key, 60));
  if (!model) notFound();
  const { settings } = await loadSettings(database());
  return <ModelView profile={model.body} version={model.version} shop={settings} />;
}
