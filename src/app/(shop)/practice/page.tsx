import type { Metadata } from "next";

import { houseDatabase } from "@/db/connection";
import { pageFor } from "@/door/page";
import { modelNames } from "@/service/models";
import { exercisesOf, hardCases } from "@/service/practice";
import { loadSettings } from "@/service/settings";
import { Practice } from "@/ui/practice/Practice";
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
