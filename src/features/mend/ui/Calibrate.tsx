"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import { SimulatedUnitPort } from "@/browser/simulated-unit";
import type { Settings } from "@/contract/deeds";
import type { CalibrationPort } from "@/core/calibrate/calibrate";
import type { CalibrateView, StickOutlook } from "@/features/mend/calibrate";
import { dayAndTime, figure } from "@/text/format";
import { percent } from "@/text/measures";
import { refusalText } from "@/text/deed/refusals";
import { placeWords } from "@/text/names";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Table } from "@/ui/kit/Table";
import { BigFigure } from "@/features/units/ui/unit/Station";
import { MendTabs } from "./MendTabs";
import { codeWords } from "@/words/codes";
import { say } from "@/features/mend/words/words";

const show = (v: number | null | undefined) => (v === null || v === undefined ? "–" : percent(v));
const vector = (p: readonly [number, number]) => `${figure(p[0], 3)}, ${figure(p[1], 3)}`;

/** Calibration from the last full test: centre, then range, then saved, switched off and on, and read again. */
export function Calibrate({
  unit,
  model,
  view,
  shop,
  canWork,
}: {
  unit: { id: string; tag: string };
  model: string;
  view: CalibrateView;
  shop: Settings;
  canWork: boolean;
}) {
  const [ready, setReady] = useState<number[]>([]);
  return (
    <>
      <MendTabs tag={unit.tag} />
      {!view.knownModel ? (
        <Alert severity="info" role="note">
          {say("theModelHasNothingToCalibrate", { model })}
        </Alert>
      ) : (
        <Box sx={{ display: "grid", gap: 2, maxWidth: 1100 }}>
          {view.due && (
            <Alert severity="warning" role="note">
              {say("dueAPartWasFittedAfter")}
            </Alert>
          )}
          <Prerequisites view={view} ready={ready} setReady={setReady} />
          {view.sticks.map((s) => (
            <Stick
              key={s.stick}
              unit={unit}
              outlook={s}
              shop={shop}
              canWork={canWork}
              ready={ready.length === view.prerequisites.length}
            />
          ))}
          <Typography color="text.secondary">{say("whatItCannotCureNoiseLeaps")}</Typography>
          <CalibrationsBefore view={view} shop={shop} />
        </Box>
      )}
    </>
  );
}

function Prerequisites({
  view,
  ready,
  setReady,
}: {
  view: CalibrateView;
  ready: number[];
  setReady: React.Dispatch<React.SetStateAction<number[]>>;
}) {
  return (
    <Box role="group" aria-label={say("beforeCalibrating")}>
      {view.prerequisites.map((p, i) => (
        <FormControlLabel
          key={p}
          sx={{ display: "flex" }}
          control={
            <Checkbox
              checked={ready.includes(i)}
              onChange={(e) => setReady(e.target.checked ? [...ready, i] : ready.filter((x) => x !== i))}
            />
          }
          label={p}
        />
      ))}
    </Box>
  );
}

function CalibrationsBefore({
  view,
  shop,
}: {
  view: CalibrateView;
  shop: Settings;
}) {
  return (
    view.lines.length > 0 && (
      <Table
        heads={[
          say("when"),
          say("stick"),
          say("part"),
          say("centreBefore"),
          say("centreAfter"),
          say("endsAfterLowHigh"),
          say("kept"),
        ]}
        label={say("whatWasWritten")}
      >
        {view.lines.map((l) => (
          <tr key={l.id}>
            <td>
              {dayAndTime(l.at, shop)}, {l.by}
            </td>
            <td>{placeWords(l.stick)}</td>
            <td>{codeWords(l.part)}</td>
            <td>{vector(l.before.centre)}</td>
            <td>{vector(l.after.centre)}</td>
            <td>
              {vector(l.after.low)}; {vector(l.after.high)}
            </td>
            <td>{l.kept ? say("yesReadBack") : say("notYet")}</td>
          </tr>
        ))}
      </Table>
    )
  );
}

type StickProps = {
  unit: { id: string; tag: string };
  outlook: StickOutlook;
  shop: Settings;
  canWork: boolean;
  ready: boolean;
};

/** What happens at it: state, deeds and keys of Stick. */
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

function Stick(props: StickProps) {
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
        <Alert severity="error" sx={{ my: 1 }}>
          {refusalText(outlook.refused)}
        </Alert>
      )}
      <BeforeAfter {...s} />
      <WriteKeys {...s} />
      {stage === "kept" && (
        <Alert severity="success" role="status" sx={{ mt: 1 }}>
          {say("theUnitKeptItWhatIt")}
        </Alert>
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
      <Box sx={{ my: 1 }} role="status">
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
      </Box>
    )
  );
}

function WriteKeys({ canWork, outlook, stage, stop, put, save, unit, ready, port }: StickState) {
  return (
    canWork &&
    outlook.now !== null &&
    !outlook.refused && (
      <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center", mt: 1 }}>
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
      </Box>
    )
  );
}
