import { redirect } from "next/navigation";

import { pageUnit } from "@/door/unit";
import { TestRun } from "@/ui/test/TestRun";

type Props = { params: Promise<{ tag: string }>; searchParams: Promise<{ kind?: string }> };

export default async function RunPage({ params, searchParams }: Props) {
  const { view, actor } = await pageUnit((await params).tag);
  const locked = view.unit.swollen || view.unit.ending !== null || (view.unit.liquid && !view.unit.liquid_cleared);
  if (actor.role === "viewer" || locked) redirect(`/units/${view.unit.tag}/test`);
  const kind = (await searchParams).kind === "quick" ? "quick" : "full";
  return <TestRun key={kind} unit={view.unit} profile={view.profile} limits={view.settings.limits} kind={kind} />;
}
