"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";

import { isRefTo } from "@/core/mend/ref";
import { CHECK_WORDS, stepDoes, stepTitle } from "@/features/mend/words/text";
import { say } from "@/features/mend/words/words";
import { Refusals } from "@/ui/deed/Refusals";
import { CleanDetail } from "./CleanDetail";
import { LookStep } from "./LookStep";
import { ItemList } from "./ItemList";
import { NextRung } from "./NextRung";
import { ProblemDialog } from "./ProblemDialog";
import { DelicateNow, Hazards, KeyBindings, StepHead, StepLine } from "./StepHead";
import {
  GateTests,
  PartByHand,
  PicturesOfStep,
  PieceFromShelf,
  TipsOfStep,
  ToolsOfStep,
  WhichInside,
} from "./StepParts";
import { StepActions } from "./StepActions";
import { StepPicture } from "./StepPicture";
import { type Props, type StepState, useStep } from "./useStep";
import { SIZE } from "@/ui/tokens";
import { Column } from "@/ui/kit/layout";

/** One step a screen, to be read at arm's length and done without touching the screen. */
export function StepView(props: Props) {
  const s = useStep(props);
  const { unit, order, canWork, work, undo, marked, setMarked, asking, setAsking, step, items, mark } = s;
  const picture = order.pictures[step.key];

  return (
    <Box sx={{ display: "grid", gap: 1.5, gridTemplateColumns: "minmax(0,1fr)" }}>
      <StepHead {...s} />
      <StepLine {...s} />
      <NextRung tag={unit.tag} order={order} rungs={props.rungs} canWork={canWork} />
      <KeyBindings {...s} />
      <Box
        sx={{
          display: "grid",
          gap: 3,
          alignItems: "start",
          gridTemplateColumns: {
            xs: "minmax(0,1fr)",
            md: picture || items.length ? "minmax(0,1fr) minmax(0,1fr)" : "minmax(0,1fr)",
          },
        }}
      >
        {picture && (
          <Column gap={1}>
            <StepPicture
              key={step.key}
              picture={picture}
              plan={props.plan}
              guide={order.guide}
              items={items}
              hazards={step.hazards}
              title={stepTitle(step)}
            />
            <PicturesOfStep {...s} />
          </Column>
        )}
        <Column gap={1}>
          <StepBody {...s} isPictured={picture !== undefined} />
          {items.length > 0 && (
            <ItemList
              items={items}
              order={order}
              phase={step.phase}
              numbered={picture !== undefined}
              marked={marked}
              onMark={setMarked}
              onToggle={(i) => mark(i.id, i.state)}
              canWork={canWork && step.phase === "back" && !step.done}
            />
          )}
        </Column>
      </Box>
      {canWork && order.revision === null && order.revisions.length > 1 && <WhichInside order={order} />}
      <Refusals refusals={[...work.refusals, ...undo.refusals]} />
      <StepActions {...s} />
      <ProblemDialog
        open={asking}
        onClose={() => setAsking(false)}
        unit={unit}
        order={order}
        step={step}
        item={items[marked] ?? null}
      />
    </Box>
  );
}

function StepBody({ isPictured, ...s }: StepState & { isPictured: boolean }) {
  const { heading, step, job, target, unit } = s;
  return (
    <Column gap={1}>
      <DelicateNow {...s} />
      <Hazards {...s} />
      <Typography
        component="h1"
        ref={heading}
        tabIndex={-1}
        sx={{
          fontSize: { xs: SIZE.figure, md: isPictured ? SIZE.big : SIZE.huge },
          fontWeight: 800,
          lineHeight: 1.08,
          outline: "none",
        }}
      >
        {stepTitle(step)}
      </Typography>
      {stepDoes(step) && (
        <Typography
          sx={{ fontSize: { xs: SIZE.lead, md: isPictured ? SIZE.title : SIZE.head }, lineHeight: 1.35 }}
        >
          {stepDoes(step)}
        </Typography>
      )}
      {step.phase === "apart" && step.step?.mind && (
        <Typography
          sx={{ fontSize: { xs: SIZE.lead, md: isPictured ? SIZE.lead : SIZE.title }, fontWeight: 700 }}
        >
          {step.step.mind}
        </Typography>
      )}
      {job && <CleanDetail job={job} />}
      {step.phase === "back" && step.step!.back.checks.length > 0 && (
        <Box component="ul" sx={{ m: 0, pl: 3, fontSize: SIZE.lead }} aria-label={say("toCheck")}>
          {step.step!.back.checks.map((c) => (
            <li key={c}>{CHECK_WORDS[c]}</li>
          ))}
        </Box>
      )}
      <ToolsOfStep {...s} />
      {step.phase === "apart" && step.step!.otherWays.length > 0 && (
        <details>
          <summary>{say("otherWays")}</summary>
          {step.step!.otherWays.map((w) => (
            <div key={w.name}>
              <b>{w.name}</b>: {w.why}
            </div>
          ))}
        </details>
      )}
      <TipsOfStep {...s} />
      <PieceFromShelf {...s} />
      <PartByHand {...s} />
      {target?.slot && (
        <Button component={Link} href={`/units/${unit.tag}/mend/solder`} sx={{ justifySelf: "start" }}>
          {say("solderSettingsAndLog")}
        </Button>
      )}
      {isRefTo("calibrate", step.key) && (
        <Button
          component={Link}
          href={`/units/${unit.tag}/mend/calibrate`}
          variant="outlined"
          sx={{ justifySelf: "start" }}
        >
          {say("calibrateIt")}
        </Button>
      )}
      <LookStep {...s} />
      <GateTests {...s} />
      {!isPictured && <PicturesOfStep {...s} />}
    </Column>
  );
}
