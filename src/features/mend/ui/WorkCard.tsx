"use client";

import Link from "next/link";

import type { Proposal } from "@/features/mend/proposal";
import type { OrderView } from "@/features/mend/view";
import { say } from "@/features/mend/words/words";
import type { UnitView } from "@/features/units/view";
import { OrderForm } from "./OrderForm";
import { NextRung } from "./NextRung";
import { Running } from "./RunningOrder";
import type { MendRoute } from "./route";
import { Notice } from "@/ui/kit/layout";

/** The work order: opened from what was found and decided, then one button to go on where it stands. */
export function WorkCard({
  view,
  order,
  proposal,
  routes,
  canWork,
}: {
  view: UnitView;
  order: OrderView | null;
  proposal: Proposal;
  routes: MendRoute[];
  canWork: boolean;
}) {
  if (!view.profile.guide)
    return (
      <Notice severity="info" role="note" after={2}>
        {say("noGuideForTheProfileYet", { profile: view.profile.name })}{" "}
        <Link href={`/models/${view.profile.id}/guide`}>{say("writeItsSteps")}</Link>
        {say("orLogTheMendBelow")}
      </Notice>
    );
  if (order)
    return (
      <>
        <NextRung tag={view.unit.tag} order={order} rungs={proposal} canWork={canWork} />
        <Running view={view} order={order} proposal={proposal} routes={routes} canWork={canWork} />
      </>
    );
  if (canWork)
    return (
      <OrderForm
        key={proposal.targets.map((t) => t.faultId).join()}
        view={view}
        order={null}
        proposal={proposal}
        routes={routes}
      />
    );
  return null;
}
