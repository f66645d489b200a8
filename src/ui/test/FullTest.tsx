"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import FormControlLabel from "@mui/material/FormControlLabel";
import LinearProgress from "@mui/material/LinearProgress";
import Switch from "@mui/material/Switch";
import Typography from "@mui/material/Typography";
import { useEffect, useRef, useState } from "react";

import { tone } from "@/browser/sound";
import type { Frame } from "@/core/controller/session";
import type { GuideAction } from "@/core/guide/guide";
import type { Force } from "@/core/simulate/controller";
import { type MappedControl, readValue } from "@/core/profile/input";
import { controlsOf, type ModelProfile, placeName } from "@/core/profile/profile";
import { STEP_NAMES, STEP_WORDS, waitingText } from "@/text/words";
import { Kbd } from "@/ui/frame/Help";
import { PlanView } from "@/ui/plan/PlanView";
import { type ShownState, stateOfGrade } from "@/ui/state/StateMark";
import { PlanFrame, Station } from "@/ui/unit/Station";
import { FIGURES } from "@/ui/figures";
import { Gauge } from "./Gauges";

type FullFrame = Extract<Frame, { mode: "full" }>;
type Props = {
  profile: ModelProfile;
  revision: string | null;
  frame: FullFrame;
  onAct: (action: GuideAction) => void;
  force: Force;
};

const TRAIL = 140;
const CUE_SHOWN_MS = 260;

