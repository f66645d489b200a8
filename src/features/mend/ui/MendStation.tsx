"use client";

import Alert from "@mui/material/Alert";
import Typography from "@mui/material/Typography";

import type { Proposal } from "@/features/mend/proposal";
import type { OrderView } from "@/features/mend/view";
import { say } from "@/features/mend/words/words";
import type { UnitParts as Parts } from "@/features/parts/needs";
import type { DamageView } from "@/features/prove/damage";
import { LiquidSignOff } from "@/features/test/ui/LiquidSignOff";
import { PlanFrame, Station } from "@/features/units/ui/unit/Station";
import type { UnitView } from "@/features/units/view";
import type { WaitView } from "@/features/waits/deeds";
import { PlanView } from "@/ui/plan/PlanView";
import { AddMend } from "./AddMend";
import { Damage, Waits } from "./Aside";
import { BeforeTheFirstScrew, MakersCover } from "./MakersCover";
import { Entry } from "./MendEntry";
import { MendTabs } from "./MendTabs";
import { UnitParts } from "./UnitParts";
import { WorkCard } from "./WorkCard";
import type { MendRoute } from "./route";
import { Block, Row, Text } from "@/ui/kit/layout";

/** The log of what was done: each entry with its fault, part, minutes, and the test it followed. */
export function MendStation({
  view,
  routes,
  parts,
  work,
  canWork,
}: {
  view: UnitView;
  routes: MendRoute[];
  parts: Parts;
  work: { order: OrderView | null; proposal: Proposal; waits: WaitView[]; damage: DamageView[] };
  canWork: boolean;
}) {
  const { unit, profile } = view;
  if (unit.swollen) return <Alert severity="error">{say("lockedThisUnitIsInQuarantine")}</Alert>;
  const open = canWork && unit.ending === null;
  const faults = view.faults.filter((f) => f.status === "open");
  const total = view.mends.reduce((sum, m) => sum + m.minutes, 0);
  return (
    <Station
      plan={
        <>
          <PlanFrame height={230}>
            <PlanView
              profile={profile}
              revision={unit.revision}
              states={Object.fromEntries(faults.map((f) => [f.place, "fail" as const]))}
            />
          </PlanFrame>
          <Block before={2}>
            <Waits unitId={unit.id} waits={work.waits} canWork={open} />
            <Damage unitId={unit.id} damage={work.damage} canWork={open} />
          </Block>
        </>
      }
    >
      <MendTabs tag={unit.tag} />
      {unit.liquid && !unit.liquid_cleared && <LiquidSignOff view={view} canWork={open} />}
      <Row gap={2} after={1} oneLine at="baseline">
        <Text component="h2" size="figure" strong>
          {faults.length ? say("faultsOpenFault", { faults: faults.length }) : say("noOpenFault")}
        </Text>
        <Typography color="text.secondary">{say("totalMinutesLogged", { total })}</Typography>
      </Row>
      {unit.ending === null && <MakersCover view={view} canWork={open} />}
      {unit.ending === null && <BeforeTheFirstScrew view={view} />}
      {unit.ending === null && !(unit.liquid && !unit.liquid_cleared) && (
        <WorkCard view={view} order={work.order} proposal={work.proposal} routes={routes} canWork={open} />
      )}
      {open &&
        (work.order ? (
          <Block component="details" after={2}>
            <summary>{say("logSomethingThatTheWorkOrder")}</summary>
            <Block before={1.5}>
              <AddMend view={view} routes={routes} parts={parts} />
            </Block>
          </Block>
        ) : (
          <AddMend view={view} routes={routes} parts={parts} />
        ))}
      <UnitParts parts={parts} view={view} canWork={canWork} />
      <Block before={3}>
        {view.mends.length === 0 && (
          <Typography color="text.secondary">{say("nothingWasDoneYet")}</Typography>
        )}
        {[...view.mends].reverse().map((m) => (
          <Entry key={`${m.id}-${m.version}`} mend={m} view={view} canEdit={open} />
        ))}
      </Block>
    </Station>
  );
}
