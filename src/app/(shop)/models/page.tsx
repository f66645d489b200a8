import type { Metadata } from "next";

import { database } from "@/platform/db/connection";
import { pagePerson } from "@/platform/http/page";
import { listModels } from "@/features/models/deeds";
import { ModelList } from "@/features/models/ui/ModelList";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("models") };

export default async function ModelsPage() {
  const actor = await pagePerson();
  const models = await listModels(database());
  return (
    <ModelList
      models={models.map((m) => ({ key: m.key, version: m.version, body: m.body }))}
      canWork={actor.role !== "viewer"}
    />
  );
}
