"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import type { Grade } from "@/core/grade/grade";
import { controlsOf, functionsOf, placeName } from "@/core/profile/profile";
import type { Plots } from "@/core/plots/plots";
import type { Analysis } from "@/core/analyse/analyse";
import type { Healthy } from "@/features/test/readings";
import type { UnitView } from "@/features/units/view";
import { dayAndTime } from "@/text/format";
import { GRADE_WORDS } from "@/text/measures";
import { placeWords } from "@/text/names";
import { blockText, TESTER_NAMES } from "@/features/case/words/text";
import { PlanView } from "@/ui/plan/PlanView";
import { stateColour, stateOfGrade } from "@/ui/state/StateMark";
import { Functions } from "@/features/test/ui/Functions";
import { PlanFrame, Station } from "@/features/units/ui/unit/Station";
import { Compare } from "@/features/test/ui/result/Compare";
import { ProofSheet } from "./ProofSheet";
import { say } from "@/features/prove/words/words";
import { codeWords } from "@/words/codes";
import { SIZE } from "@/ui/tokens";
import { Block, Notice, Row, Text } from "@/ui/kit/layout";

type Proof = {
  id: string;
  analysis: Analysis;
  plots: Plots;
  startedAt: string;
  grade: Grade;
  source: string;
  by: string;
};

type ProveStationProps = {
  view: UnitView;
  before: Proof | null;
  proof: Proof | null;
  healthy: Healthy;
  canWork: boolean;
};

/** What ProveStation knows and does; the components below only show it. */
function useProve({ view, before, proof, canWork }: ProveStationProps) {
  const { unit, profile, blocks } = view;
  const controls = controlsOf(profile, unit.revision);
  const earlier = before && before.id !== proof?.id ? before : null;
  const gradeOf = (p: Proof | null, id: string): Grade => p?.analysis.controls[id]?.grade ?? "untested";
  const changed = controls.find((c) => earlier && gradeOf(earlier, c.id) !== gradeOf(proof, c.id));
  const [picked, setPicked] = useState<string | null>(null);
  const selected = controls.find((c) => c.id === picked) ?? changed ?? controls[0]!;
  const names = new Map(
    [...controls, ...functionsOf(profile, unit.revision)].map((x) => [x.id, placeName(x)]),
  );
  const open =
    canWork && unit.ending === null && !unit.swollen && (!unit.liquid || unit.liquid_cleared !== null);
  const heading = () => {
    if (unit.ending) return say("closedEnding", { ending: codeWords(unit.ending) });
    if (proof) return say("proofGrade", { grade: GRADE_WORDS[proof.grade] });
    return say("notProven");
  };
  return {
    view,
    canWork,
    proof,
    unit,
    profile,
    blocks,
    controls,
    earlier,
    gradeOf,
    setPicked,
    selected,
    names,
    open,
    heading,
  };
}
type ProveState = ReturnType<typeof useProve>;

/**
 * Everything again, closed and complete: before and after side by side, and what still blocks the release.
 */
export function ProveStation(props: ProveStationProps) {
  const s = useProve(props);
  const { view, proof, profile, earlier, selected, open } = s;
  return (
    <Station plan={<ProvePlan {...s} />}>
      <ProveHead {...s} />
      <NoProofYet {...s} />
      <WaysToProve {...s} />
      <Blocks {...s} />
      <ProofSheet view={view} canWork={open} />
      {proof && (
        <Compare
          title={say("beforeAndAfterSelected", { selected: placeName(selected) })}
          name={placeName(selected)}
          id={selected.id}
          profile={profile}
          house={view.settings.limits}
          before={earlier}
          after={proof}
          healthy={props.healthy}
        />
      )}
    </Station>
  );
}

const ProvePlan = ({
  view,
  proof,
  unit,
  profile,
  controls,
  gradeOf,
  setPicked,
  selected,
  open,
}: ProveState) => (
  <>
    <PlanFrame>
      <PlanView
        profile={profile}
        revision={unit.revision}
        states={Object.fromEntries(controls.map((c) => [c.id, stateOfGrade(gradeOf(proof, c.id))]))}
        selected={selected.id}
        onPick={setPicked}
      />
    </PlanFrame>
    <Functions view={view} canWork={open} />
  </>
);

