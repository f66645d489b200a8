"use client";

import Box from "@mui/material/Box";

import type { RimSide } from "@/core/guide/plan";
import type { Progress } from "@/core/guide/progress";
import type { Reading } from "@/core/guide/source";
import { type MappedControl, readValue } from "@/core/input/input";
import type { ProfileControl } from "@/core/profile/profile";
import { PressLanes } from "@/features/test/ui/result/PressLanes";
import { RimMap } from "@/features/test/ui/result/RimMap";
import { say } from "@/features/test/words/words";
import { figure } from "@/text/format";
import { FIGURES } from "@/ui/figures";
import { Row } from "@/ui/kit/layout";
import { SIZE } from "@/ui/tokens";
import { StickScope } from "./StickScope";
import { TriggerTrace } from "./TriggerTrace";

type Props = {
  control: ProfileControl;
  latest: Reading | null;
  /** where a stick was lately, as x and y; what a trigger read lately, as ms and value */
  trail: readonly (readonly [number, number])[];
  cue: boolean;
  side?: RimSide | null;
  /** what the step has so far */
  progress?: Progress | null;
};

/** The live gauge of one control: where it is now, at the display's rate, and what its step has so far. */
export function Gauge({ control, latest, trail, cue, side, progress }: Props) {
  const value = latest
    ? readValue(control as MappedControl, latest.axes, latest.buttons)
    : { x: 0, y: 0, v: 0 };
  if (control.kind === "stick")
    return (
      <Row gap={3} at="center">
        <Box sx={{ width: 220, height: 220 }}>
          <StickScope x={value.x} y={value.y} trail={trail} progress={progress ?? null} />
        </Box>
        <Box sx={{ display: "grid", gap: 1.5 }}>
          <div>
            <Number_>{signed(value.x)}</Number_>
            {say("leftToRight")}
          </div>
          <div>
            <Number_>{signed(-value.y)}</Number_>
            {say("downToUp")}
          </div>
        </Box>
      </Row>
    );
  if (control.kind === "trigger")
    return (
      <Box sx={{ display: "grid", gap: 1, maxWidth: 480 }}>
        <Number_>{`${figure(value.v * 100, 1)} %`}</Number_>
        <Box sx={{ height: 190 }}>
          <TriggerTrace now={value.v} trail={trail} heights={progress?.heights ?? []} />
        </Box>
      </Box>
    );
  return (
    <Row gap={3} at="center">
      <PressLamp pressed={value.v > 0.5} cue={cue} side={side ?? null} />
      {progress?.rim && <RimMap asked={progress.rim.asked} missed={progress.rim.missed} size={200} />}
      {progress?.answers && !progress.rim && (
        <Box sx={{ width: 310, height: 150 }}>
          <PressLanes id={control.id} presses={progress.answers} healthy={null} />
        </Box>
      )}
    </Row>
  );
}

const Number_ = ({ children }: { children: string }) => (
  <Box
    sx={{
      fontFamily: FIGURES,
      fontSize: SIZE.big,
      fontWeight: 700,
      lineHeight: 1,
      whiteSpace: "pre",
    }}
  >
    {children}
  </Box>
);

const signed = (v: number) => `${v < 0 ? "−" : "+"}${figure(Math.abs(v * 100), 1).padStart(5, " ")} %`;

function PressLamp({ pressed, cue, side }: { pressed: boolean; cue: boolean; side: RimSide | null }) {
  return (
    <Box
      aria-label={cue ? say("pressNow") : say("waitForTheCue")}
      sx={{
        width: 200,
        height: 200,
        borderRadius: "50%",
        border: "10px solid",
        borderColor: cue ? "primary.main" : "divider",
        bgcolor: pressed ? "primary.main" : "background.paper",
        color: pressed ? "primary.contrastText" : "text.primary",
        display: "grid",
        placeItems: "center",
        fontSize: SIZE.head,
        fontWeight: 800,
      }}
    >
      {side ?? (cue ? say("press") : "")}
    </Box>
  );
}
