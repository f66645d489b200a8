"use client";

import Box from "@mui/material/Box";
import type { ReactNode } from "react";

import type { ControlResult, StickResult } from "@/core/analyse/analyse";
import type { Limits } from "@/core/grade/limits";
import { worstFirst } from "@/core/grade/grade";
import type { Plots } from "@/core/plots/plots";
import type { Healthy } from "@/features/test/readings";
import { PressLanes } from "./PressLanes";
import { RimMap } from "./RimMap";
import { StickMiddle } from "./StickMiddle";
import { StickTravel } from "./StickTravel";
import { TriggerTravel } from "./TriggerTravel";

/** What is drawn of a stick: its whole travel, or its middle brought near. */
export type StickView = "travel" | "middle";

const OF_THE_MIDDLE = new Set([
  "restOffset",
  "restNoise",
  "restSpikes",
  "safeDeadZone",
  "stuckReleases",
  "idle",
]);

/** Which of the two shows what is worst about a stick; its travel where nothing is. */
export function viewOf(result: StickResult): StickView {
  const [worst] = worstFirst(result.reasons.filter((r) => r.grade !== "A" && r.grade !== "untested"));
  return worst && OF_THE_MIDDLE.has(worst.measure) ? "middle" : "travel";
}

type Shown = {
  id: string;
  result: ControlResult;
  plots: Plots;
  limits: Limits;
  healthy: Healthy;
  /** of a stick: what is drawn; what is worst about it where it is left out */
  view?: StickView;
};

/** What a control did, as large as its figures and beside them; nothing where the recording drew nothing of it. */
export function evidenceOf({ id, result, plots, limits, healthy, view }: Shown): ReactNode | null {
  if (result.kind === "stick") {
    const plot = plots.sticks[id];
    if (!plot || (plot.path.length === 0 && plot.rest.length === 0)) return null;
    const shown = { id, result, plot, limits: limits.stick, healthy };
    return (
      <Box sx={{ aspectRatio: "1", maxWidth: 340, width: "100%", justifySelf: "center" }}>
        {(view ?? viewOf(result)) === "middle" ? <StickMiddle {...shown} /> : <StickTravel {...shown} />}
      </Box>
    );
  }
  if (result.kind === "trigger")
    return plots.triggers[id]?.length ? (
      <Box sx={{ aspectRatio: "310 / 230", maxWidth: 420 }}>
        <TriggerTravel
          id={id}
          result={result}
          pulls={plots.triggers[id]}
          marks={plots.marks[id]}
          limits={limits.trigger}
          healthy={healthy}
        />
      </Box>
    ) : null;
  const presses = plots.buttons[id];
  if (!presses?.length && !plots.rims[id]) return null;
  return (
    <Box sx={{ display: "grid", gap: 1, justifyItems: "center", maxWidth: 420 }}>
      {presses?.length ? (
        <Box sx={{ width: "100%", aspectRatio: "310 / 150" }}>
          <PressLanes id={id} presses={presses} healthy={healthy} />
        </Box>
      ) : null}
      <RimMap
        asked={plots.rims[id]?.asked ?? [0, 0, 0, 0]}
        missed={plots.rims[id]?.missed ?? [0, 0, 0, 0]}
        middle={{ asked: result.cues ?? 0, missed: result.missed ?? 0 }}
        size={150}
      />
    </Box>
  );
}