const ProveHead = ({ view, proof, heading }: ProveState) => (
  <Row gap={2} at="baseline">
    <Typography
      component="h2"
      sx={{
        fontSize: SIZE.big,
        fontWeight: 800,
        lineHeight: 1.1,
        color: proof ? stateColour(stateOfGrade(proof.grade)) : undefined,
      }}
    >
      {heading()}
    </Typography>
    {proof && (
      <Typography color="text.secondary">
        {dayAndTime(proof.startedAt, view.settings)}, {proof.by}, {TESTER_NAMES[proof.source]}
      </Typography>
    )}
  </Row>
);

const NoProofYet = ({ view, proof, blocks }: ProveState) =>
  !proof && (
    <>
      {blocks.some((b) => b.code === "no-proof" && b.elsewhere) && (
        <Notice severity="warning" role="note" around={1}>
          {say("aFileThatWasImportedOr")}
        </Notice>
      )}
      <Text around={1}>
        {view.mends.length ? say("aFullTestLaterThanThe") : say("theFirstFullTestIsThe")}
      </Text>
    </>
  );

const WaysToProve = ({ unit, proof, open }: ProveState) =>
  open && (
    <>
      <Button
        component={Link}
        href={`/units/${unit.tag}/test/run?kind=full`}
        variant={proof ? "outlined" : "contained"}
        size="large"
        sx={{ my: 1 }}
      >
        {proof ? say("fullTestAgain") : say("fullTestNow")}
      </Button>
      <Button
        component={Link}
        href={`/units/${unit.tag}/test/bench?for=proof`}
        size="large"
        sx={{ my: 1, ml: 1 }}
      >
        {say("proofStepByStep")}
      </Button>
    </>
  );

/** The control or function that a block is about, where it is about one. */
function placeOfBlock(b: ProveState["blocks"][number]): string | null {
  if (b.code === "control") return b.control;
  return b.code === "function" ? b.functionId : null;
}

function Blocks({ unit, blocks, names, view, canWork }: ProveState) {
  return (
    unit.ending === null && (
      <Block component="section" aria-label={say("whatBlocksTheRelease")} around={1.5}>
        {blocks.length === 0 ? (
          <Alert
            severity="success"
            action={
              <Button component={Link} href={`/units/${unit.tag}/release`} color="inherit">
                {say("goToRelease")}
              </Button>
            }
          >
            {say("nothingBlocksTheRelease")}
          </Alert>
        ) : (
          <>
            <Typography component="h3" variant="h2">
              {say("blocksThingBlocksTheRelease", { blocks: blocks.length })}
            </Typography>
            <Box component="ul" sx={{ m: 0, pl: 2.5, columns: { sm: blocks.length > 6 ? 2 : 1 } }}>
              {blocks.map((b, i) => (
                <li key={i}>
                  {blockText(b, (id) => names.get(id) ?? placeWords(id), view.settings)}
                  {placeOfBlock(b) !== null && (
                    <>
                      {" "}
                      <Link href={`/units/${unit.tag}/case?of=${encodeURIComponent(placeOfBlock(b)!)}`}>
                        {say("itsFacts")}
                      </Link>
                    </>
                  )}
                  {b.code === "risk" && canWork && view.doubtful.length > 0 && (
                    <>
                      {": "}
                      <Link
                        href={`/units/${unit.tag}/test/run?kind=spot&for=proof&controls=${encodeURIComponent(view.doubtful.join(","))}`}
                      >
                        {say("pressTheDoubtfulOnes", { buttons: view.doubtful.length })}
                      </Link>
                    </>
                  )}
                  {b.code === "reading" && canWork && (
                    <>
                      {": "}
                      <Link
                        href={`/units/${unit.tag}/test/bench?for=proof&step=${encodeURIComponent(`${b.reading}.${b.subject}`)}`}
                      >
                        {say("readItAgain")}
                      </Link>
                    </>
                  )}
                </li>
              ))}
            </Box>
          </>
        )}
      </Block>
    )
  );
}
