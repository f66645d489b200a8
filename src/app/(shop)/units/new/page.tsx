import type { Metadata } from "next";

import { outsideOf } from "@/core/profile/profile";
import { database } from "@/platform/db/connection";
import { pageFor } from "@/platform/http/page";
import { boughtListing } from "@/features/buying/view";
import { listModels } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { customersToChoose, lotsToChoose, nextTag } from "@/features/intake/view";
import { trays } from "@/features/bench/view";
import { IntakeForm } from "@/features/intake/ui/IntakeForm";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("takeIn") };

export default async function NewUnitPage({
  searchParams,
}: {
  searchParams: Promise<{ listing?: string | string[] }>;
}) {
  await pageFor("technician", "lead");
  const db = database();
  const [models, lots, customers, tag, { settings }, taken] = await Promise.all([
    listModels(db),
    lotsToChoose(db),
    customersToChoose(db),
    nextTag(db),
    loadSettings(db),
    trays(db),
  ]);
  const asked = (await searchParams).listing;
  return (
    <IntakeForm
      models={models.map((m) => outsideOf(m.body))}
      lots={lots}
      customers={customers}
      nextTag={tag}
      freeTrays={9 - taken.length}
      shop={settings}
      listing={typeof asked === "string" ? await boughtListing(db, asked) : null}
    />
  );
}
