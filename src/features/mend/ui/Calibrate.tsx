"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { CalibrateView } from "@/features/mend/calibrate";
import { say } from "@/features/mend/words/words";
import { dayAndTime } from "@/text/format";
import { placeWords } from "@/text/names";
import { Table } from "@/ui/kit/Table";
import { codeWords } from "@/words/codes";
import { Stick, vector } from "./CalibrateStick";
import { MendTabs } from "./MendTabs";

/**
 * Calibration from the last full test: centre, then range, then saved, switched off and on, and read again.
 */
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

function CalibrationsBefore({ view, shop }: { view: CalibrateView; shop: Settings }) {
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
