import type { Metadata } from "next";

import { database } from "@/db/connection";
import { pagePerson } from "@/door/page";
import { listModels } from "@/service/models";
import { ModelList } from "@/ui/models/ModelList";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("models") };

export default async function ModelsPage() {
  const actor = await pagePerson();
  const models = await listModels(database());
  return (
    <ModelList models={models.map((m) => ({ key: m.key, version: m.version, body: m.body }))} canWork={actor.role !== "viewer"} />
  );
}
