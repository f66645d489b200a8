"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import { SimulatedUnitPort } from "@/browser/simulated-unit";
import type { Settings } from "@/contract/deeds";
import type { CalibrationPort } from "@/core/calibrate/calibrate";
import type { StickOutlook } from "@/features/mend/calibrate";
import { say } from "@/features/mend/words/words";
import { BigFigure } from "@/features/units/ui/unit/Station";
import { refusalText } from "@/text/deed/refusals";
import { dayAndTime, figure } from "@/text/format";
import { percent } from "@/text/measures";
import { placeWords } from "@/text/names";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Block, Notice, Row } from "@/ui/kit/layout";

const show = (v: number | null | undefined) => (v === null || v === undefined ? "–" : percent(v));

export const vector = (p: readonly [number, number]) => `${figure(p[0], 3)}, ${figure(p[1], 3)}`;

type StickProps = {
  unit: { id: string; tag: string };
  outlook: StickOutlook;
  shop: Settings;
  canWork: boolean;
  ready: boolean;
};

/** What Stick knows and does; the components below only show it. */
function useStick({ unit, outlook, shop, canWork, ready }: StickProps) {
  const write = useDeed("calibration.write");
  const keep = useDeed("calibration.saved");
  const [stage, setStage] = useState<"begin" | "centre" | "range" | "kept">("begin");
  const [busy, setBusy] = useState(false);
  const [gone, setGone] = useState(false);
  const [ids, setIds] = useState<string[]>([]);
  const port: CalibrationPort = new SimulatedUnitPort(unit.tag);
  const guarded = async (work: () => Promise<void>) => {
    setBusy(true);
    setGone(false);
    try {
      await work();
    } catch {
      setGone(true);
    } finally {
      setBusy(false);
    }
  };
  const put = (part: "centre" | "range") =>
    guarded(async () => {
      const now = await port.read(outlook.stick);
      const done = await write.run({
        unitId: unit.id,
        stick: outlook.stick,
        part,
        recordingId: outlook.recordingId!,
        now,
        port: port.name,
      });
      if (!done?.ok) return;
      await port.write(outlook.stick, done.value.table);
      setIds((list) => (part === "centre" ? [done.value.id] : [...list, done.value.id]));
      setStage(part);
    });
  const save = () =>
    guarded(async () => {
      await port.save();
      await port.powerCycle();
      const readBack = await port.read(outlook.stick);
      const last = ids.at(-1);
      if (last && (await keep.run({ calibrationId: last, readBack }))?.ok) setStage("kept");
    });
  const stop = !canWork || busy || !ready || outlook.refused !== null || outlook.recordingId === null;
  const name = placeWords(outlook.stick);
  return { unit, outlook, shop, canWork, ready, write, keep, stage, gone, port, put, save, stop, name };
}

type StickState = ReturnType<typeof useStick>;

export function Stick(props: StickProps) {
  const s = useStick(props);
  const { outlook, write, keep, stage, gone, name } = s;

  return (
    <Box
      component="section"
      aria-label={say("calibrateTheName", { name })}
      sx={{ border: 1, borderColor: "divider", borderRadius: 1, bgcolor: "background.paper", p: 2 }}
    >
      <Typography component="h2" variant="h2" sx={{ textTransform: "capitalize" }}>
        {name}
      </Typography>
      <ReadNow {...s} />
      {outlook.refused && (
        <Notice severity="error" around={1}>
          {refusalText(outlook.refused)}
        </Notice>
      )}
      <BeforeAfter {...s} />
      <WriteKeys {...s} />
      {stage === "kept" && (
        <Notice severity="success" role="status" before={1}>
          {say("theUnitKeptItWhatIt")}
        </Notice>
      )}
      {gone && <Alert severity="error">{say("theUnitDidNotAnswerPlug")}</Alert>}
      <Problem problem={write.problem ?? keep.problem} />
    </Box>
  );
}

function ReadNow({ outlook, unit, shop }: StickState) {
  return outlook.now === null ? (
    <Typography>
      {outlook.mendedSince ? say("notMeasuredSinceItWasWorked") : say("notMeasured")}{" "}
      <Link href={`/units/${unit.tag}/test/run?kind=spot&controls=${encodeURIComponent(outlook.stick)}`}>
        {say("measureThisStickAlone")}
      </Link>{" "}
      {say("firstTheValuesComeFromIt")}
    </Typography>
  ) : (
    <>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "repeat(3, 1fr)" }, gap: 2, my: 1 }}>
        <BigFigure
          value={show(outlook.now.restOffset)}
          label={say("restOffset")}
          detail={
            outlook.predicted ? say("afterValue", { value: show(outlook.predicted.restOffset) }) : undefined
          }
        />
        <BigFigure
          value={show(outlook.now.reachMin)}
          label={say("shortestReach")}
          detail={
            outlook.predicted ? say("afterValue", { value: show(outlook.predicted.reachMin) }) : undefined
          }
        />
        <BigFigure
          value={show(outlook.now.circularityError)}
          label={say("edgeError")}
          detail={
            outlook.predicted
              ? say("afterValue", { value: show(outlook.predicted.circularityError) })
              : undefined
          }
        />
      </Box>
      <Typography color="text.secondary">
        {say("fromTheTestOfMeasuredAt", { measuredAt: dayAndTime(outlook.measuredAt!, shop) })}
      </Typography>
    </>
  );
}

function BeforeAfter({ outlook }: StickState) {
  return (
    outlook.beforeAfter && (
      <Block around={1} role="status">
        <b>{say("beforeAndAfter")}</b>{" "}
        {say("restOffsetRestOffsetAfterReach", {
          restOffset: show(outlook.beforeAfter.before.restOffset),
          after: outlook.beforeAfter.after
            ? show(outlook.beforeAfter.after.restOffset)
            : say("notTestedAgain"),
          reachMin: show(outlook.beforeAfter.before.reachMin),
          after2: outlook.beforeAfter.after
            ? show(outlook.beforeAfter.after.reachMin)
            : say("notTestedAgain"),
          circularityError: show(outlook.beforeAfter.before.circularityError),
          after3: outlook.beforeAfter.after
            ? show(outlook.beforeAfter.after.circularityError)
            : say("notTestedAgain"),
        })}
      </Block>
    )
  );
}

function WriteKeys({ canWork, outlook, stage, stop, put, save, unit, ready, port }: StickState) {
  return (
    canWork &&
    outlook.now !== null &&
    !outlook.refused && (
      <Row gap={1} before={1} at="center">
        <Button
          variant={stage === "begin" ? "contained" : "outlined"}
          disabled={stop}
          onClick={() => void put("centre")}
        >
          {say("n1WriteTheCentre")}
        </Button>
        <Button
          variant={stage === "centre" ? "contained" : "outlined"}
          disabled={stop || stage === "begin"}
          onClick={() => void put("range")}
        >
          {say("n2WriteTheRange")}
        </Button>
        <Button
          variant={stage === "range" ? "contained" : "outlined"}
          disabled={stop || (stage !== "range" && stage !== "centre")}
          onClick={() => void save()}
        >
          {say("n3SaveOffAndOnRead")}
        </Button>
        <Button
          component={Link}
          href={`/units/${unit.tag}/test/run`}
          variant={stage === "kept" ? "contained" : "outlined"}
        >
          {say("n4TestAgain")}
        </Button>
        <span>{!ready ? say("tickWhatIsToBeReady") : say("throughThePort", { port: port.name })}</span>
      </Row>
    )
  );
}
