"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";

import { keepsBoth, MOST_SAMPLED, operatingCurve } from "@/core/parts/sampling";
import { findingText, verdictText } from "@/features/parts/words/text";
import { say } from "@/features/parts/words/words";
import type { BatchView } from "@/features/stock/batch-view";
import { figure, money } from "@/text/format";
import { OperatingPlot } from "@/ui/charts/money";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { BoundField } from "@/ui/form/BoundField";
import { Figure } from "@/ui/kit/Table";
import { StateMark } from "@/ui/state/StateMark";
import { codeWords } from "@/words/codes";
import { Inspect } from "./Inspect";
import type { BatchState, Props } from "./useBatch";
import { Block, Row, Text, Words } from "@/ui/kit/layout";

export const percent = (x: number) => `${Math.round(100 * x)} %`;
const tenths = (x: number) => `${figure(100 * x, 1)} %`;

export function Inspection({ part, batch, view, canWork, props, shop }: BatchState) {
  return (
    part?.check && (
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,3fr) minmax(0,2fr)" },
          gap: 3,
        }}
      >
        <VerdictOfBatch batch={batch} view={view} canWork={canWork} part={part} props={props} />
        <Box>
          <OperatingPlot
            points={operatingCurve(view.plan)}
            seen={
              view.price.share.seen === null
                ? null
                : { share: view.price.share.seen, low: view.share.low, high: view.share.high }
            }
          />
          <Block before={1}>
            {say("ofTheWholeBatch")}{" "}
            <Figure>
              {say("lowToHigh", { low: percent(view.share.low), high: percent(view.share.high) })}
            </Figure>{" "}
            {say("areBadNineTimesOfTen")}
          </Block>
          <Box>
            {say("aUsablePieceCosts")}{" "}
            <Figure>
              {view.price.each === null ? say("notKnownYet") : money(Math.round(view.price.each), shop)}
            </Figure>
            {view.price.each !== null &&
              say("goodsGoodsInspectionInspection2", {
                goods: money(view.price.goods, shop),
                inspection: money(view.price.inspection, shop),
                slips: money(view.price.slips, shop),
              })}
          </Box>
        </Box>
      </Box>
    )
  );
}

function VerdictOfBatch({
  batch,
  view,
  canWork,
  part,
  props,
}: Pick<BatchState, "batch" | "view" | "canWork" | "props"> & { part: NonNullable<BatchState["part"]> }) {
  return (
    <Box>
      <Row gap={3} at="baseline" role="status" aria-label={say("verdict")}>
        <Text component="h2" size="figure" strong>
          {batch.status === "open" && view.verdict.verdict === "accept"
            ? say("goodEnough")
            : verdictText(view.verdict)}
        </Text>
        <span>
          <Figure big>{say("badOfMeasured2", { bad: view.price.bad, measured: view.price.measured })}</Figure>{" "}
          {say("bad")}
        </span>
      </Row>
      <RuleOfBatch view={view} />
      {canWork && batch.status !== "rejected" && batch.status !== "disposed" && (
        <Inspect view={view} part={part} />
      )}
      {canWork && <Judge {...props} />}
      <Readings view={view} />
    </Box>
  );
}

/** How many are measured, what is borne, and how often that errs; where no sample errs little enough, so much. */
export function RuleOfBatch({ view }: { view: Pick<BatchView, "plan" | "risk"> }) {
  return (
    <Words after={1} quiet>
      {say("ruleFor")} {view.plan.pieces}{" "}
      {say("piecesMeasureSampleBearAccept", {
        sample: view.plan.sample,
        accept: view.plan.accept,
        x: say("itRefusesABatchWithGoodShare", {
          goodShare: percent(view.risk.goodShare),
          refusesGood: percent(view.plan.refusesGood),
          badShare: percent(view.risk.badShare),
          takesBad: percent(view.plan.takesBad),
        }),
      })}
      {view.plan.all && say("thereAreTooFewToTell")}
      {!view.plan.all &&
        !keepsBoth(view.plan, view.risk) &&
        say("noSampleKeepsBothRisks", {
          most: MOST_SAMPLED,
          asked: tenths(view.risk.refuseGood),
          refusesGood: tenths(view.plan.refusesGood),
        })}
    </Words>
  );
}

function Readings({ view }: { view: BatchView }) {
  if (view.readings.length === 0) return null;
  return (
    <Box component="ol" aria-label={say("measuredPieces")} sx={{ listStyle: "none", p: 0, mt: 2 }}>
      {[...view.readings].reverse().map((r) => (
        <Box component="li" key={r.number} sx={{ display: "flex", gap: 1.2, alignItems: "center", py: 0.3 }}>
          <StateMark state={r.verdict === "good" ? "pass" : "fail"} />
          <span>
            {r.number}: {codeWords(r.verdict)}
            {r.body.ohms?.[0] &&
              r.body.ohms[1] &&
              say("ohmsAndOhms2", { ohms: Math.round(r.body.ohms[0]), ohms2: Math.round(r.body.ohms[1]) })}
            {r.body.thicknessMm !== null && say("thicknessMmMm", { thicknessMm: r.body.thicknessMm })}
            {r.body.feel !== null && say("feelFeel", { feel: r.body.feel })}
            {r.findings.length > 0 && `: ${r.findings.map(findingText).join("; ")}`}
          </span>
        </Box>
      ))}
    </Box>
  );
}

function Judge({ view, canLead }: Props) {
  const deed = useDeed("batch.judge");
  const dispose = useDeed("batch.dispose");
  const [why, setWhy] = useState("");
  const { batch, verdict } = view;
  const send = (v: "accept" | "reject") =>
    deed.run({ batchId: batch.id, version: batch.version, verdict: v, why });
  if (batch.status === "disposed") return null;
  if (batch.status === "rejected")
    return (
      <Row gap={1} before={1} at="start">
        <BoundField
          deed="batch.dispose"
          name="how"
          label={say("whereItWent")}
          value={why}
          onChange={setWhy}
          helperText={say("cellsSolderWasteAndScrapBy")}
        />
        <Button
          variant="outlined"
          disabled={why.trim() === "" || dispose.running}
          onClick={() => dispose.run({ batchId: batch.id, version: batch.version, how: why })}
        >
          {say("disposedOf3")}
        </Button>
        <Problem problem={dispose.problem} />
      </Row>
    );
  return (
    <Row gap={1} before={1.5} at="start">
      <BoundField
        deed="batch.judge"
        name="why"
        label={say("why")}
        value={why}
        onChange={setWhy}
        sx={{ flex: 1, minWidth: 200 }}
      />
      {batch.status === "waiting" && (
        <Button
          variant={verdict.verdict === "accept" ? "contained" : "outlined"}
          disabled={deed.running || verdict.verdict === "more" || (verdict.verdict === "reject" && !canLead)}
          onClick={() => send("accept")}
        >
          {say("accept")}
        </Button>
      )}
      <Button
        color="error"
        variant={verdict.verdict === "reject" ? "contained" : "outlined"}
        disabled={deed.running || why.trim() === ""}
        onClick={() => send("reject")}
      >
        {say("rejectAndLock")}
      </Button>
      <Box sx={{ flexBasis: "100%" }}>
        <Problem problem={deed.problem} />
      </Box>
    </Row>
  );
}
