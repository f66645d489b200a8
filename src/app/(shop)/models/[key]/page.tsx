import { notFound } from "next/navigation";

import { database } from "@/db/connection";
import { typed } from "@/door/http";
import { pagePerson } from "@/door/page";
import { modelByKey } from "@/service/models";
import { loadSettings } from "@/service/settings";
import { ModelView } from "@/ui/models/ModelView";

export default async function ModelPage({ params }: { params: Promise<{ key: string }> }) {
  await pagePerson();
  const model = await modelByKey(database(), typed((await params).key, 60));
  if (!model) notFound();
  const { settings } = await loadSettings(database());
  return <ModelView profile={model.body} version={model.version} shop={settings} />;
}
