import type { Metadata } from "next";

import { LABEL_KINDS } from "@/core/labels/layout";
import { database } from "@/platform/db/connection";
import { typed } from "@/platform/http/http";
import { pagePerson } from "@/platform/http/page";
import { labelChoices } from "@/features/labels/view";
import { loadSettings } from "@/features/settings/settings";
import { Labels } from "@/features/labels/ui/Labels";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("labels") };

export default async function LabelsPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  await pagePerson();
  const asked = await searchParams;
  const kind = LABEL_KINDS.find((k) => k === asked.kind) ?? "unit";
  const { settings } = await loadSettings(database());
  const q = typeof asked.q === "string" ? typed(asked.q, 40) : "";
  const choices = await labelChoices(database(), kind, null, q);
  const codes = typeof asked.codes === "string" ? typed(asked.codes, 400).split(",") : [];
  return <Labels key={kind} kind={kind} q={q} choices={choices} picked={codes} shop={settings} />;
}
