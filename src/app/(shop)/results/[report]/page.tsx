import type { Metadata } from "next";
import { notFound } from "next/navigation";

import { REPORTS, reportFilterSchema } from "@/contract/reports";
import { database } from "@/db/connection";
import { pagePerson } from "@/door/page";
import { modelNames } from "@/service/models";
import { reportOf } from "@/service/reports";
import { loadSettings } from "@/service/settings";
import { ReportView } from "@/ui/results/ReportView";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("results") };

type Props = { params: Promise<{ report: string }>; searchParams: Promise<Record<string, unknown>> };

export default async function ReportPage({ params, searchParams }: Props) {
  await pagePerson();
  const { report: name } = await params;
  const id = REPORTS.find((r) => r === name) ?? notFound();
  const db = database();
  const filter = reportFilterSchema.parse(await searchParams);
  const [{ settings }, report, models] = await Promise.all([loadSettings(db), reportOf(db, id, filter), modelNames(db)]);
  return <ReportView key={`${report.from} ${report.to}`} report={report} models={models} shop={settings} />;
}