/** One step at a time: what to do, the live figure, and what it still waits for. */
export function FullTest({ profile, revision, frame, onAct, force }: Props) {
  const { state, latest } = frame;
  const controls = controlsOf(profile, revision);
  const current = state.current;
  const control = controls.find((c) => c.id === current?.control);
  const [sound, setSound] = useState(true);
  const trail = useTrail(control as MappedControl | undefined, latest, state.index);
  const cue = state.lastCue !== null && latest !== null && latest.t - state.lastCue < CUE_SHOWN_MS;

  const soundedCue = useRef<number | null>(null);
  useEffect(() => {
    if (!sound || state.lastCue === null || soundedCue.current === state.lastCue) return;
    soundedCue.current = state.lastCue;
    tone(880, 90);
  }, [sound, state.lastCue]);

  const active = latest ? Object.fromEntries(controls.map((c) => [c.id, amount(c as MappedControl, latest)])) : {};
  const states = liveStates(
    frame,
    controls.map((c) => c.id),
  );
  return (
    <Station
      plan={
        <>
          <PlanFrame>
            <PlanView profile={profile} revision={revision} states={states} active={active} selected={current?.control ?? null} />
          </PlanFrame>
          <Typography sx={{ mt: 1 }} color="text.secondary">
            Step {Math.min(state.index + 1, state.total)} of {state.total}, {frame.samples.toLocaleString("en")} samples
          </Typography>
          <LinearProgress
            variant="determinate"
            value={(state.index / state.total) * 100}
            aria-label="Steps done"
            sx={{ height: 8, borderRadius: 1 }}
          />
        </>
      }
    >
      <Box aria-live="polite">
        <Typography color="text.secondary" sx={{ fontWeight: 700 }}>
          {state.phase === "lead-in" ? "Next" : state.phase === "done" ? "Done" : current ? STEP_NAMES[current.step] : ""}
        </Typography>
        <Typography
          component="h2"
          sx={{ fontSize: { xs: "1.7rem", md: "2.3rem" }, fontWeight: 800, lineHeight: 1.15, mb: 2, textWrap: "balance" }}
        >
          {current ? STEP_WORDS[current.step](control ? placeName(control) : "") : "Every step is done"}
          {current?.step === "press" && force !== "normal" && (force === "light" ? ", as lightly as it goes" : ", hard")}
        </Typography>
      </Box>
      {state.phase === "asking" ? (
        <Box sx={{ p: 2.5, border: 3, borderColor: "primary.main", borderRadius: 1, maxWidth: 620 }}>
          <Typography sx={{ fontSize: "1.4rem", fontWeight: 700, mb: 1.5 }}>
            Nothing came from the {control ? placeName(control) : "controller"}. Was it really{" "}
            {current?.step === "press" ? "pressed" : "moved"}?
          </Typography>
          <Box sx={{ display: "flex", gap: 1.5 }}>
            <Button variant="contained" size="large" onClick={() => onAct("was-not-moved")}>
              No, try again <Key>space</Key>
            </Button>
            <Button variant="outlined" size="large" onClick={() => onAct("was-moved")}>
              Yes, it is dead <Key>y</Key>
            </Button>
          </Box>
        </Box>
      ) : (
        <>
          {control && (
            <Box sx={{ minHeight: { md: 275 } }}>
              <Gauge
                control={control}
                latest={latest}
                trail={trail}
                cue={cue}
                side={state.side}
                rim={current?.step === "press-edge" ? (state.progress?.rim ?? null) : null}
                gaps={state.progress?.gaps ?? null}
              />
            </Box>
          )}
          {!control && state.progress?.waiting.code === "hands-off" && (
            <Box
              sx={{
                fontFamily: FIGURES,
                fontSize: "5rem",
                fontWeight: 700,
                lineHeight: 1,
              }}
            >
              {state.progress.waiting.secondsLeft.toFixed(1)} s
            </Box>
          )}
          <Box sx={{ mt: 2, maxWidth: 620 }}>
            <LinearProgress
              variant="determinate"
              value={100 * (state.progress?.fraction ?? 0)}
              aria-label="This step"
              sx={{ height: 14, borderRadius: 1, "& .MuiLinearProgress-bar": { transition: "none" } }}
            />
            <Typography
              sx={{
                mt: 1,
                fontSize: "1.15rem",
                fontWeight: 600,
                minHeight: "1.8em",
                color: state.progress?.waiting.code === "too-fast" ? "caution.main" : undefined,
              }}
            >
              {state.progress ? waitingText(state.progress.waiting) : "Get ready"}
              {state.restarts > 0 && " (started again: it was too fast)"}
            </Typography>
          </Box>
        </>
      )}
      <Box sx={{ mt: 1, display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}>
        <Button variant="outlined" onClick={() => onAct("repeat")}>
          Repeat <Key>space</Key>
        </Button>
        <Button variant="outlined" onClick={() => onAct("skip")}>
          Skip, not tested <Key>s</Key>
        </Button>
        <Button variant="outlined" onClick={() => onAct("back")} disabled={state.index === 0}>
          One back
        </Button>
        <HandHint state={state} />
        <FormControlLabel control={<Switch checked={sound} onChange={(e) => setSound(e.target.checked)} />} label="Cue sounds" />
      </Box>
    </Station>
  );
}

/** Which held button repeats or skips, once one has passed: the hands need not leave the controller. */
function HandHint({ state }: { state: FullFrame["state"] }) {
  const { again, skip } = state.commands;
  if (!again && !skip) return null;
  return (
    <Typography sx={{ flexBasis: "100%", fontWeight: 600 }}>
      Hold for a second:{again && ` ${placeName({ id: again })} to repeat`}
      {again && skip && ","}
      {skip && ` ${placeName({ id: skip })} to skip`}
    </Typography>
  );
}

const Key = ({ children }: { children: string }) => (
  <Box component="span" sx={{ ml: 1, display: "inline-flex" }}>
    <Kbd>{children}</Kbd>
  </Box>
);

const amount = (c: MappedControl, latest: NonNullable<Frame["latest"]>) => {
  const { x, y, v } = readValue(c, latest.axes, latest.buttons);
  return c.kind === "stick" ? Math.min(0.49, Math.hypot(x, y)) : v;
};

/** Verdicts of the controls whose steps are over; the others are still not tested. */
function liveStates({ state }: FullFrame, ids: string[]): Record<string, ShownState> {
  return Object.fromEntries(
    ids.flatMap((id): [string, ShownState][] => {
      const grade = state.analysis?.controls[id]?.grade;
      return grade && grade !== "untested" ? [[id, stateOfGrade(grade)]] : [];
    }),
  );
}

function useTrail(control: MappedControl | undefined, latest: Frame["latest"], step: number): [number, number][] {
  const [trail, setTrail] = useState<{ step: number; t: number; points: [number, number][] }>({ step, t: -1, points: [] });
  if (control?.kind === "stick" && latest && (latest.t !== trail.t || step !== trail.step)) {
    const { x, y } = readValue(control, latest.axes, latest.buttons);
    setTrail({ step, t: latest.t, points: [...(step === trail.step ? trail.points.slice(-TRAIL) : []), [x, y]] });
  }
  return trail.points;
}
