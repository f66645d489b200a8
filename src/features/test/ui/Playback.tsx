"use client";

import Box from "@mui/material/Box";
import LinearProgress from "@mui/material/LinearProgress";

import type { Frame } from "@/core/controller/session";
import { type MappedControl, readValue } from "@/core/input/input";
import { controlsOf, type ModelProfile, placeName } from "@/core/profile/profile";
import { STEPS, type Step } from "@/core/recording/recording";
import { STEP_NAMES } from "@/features/case/words/text";
import { PlanView } from "@/ui/plan/PlanView";
import { PlanFrame, Station } from "@/features/units/ui/unit/Station";
import { Gauge } from "./live/Gauge";
import { say } from "@/features/test/words/words";
import { figure } from "@/text/format";
import { Text } from "@/ui/kit/layout";

/** A recording played back through the same gauges as a live controller. */
export function Playback({
  profile,
  revision,
  frame,
}: {
  profile: ModelProfile;
  revision: string | null;
  frame: Extract<Frame, { mode: "playback" }>;
}) {
  const { state, latest } = frame;
  const controls = controlsOf(profile, revision);
  const control = controls.find((c) => c.id === state.control);
  const step = STEPS.find((s) => s === state.step) ?? "free";
  const active = latest
    ? Object.fromEntries(
        controls.map((c) => [
          c.id,
          c.kind === "stick" ? 0 : readValue(c as MappedControl, latest.axes, latest.buttons).v,
        ]),
      )
    : {};
  return (
    <Station
      plan={
        <PlanFrame>
          <PlanView profile={profile} revision={revision} active={active} selected={state.control || null} />
        </PlanFrame>
      }
    >
      <Text color="text.secondary" strong>
        {say("playingBack")}
      </Text>
      <Text component="h2" size="big" after={2} strong>
        {STEP_NAMES[step as Step]} {control && placeName(control)}
      </Text>
      {control && <Gauge control={control} latest={latest} trail={[]} cue={false} />}
      <Box sx={{ mt: 2, maxWidth: 620 }}>
        <LinearProgress
          variant="determinate"
          value={state.totalMs ? (100 * state.playedMs) / state.totalMs : 0}
          aria-label={say("played")}
          sx={{ height: 14, borderRadius: 1 }}
        />
        <Text before={1}>
          {say("playedMsOfTotalMsS", {
            playedMs: figure(state.playedMs / 1000, 1),
            totalMs: figure(state.totalMs / 1000, 1),
          })}
        </Text>
      </Box>
    </Station>
  );
}
