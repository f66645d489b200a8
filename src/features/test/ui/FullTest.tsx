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
import { type MappedControl, readValue } from "@/core/input/input";
import { controlsOf, type ModelProfile, placeName, type ProfileControl } from "@/core/profile/profile";
import { STEP_NAMES, STEP_WORDS, waitingText } from "@/features/case/words/text";
import { Kbd } from "@/ui/kit/Kbd";
import { PlanView } from "@/ui/plan/PlanView";
import { type ShownState, stateOfGrade } from "@/ui/state/StateMark";
import { PlanFrame, Station } from "@/features/units/ui/unit/Station";
import { FIGURES } from "@/ui/figures";
import { FoundSoFar } from "./live/FoundSoFar";
import { Gauge } from "./live/Gauge";
import { say } from "@/features/test/words/words";
import { count, figure } from "@/text/format";
import { SIZE } from "@/ui/tokens";
import { Column, Row, Text } from "@/ui/kit/layout";

type FullFrame = Extract<Frame, { mode: "full" }>;
type Props = {
  profile: ModelProfile;
  revision: string | null;
  frame: FullFrame;
  onAct: (action: GuideAction) => void;
  force: Force;
};

const TRAIL = 140;
const TRACE = 300;
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

  const active = latest
    ? Object.fromEntries(controls.map((c) => [c.id, amount(c as MappedControl, latest)]))
    : {};
  const states = liveStates(
    frame,
    controls.map((c) => c.id),
  );
  const stepWords = () => {
    if (state.phase === "lead-in") return say("next");
    if (state.phase === "done") return say("done");
    if (current) return STEP_NAMES[current.step];
    return "";
  };
  return (
    <Station
      plan={
        <>
          <PlanFrame>
            <PlanView
              profile={profile}
              revision={revision}
              states={states}
              active={active}
              selected={current?.control ?? null}
            />
          </PlanFrame>
          <Text before={1} color="text.secondary">
            {say("stepOfTotalSamples", {
              index: Math.min(state.index + 1, state.total),
              total: state.total,
              samples: count(frame.samples),
            })}
          </Text>
          <LinearProgress
            variant="determinate"
            value={(state.index / state.total) * 100}
            aria-label={say("stepsDone")}
            sx={{ height: 8, borderRadius: 1 }}
          />
        </>
      }
    >
      <Box aria-live="polite">
        <Text color="text.secondary" strong>
          {stepWords()}
        </Text>
        <Typography
          component="h2"
          sx={{
            fontSize: { xs: SIZE.head, md: SIZE.figure }, // two lines of it leave room for what can be done
            fontWeight: 800,
            lineHeight: 1.15,
            mb: 1,
            textWrap: "balance",
          }}
        >
          {current ? STEP_WORDS[current.step](control ? placeName(control) : "") : say("everyStepIsDone")}
          {current?.step === "press" &&
            force !== "normal" &&
            (force === "light" ? say("asLightlyAsItGoes") : say("hard"))}
        </Typography>
      </Box>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) 250px" },
          gap: 3,
          alignItems: "start",
        }}
      >
        <Column gap={1}>
          {state.phase === "asking" ? (
            <Asking control={control} step={current?.step} onAct={onAct} />
          ) : (
            <Running frame={frame} control={control} trail={trail} cue={cue} />
          )}
          <Acts state={state} onAct={onAct} sound={sound} setSound={setSound} />
        </Column>
        <FoundSoFar controls={controls} analysis={state.analysis} open={state.open} risk={state.risk} />
      </Box>
    </Station>
  );
}

/** What the hand can do besides going on: again, past, back, and whether cues are heard. */
function Acts({
  state,
  onAct,
  sound,
  setSound,
}: {
  state: FullFrame["state"];
  onAct: Props["onAct"];
  sound: boolean;
  setSound: (on: boolean) => void;
}) {
  return (
    <Row gap={1} at="center">
      <Button variant="outlined" onClick={() => onAct("repeat")}>
        {say("repeat")} <Key>{say("space")}</Key>
      </Button>
      <Button
        variant="outlined"
        onClick={() => onAct("skip")}
        disabled={state.current?.step === "rest" && state.index > 0}
      >
        {say("skipNotTested")} <Key>s</Key>
      </Button>
      <Button variant="outlined" onClick={() => onAct("back")} disabled={state.index === 0}>
        {say("oneBack")}
      </Button>
      <HandHint state={state} />
      <FormControlLabel
        control={<Switch checked={sound} onChange={(e) => setSound(e.target.checked)} />}
        label={say("cueSounds")}
      />
    </Row>
  );
}

