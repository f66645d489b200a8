"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import Typography from "@mui/material/Typography";

import type { PlanView } from "@/features/parts/plan";
import { say } from "@/features/parts/words/words";
import { figure, money } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { NextPiece, PlanFigures, PlanHead, PlanTable, ToBeBought } from "./PlanParts";
import type { PartsProps } from "./props";
import { usePlanTab } from "./usePlanTab";
import { Notice } from "@/ui/kit/layout";

/**
 * The plan for the backlog: what to mend, strip, buy and keep, with why; locked choices stay, and applying it
 * puts the parts aside.
 */
export function PlanTab(props: Omit<PartsProps, "view"> & { view: PlanView }) {
  const s = usePlanTab(props);
  const { result, view, shop, apply, progress, stopped, applied, failed, start, plan } = s;

  return (
    <Box>
      <PlanHead {...s} />
      {progress && (
        <Box role="status">
          <LinearProgress />
          {say("searchingSecondsS", { seconds: figure(progress.seconds, 1) })}
          {progress.best !== null && say("bestSoFarBest", { best: money(Math.round(progress.best), shop) })}
          {progress.gap !== null && say("atMostGapFromTheBest", { gap: figure(100 * progress.gap, 2) })}
        </Box>
      )}
      {stopped && (
        <Alert severity="info" role="status">
          {say("stoppedNothingWasChanged")}
        </Alert>
      )}
      {failed && <Alert severity="error">{say("theSearchBrokeOffNothingWas")}</Alert>}
      {plan?.status === "impossible" && (
        <Alert severity="error">
          {say("withWhatIsLockedThereIs")} <Button onClick={() => start([])}>{say("unlockAll")}</Button>
        </Alert>
      )}
      {result && plan && plan.status !== "impossible" && (
        <>
          <PlanFigures {...s} plan={plan} />
          {applied !== null && (
            <Notice severity="success" role="status" after={1}>
              {say("appliedAppliedPartIsPutAside", { applied })}
            </Notice>
          )}
          <Problem problem={apply.problem} />
          <PlanTable {...s} result={result} plan={plan} />
          <ToBeBought {...s} plan={plan} />
          <NextPiece {...s} />
        </>
      )}
      {view.problem.units.length === 0 && (
        <Typography color="text.secondary">{say("noUnitHasAnOpenFault")}</Typography>
      )}
    </Box>
  );
}
