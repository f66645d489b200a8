import { redirect } from "next/navigation";

import { controlsOf } from "@/core/profile/profile";
import { PURPOSES } from "@/core/protocol/protocol";
import { FORCES } from "@/core/simulate/controller";
import { database, inPractice } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { untestedOdds } from "@/features/decide/next";
import { practiceFaults } from "@/features/practice/inside";
import { sameHost } from "@/features/test/same-host";
import { TestRun } from "@/features/test/ui/TestRun";

type Props = {
  params: Promise<{ tag: string }>;
  searchParams: Promise<{ kind?: string; for?: string; controls?: string; force?: string }>;
};

export default async function RunPage({ params, searchParams }: Props) {
  const { view, actor } = await pageUnit((await params).tag);
  const locked =
    view.unit.swollen || view.unit.ending !== null || (view.unit.liquid && !view.unit.liquid_cleared);
  if (actor.role === "viewer" || locked) redirect(`/units/${view.unit.tag}/test`);
  const wished = await searchParams;
  const known = controlsOf(view.profile, view.unit.revision).map((c) => c.id);
  const controls = (wished.controls ?? "").split(",").filter((id) => known.includes(id));
  const force = FORCES.find((f) => f === wished.force) ?? "normal";
  const spot = controls.length ? { controls, force } : null;
  const kindOf = () => {
    if (spot) return "spot";
    if (wished.kind === "quick") return "quick";
    return "full";
  };
  const kind = kindOf();
  const purpose = PURPOSES.find((p) => p === wished.for);
  const backOf = () => {
    if (wished.for === "proof") return `/units/${view.unit.tag}/prove`;
    if (wished.for === "work") return `/work/${view.unit.tag}`;
    if (purpose) return `/units/${view.unit.tag}/test/bench?for=${purpose}`;
    return null;
  };
  const aim = view.pressAim && { ...view.pressAim, pooled: spot !== null };
  return (
    <TestRun
      key={`${kind} ${controls.join()} ${force}`}
      unit={view.unit}
      profile={view.profile}
      limits={view.settings.limits}
      kind={kind}
      spot={spot}
      hidden={inPractice() ? await practiceFaults(database(), view.unit.id) : null}
      back={backOf()}
      odds={kind === "full" && aim === null ? await untestedOdds(database(), view.unit.id) : []}
      alike={kind === "full" && !inPractice() ? await sameHost(database(), view) : []}
      aim={aim}
    />
  );
}