type Control = ProfileControl | undefined;

/** Nothing came: whether it was moved is the one thing that only the person knows. */
function Asking({
  control,
  step,
  onAct,
}: {
  control: Control;
  step: string | undefined;
  onAct: Props["onAct"];
}) {
  return (
    <Box sx={{ p: 2.5, border: 3, borderColor: "primary.main", borderRadius: 1 }}>
      <Text size="title" after={1.5} strong>
        {say("nothingCameFromTheControlWas", {
          control: control ? placeName(control) : say("controller2"),
          step: step === "press" ? say("pressed") : say("moved"),
        })}
      </Text>
      <Row gap={1.5}>
        <Button variant="contained" size="large" onClick={() => onAct("was-not-moved")}>
          {say("noTryAgain")} <Key>{say("space")}</Key>
        </Button>
        <Button variant="outlined" size="large" onClick={() => onAct("was-moved")}>
          {say("yesItIsDead")} <Key>y</Key>
        </Button>
      </Row>
    </Box>
  );
}

/** What the step that runs has so far, and what it still waits for. */
function Running({
  frame: { state, latest },
  control,
  trail,
  cue,
}: {
  frame: FullFrame;
  control: Control;
  trail: readonly (readonly [number, number])[];
  cue: boolean;
}) {
  const { progress } = state;
  return (
    <Box>
      {control && (
        <Box sx={{ minHeight: { md: 220 } }}>
          <Gauge
            control={control}
            latest={latest}
            trail={trail}
            cue={cue}
            side={state.side}
            progress={progress}
          />
        </Box>
      )}
      {!control && progress?.waiting.code === "hands-off" && (
        <Box sx={{ fontFamily: FIGURES, fontSize: SIZE.giant, fontWeight: 700, lineHeight: 1 }}>
          {figure(progress.waiting.secondsLeft, 1)} s
        </Box>
      )}
      <Box sx={{ mt: 1.5 }}>
        <LinearProgress
          variant="determinate"
          value={100 * (progress?.fraction ?? 0)}
          aria-label={say("thisStep")}
          sx={{ height: 14, borderRadius: 1, "& .MuiLinearProgress-bar": { transition: "none" } }}
        />
        <Typography
          sx={{
            mt: 1,
            fontSize: SIZE.lead,
            fontWeight: 600,
            minHeight: "1.8em",
            color: progress?.waiting.code === "too-fast" ? "caution.main" : undefined,
          }}
        >
          {progress ? waitingText(progress.waiting) : say("getReady")}
          {state.restarts > 0 && say("startedAgainItWasTooFast")}
        </Typography>
      </Box>
    </Box>
  );
}

/** Which held button repeats or skips, once one has passed: the hands need not leave the controller. */
function HandHint({ state }: { state: FullFrame["state"] }) {
  const { again, skip } = state.commands;
  if (!again && !skip) return null;
  return (
    <Typography sx={{ flexBasis: "100%", fontWeight: 600 }}>
      {say("holdForASecond")}
      {again && say("placeNameToRepeat", { placeName: placeName({ id: again }) })}
      {again && skip && ","}
      {skip && say("placeNameToSkip", { placeName: placeName({ id: skip }) })}
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

/** Where the control of a step was lately: a stick as x and y, a trigger as ms and value. */
function useTrail(
  control: MappedControl | undefined,
  latest: Frame["latest"],
  step: number,
): [number, number][] {
  const [trail, setTrail] = useState<{ step: number; t: number; points: [number, number][] }>({
    step,
    t: -1,
    points: [],
  });
  const most = control?.kind === "trigger" ? TRACE : TRAIL;
  if (control && control.kind !== "button" && latest && (latest.t !== trail.t || step !== trail.step)) {
    const { x, y, v } = readValue(control, latest.axes, latest.buttons);
    setTrail({
      step,
      t: latest.t,
      points: [
        ...(step === trail.step ? trail.points.slice(-most) : []),
        control.kind === "stick" ? [x, y] : [latest.t, v],
      ],
    });
  }
  return trail.points;
}
