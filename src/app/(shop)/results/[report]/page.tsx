import type { Metadata } from "next";
import { notFound } from "next/navigation";

import { REPORTS, reportFilterSchema } from "@/contract/reports";
import { database } from "@/platform/db/connection";
import { pagePerson } from "@/platform/http/page";
import { modelNames } from "@/features/models/deeds";
import { reportOf } from "@/features/results";
import { loadSettings } from "@/features/settings/settings";
import { ReportView } from "@/features/results/ui/ReportView";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("results") };

type Props = { params: Promise<{ report: string }>; searchParams: Promise<Record<string, unknown>> };

export default async function ReportPage({ params, searchParams }: Props) {
  await pagePerson();
  const { report: name } = await params;
  const id = REPORTS.find((r) => r === name) ?? notFound();
  const db = database();
  const filter = reportFilterSchema.parse(await searchParams);
  const [{ settings }, report, models] = await Promise.all([
    loadSettings(db),
    reportOf(db, id, filter),
    modelNames(db),
  ]);
  return <ReportView key={`${report.from} ${report.to}`} report={report} models={models} shop={settings} />;
}
