"use client";

import Box from "@mui/material/Box";
import dynamic from "next/dynamic";
import type { ReactNode } from "react";

import type { ControlResult } from "@/core/analyse/analyse";
import type { Limits } from "@/core/grade/limits";
import type { Plots } from "@/core/plots/plots";
import { RimMap } from "./RimMap";
import { StickEvidence } from "./StickEvidence";

const Charts = {
  Trigger: dynamic(() => import("@/ui/charts/charts").then((m) => m.TriggerPlot), { ssr: false }),
  Press: dynamic(() => import("@/ui/charts/charts").then((m) => m.PressPlot), { ssr: false }),
};

/** What a control did, as large as its figures and beside them; nothing where the recording drew nothing of it. */
export function evidenceOf(
  result: ControlResult,
  id: string,
  plots: Plots,
  limits: Limits,
): ReactNode | null {
  if (result.kind === "stick") {
    const plot = plots.sticks[id];
    if (!plot || (plot.path.length === 0 && plot.rest.length === 0)) return null;
    return (
      <Box sx={{ aspectRatio: "1", maxWidth: 340, width: "100%", justifySelf: "center" }}>
        <StickEvidence result={result} plot={plot} limits={limits.stick} />
      </Box>
    );
  }
  if (result.kind === "trigger")
    return plots.triggers[id]?.length ? (
      <Charts.Trigger pulls={plots.triggers[id]} limits={limits.trigger} />
    ) : null;
  if (!plots.buttons[id]?.length && !plots.rims[id]) return null;
  return (
    <Box sx={{ display: "grid", gap: 1, justifyItems: "center" }}>
      <RimMap
        asked={plots.rims[id]?.asked ?? [0, 0, 0, 0]}
        missed={plots.rims[id]?.missed ?? [0, 0, 0, 0]}
        middle={{ asked: result.cues ?? 0, missed: result.missed ?? 0 }}
        size={150}
      />
      {plots.buttons[id]?.length ? (
        <Box sx={{ width: "100%" }}>
          <Charts.Press presses={plots.buttons[id]} />
        </Box>
      ) : null}
    </Box>
  );
}
