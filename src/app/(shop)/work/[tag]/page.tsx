import type { Metadata } from "next";
import { redirect } from "next/navigation";

import { planOf } from "@/core/mend/picture";
import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { partsOfUnit } from "@/features/parts/needs";
import { unitById } from "@/features/case/facts";
import { nextRungs } from "@/features/mend/proposal";
import { tipsOf } from "@/features/mend/tips";
import { orderView } from "@/features/mend/view";
import { StepView } from "@/features/mend/ui/StepView";
import { modelById } from "@/features/models/deeds";
import { say } from "@/words/frame";

type Props = { params: Promise<{ tag: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: say("tagStepByStep", { tag: (await params).tag.slice(0, 20).toUpperCase() }) };
}

/** The open work order of a unit, one step a screen. */
export default async function WorkPage({ params }: Props) {
  const { view, actor } = await pageUnit((await params).tag);
  const db = database();
  const order = await orderView(db, view.unit.id, actor);
  if (!order) redirect(`/units/${view.unit.tag}/mend`);
  const unit = await unitById(db, view.unit.id);
  return (
    <StepView
      unit={{
        id: view.unit.id,
        tag: view.unit.tag,
        model: `${view.profile.maker} ${view.profile.name}`,
        modelKey: view.profile.id,
      }}
      order={order}
      plan={planOf(view.profile, order.revision)}
      rungs={await nextRungs(db, unit, await modelById(db, unit.profile_id))}
      tips={await tipsOf(db, view.profile.id)}
      shelf={(await partsOfUnit(db, view.unit.id)).shelf}
      currency={view.settings.currency}
      canWork={actor.role !== "viewer" && view.unit.ending === null}
    />
  );
}
