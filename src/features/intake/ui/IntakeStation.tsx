"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { addUp } from "@/core/money/money";
import type { ModelProfile } from "@/core/profile/profile";
import { PapersOf } from "@/features/papers/ui/PapersOf";
import type { PaperView } from "@/features/papers/view";
import type { UnitView } from "@/features/units/view";
import { day, money } from "@/text/format";
import { SOURCE_NAMES } from "@/features/case/words/text";
import { MarkedPlan } from "@/ui/plan/MarkedPlan";
import { PlanFrame, Station } from "@/features/units/ui/unit/Station";
import { EditIntake } from "./EditIntake";
import { Mates } from "@/features/units/ui/Mates";
import { MarkList } from "./MarkList";
import { HYGIENE_WORDS } from "@/features/intake/words/text";
import { Photos } from "./Photos";
import { say } from "@/features/intake/words/words";
import { codeWords } from "@/words/codes";
import { Notice } from "@/ui/kit/layout";

type IntakeStationProps = {
  view: UnitView;
  models: ModelProfile[];
  papers: PaperView[];
  canWork: boolean;
};

/** What IntakeStation knows and does; the components below only show it. */
function useIntakeStation({ view, models, canWork }: IntakeStationProps) {
  const { unit, profile, settings } = view;
  const [editing, setEditing] = useState(false);
  const missing = profile.accessories.filter((a) => !unit.intake.accessories.includes(a.id));
  return { view, models, canWork, unit, profile, settings, editing, setEditing, missing };
}
type IntakeStationState = ReturnType<typeof useIntakeStation>;

/**
 * What was written at the door, with the photographs; can be corrected, and tells who changed it meanwhile.
 */
export function IntakeStation(props: IntakeStationProps) {
  const s = useIntakeStation(props);
  const { view, models, canWork, unit, profile, editing, setEditing } = s;

  return (
    <Station
      plan={
        <PlanFrame>
          <MarkedPlan profile={profile} revision={unit.revision} marks={unit.intake.marks} />
        </PlanFrame>
      }
    >
      {unit.swollen && (
        <Notice severity="error" variant="filled" after={2}>
          {say("quarantineTheCellIsSwollenHot")}
        </Notice>
      )}
      {editing ? (
        <EditIntake view={view} models={models} onDone={() => setEditing(false)} />
      ) : (
        <CameIn {...s} />
      )}
      <Mates view={view} />
      <Photos unitId={unit.id} photos={view.photos} canWork={canWork} />
      {unit.source !== "customer" && (
        <PapersOf
          kind="receipt"
          papers={props.papers}
          unitId={unit.id}
          shop={view.settings}
          canWork={canWork}
        />
      )}
    </Station>
  );
}

function CameIn({ unit, settings, view, canWork, missing, setEditing }: IntakeStationState) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" }, gap: 2.5 }}>
      <Fact label={say("cameIn")}>
        {day(unit.receivedAt, settings)}, {SOURCE_NAMES[unit.source]}
        {view.origin.lot && ` ${view.origin.lot}`}
        {view.origin.customer && `: ${view.origin.customer}`}
        {unit.seller && `, ${unit.seller}`}
      </Fact>
      {unit.source === "single" && (
        <Fact label={say("paid")}>
          {say("priceminorAndCarriageminorCarriage", {
            priceminor: money(unit.price_minor, settings),
            carriageminor: money(unit.carriage_minor, settings),
          })}
        </Fact>
      )}
      <Fact label={say("condition")}>
        {say("smellSmellGrimeGrimeRattleRattle", {
          smell: codeWords(unit.intake.smell),
          grime: codeWords(unit.intake.grime),
          rattle: codeWords(unit.intake.rattle),
        })}
        {unit.liquid && say("tookLiquid2")}
        {unit.intake.openedBefore && say("wasOpenedBefore2")}
        {unit.intake.handsLeft.length > 0 && `: ${unit.intake.handsLeft.map((h) => codeWords(h)).join(", ")}`}
        {unit.intake.hygiene !== "none" && `, ${HYGIENE_WORDS[unit.intake.hygiene]}`}
      </Fact>
      <Fact label={say("marks")}>
        <MarkList view={view} canWork={canWork && unit.ending === null && !unit.swollen} />
      </Fact>
      <Fact label={say("missing")}>
        {missing.length
          ? say("missingMissing2ToReplace", {
              missing: missing.map((a) => a.name).join(", "),
              missing2: money(addUp(missing.map((a) => a.costMinor)), settings),
            })
          : say("nothing")}
      </Fact>
      <Fact label={say("history")}>
        {[...unit.intake.told.map((t) => codeWords(t)), unit.intake.history].filter(Boolean).join("; ") ||
          say("noneTold")}
      </Fact>
      {canWork && unit.ending === null && (
        <Box>
          <Button variant="outlined" onClick={() => setEditing(true)}>
            {say("correctTheIntake")}
          </Button>
        </Box>
      )}
    </Box>
  );
}

export function Fact({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <Box sx={{ minWidth: 0, overflowWrap: "anywhere" }}>
      <Typography variant="body2" color="text.secondary">
        {label}
      </Typography>
      <Box sx={{ fontWeight: 600 }}>{children}</Box>
    </Box>
  );
}
