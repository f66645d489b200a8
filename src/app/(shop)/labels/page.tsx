import type { Metadata } from "next";

import { LABEL_KINDS } from "@/core/labels/layout";
import { database } from "@/db/connection";
import { typed } from "@/door/http";
import { pagePerson } from "@/door/page";
import { labelChoices } from "@/service/labels";
import { loadSettings } from "@/service/settings";
import { Labels } from "@/ui/labels/Labels";
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
