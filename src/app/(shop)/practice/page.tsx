import type { Metadata } from "next";

import { houseDatabase } from "@/platform/db/connection";
import { pageFor } from "@/platform/http/page";
import { modelNames } from "@/features/models/deeds";
import { exercisesOf, hardCases } from "@/features/practice/deeds";
import { loadSettings } from "@/features/settings/settings";
import { Practice } from "@/features/practice/ui/Practice";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("practice") };

export default async function PracticePage() {
  const actor = await pageFor("technician", "lead");
  const db = houseDatabase();
  const [{ settings }, models, cases, exercises] = await Promise.all([
    loadSettings(db),
    modelNames(db),
    hardCases(db),
    exercisesOf(actor),
  ]);
  return (
    <Practice
      models={models}
      cases={cases.map((c) => ({ tag: c.tag, model: c.modelName, claim: c.claim, faults: c.hidden.length }))}
      exercises={exercises}
      shop={settings}
    />
  );
}
