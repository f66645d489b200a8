"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";

import type { Pad } from "@/browser/gamepad";
import { discard, keep, runsHere, sendOne } from "@/browser/outbox";
import { simulatedTables } from "@/browser/simulated-unit";
import { type PageSource, TestRunner } from "@/browser/runner";
import type { Frame } from "@/core/controller/session";
import type { GuideAction } from "@/core/guide/guide";
import type { Limits } from "@/core/grade/limits";
import { planFullTest, planSpotTest, type PressAim } from "@/core/guide/plan";
import { rimFromClaim } from "@/core/claim/claim";
import { controlsOf, type ModelProfile, placeName, profileMap } from "@/core/profile/profile";
import { lackingControls, type MappedControl } from "@/core/input/input";
import type { Force } from "@/core/simulate/controller";
import type { PadHistory } from "@/features/test/recordings";
import { placeWords } from "@/text/names";
import { useKeys } from "@/ui/kit/keys";
import { BeforeTest, type Odds } from "./BeforeTest";
import { likeliestFirst } from "@/core/guide/likeliest";
import { FullTest } from "./FullTest";
import { Playback } from "./Playback";
import { QuickLookView } from "./QuickLookView";
import type { ControllerFaults } from "@/core/simulate/faults";
import { SourcePicker, type TestKind } from "./SourcePicker";
import { say } from "@/features/test/words/words";
import { codeWords } from "@/words/codes";
import type { Id } from "@/core/base/ids";
import { Notice, Row } from "@/ui/kit/layout";

type Props = {
  unit: { id: string; tag: string; revision: string | null; claim: string };
  profile: ModelProfile;
  limits: Limits;
  kind: TestKind;
  /** a spot test: which controls, and how hard they are pressed */
  spot: { controls: string[]; force: Force } | null;
  /** where to go with the result; the test station when left out */
  back: string | null;
  /** faults that a practice unit hides */
  hidden: ControllerFaults | null;
  /** a test after the first is a proof: its buttons are pressed until few bad ones can be left */
  aim: PressAim | null;
  /** what nobody tested, by its odds of being bad */
  odds: readonly Odds[];
  /** tags of others that want the very same on the table */
  alike: readonly string[];
};

const TESTER_LABELS: Record<PageSource["kind"], (s: PageSource) => string> = {
  gamepad: (s) => (s.kind === "gamepad" ? s.pad.id : ""),
  simulated: (s) =>
    s.kind === "simulated"
      ? say("simulatedPresetSeedSeed", {
          preset: s.faults ? say("practiceUnit") : codeWords(s.preset),
          seed: s.seed,
        })
      : "",
  playback: () => say("recordingPlayedBack"),
};

const KEEP_EVERY_MS = 15_000;

async function openTest(unitId: Id<"unit">): Promise<string | null> {
  try {
    const response = await fetch("/api/recordings/open", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ unitId }),
    });
    const reply = (await response.json()) as { ok: boolean; value?: { id: string } };
    return reply.ok ? reply.value!.id : null;
  } catch {
    return null;
  }
}

/**
 * Why the controller in the hand may be another model than the unit was taken in as; null when nothing speaks
 * for that.
 */
async function doubtAbout(pad: Pad, profile: ModelProfile, revision: string | null): Promise<string | null> {
  const lacks = lackingControls(
    profileMap(profile, revision),
    (i) => i < pad.axes,
    (i) => i < pad.buttons,
  );
  if (lacks.length > 0)
    return say("thisControllerReportsAxesAxes", {
      axes: pad.axes,
      buttons: pad.buttons,
      lacks: lacks.map(placeWords).join(", "),
      profile: profile.name,
    });
  const query = new URLSearchParams({ name: pad.id, model: profile.id });
  const response = await fetch(`/api/controllers?${query}`).catch(() => null);
  if (!response?.ok) return null; // a test does not wait for a question that cannot be asked
  const { value } = (await response.json()) as { value: PadHistory };
  const [other] = value.others;
  if (value.own > 0 || !other) return null;
  return say("aControllerThatCallsItselfPad", { pad: pad.id, model: other.model, units: other.units });
}

const hashOf = (text: string) => [...text].reduce((h, c) => (h * 31 + c.charCodeAt(0)) % 100_000, 7);

/**
 * Runs a test from picking the controller to the stored result. What was measured is never lost on the way.
 */
export function TestRun({ unit, profile, limits, kind, spot, back, hidden, aim, odds, alike }: Props) {
  const router = useRouter();
  const runner = useRef<TestRunner | null>(null);
  const recordingId = useRef("");
  const [source, setSource] = useState<PageSource | null>(null);
  const [frame, setFrame] = useState<Frame | null>(null);
  const [gone, setGone] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [unopened, setUnopened] = useState(false);
  const [doubt, setDoubt] = useState<{ picked: PageSource; why: string } | null>(null);
  const [saving, setSaving] = useState(false);
  const finished = useRef(false);
  const kept = useRef(0);

  useEffect(
    () => () => {
      runner.current?.stop();
      runsHere(null);
    },
    [],
  );

  const item = async (state: "unfinished" | "ready", picked: PageSource) => ({
    id: recordingId.current,
    unitId: unit.id,
    tag: unit.tag,
    purpose: kind,
    source: picked.kind,
    tester: {
      label: TESTER_LABELS[picked.kind](picked).slice(0, 200),
      host: navigator.userAgent.slice(0, 300),
      version: process.env.BIRDCAGE_VERSION,
      ...(picked.kind === "gamepad" ? { slot: picked.pad.index, link: picked.link } : {}),
    },
    spot,
    startedAt: runner.current!.startedAt,
    csvGz: await runner.current!.csvGz(),
    state,
  });

  /** Between steps, so that a page that is closed or reloaded in the middle loses little. */
  const keepUnfinished = async (picked: PageSource) => {
    const unfinished = await item("unfinished", picked);
    if (!finished.current) await keep(unfinished);
  };

  const finish = async (picked: PageSource) => {
    if (finished.current) return;
    finished.current = true;
    setSaving(true);
    runner.current!.rest();
    await keep(await item("ready", picked));
    runner.current!.stop();
    const sent = await sendOne(recordingId.current);
    router.push(back ?? `/units/${unit.tag}/test${sent.ok ? `?r=${recordingId.current}` : ""}`);
    router.refresh();
  };

  const planOf = () => {
    if (kind === "quick") return "quick" as const;
    const controls = controlsOf(profile, unit.revision);
    const mapped = controls as (MappedControl & { rim?: boolean })[];
    if (spot) return planSpotTest(mapped, spot.controls);
    const named = controls.map((c) => ({ id: c.id, kind: c.kind, name: placeName(c) }));
    const first = likeliestFirst(odds.filter((o) => named.some((c) => c.id === o.place)));
    return planFullTest(
      mapped,
      rimFromClaim(unit.claim, named),
      aim,
      first.map((o) => o.place),
    );
  };

  const begin = async (picked: PageSource, speed: number, sure = false) => {
    setProblem(null);
    setDoubt(null);
    if (picked.kind === "gamepad" && !sure) {
      const why = await doubtAbout(picked.pad, profile, unit.revision);
      if (why) return setDoubt({ picked, why });
    }
    finished.current = false;
    kept.current = Date.now();
    // opened before the first sample; without the server it is measured all the same, and can be a proof only
    // by a lead's word
    const opened = picked.kind === "gamepad" ? await openTest(unit.id) : null;
    recordingId.current = opened ?? crypto.randomUUID();
    runsHere(recordingId.current);
    setUnopened(picked.kind === "gamepad" && opened === null);
    const take = (next: Frame) => {
      setFrame(next);
      if (
        next.mode === "full" &&
        next.state.index > 0 &&
        next.state.phase === "lead-in" &&
        Date.now() - kept.current > KEEP_EVERY_MS
      ) {
        kept.current = Date.now();
        void keepUnfinished(picked);
      }
      const done = next.mode === "full" ? next.state.phase === "done" : next.state.done;
      if (done) void finish(picked);
    };
    const lost = (isGone: boolean) => {
      setGone(isGone);
      void runner.current?.act(isGone ? "pause" : "resume");
    };
    runner.current?.stop();
    runner.current = new TestRunner(picked, speed, take, lost);
    const why = await runner.current.start({
      plan: planOf(),
      profile,
      revision: unit.revision,
      house: limits,
      aim,
    });
    if (why !== null) {
      setProblem(why);
      return;
    }
    setSource(picked);
  };

  const act = (action: GuideAction) => void runner.current?.act(action);
  const asking = frame?.mode === "full" && frame.state.phase === "asking";
  useKeys(
    source && !saving
      ? {
          s: () => act("skip"),
          " ": () => act(asking ? "was-not-moved" : "repeat"),
          Backspace: () => act("back"),
          ...(asking ? { y: () => act("was-moved") } : {}),
        }
      : {},
  );

  const leave = async () => {
    finished.current = true;
    if (recordingId.current) await discard(recordingId.current);
    runner.current?.stop();
    router.push(`/units/${unit.tag}/test`);
  };

  if (!source || !frame)
    return (
      <>
        {problem && (
          <Notice severity="error" role="alert" after={2}>
            {problem}
          </Notice>
        )}
        {doubt && (
          <Notice severity="warning" role="alert" after={2}>
            {say("whyIsThisUnitReallyA", { why: doubt.why, profile: profile.name })}
            <Row gap={1} before={1}>
              <Button variant="contained" onClick={() => void begin(doubt.picked, 1, true)}>
                {say("yesAProfileTestIt", { profile: profile.name })}
              </Button>
              <Button component={Link} href={`/units/${unit.tag}/intake`} variant="outlined">
                {say("noCorrectItsModel")}
              </Button>
              <Button onClick={() => setDoubt(null)}>{say("anotherController")}</Button>
            </Row>
          </Notice>
        )}
        {spot && (
          <Notice role="note" severity="info" after={2}>
            {spot.controls.map((id) => placeName({ id })).join(", ")}
            {spot.force !== "normal" &&
              say("pressForce", { force: spot.force === "light" ? say("asLightlyAsItGoes2") : say("hard2") })}
            .
          </Notice>
        )}
        <Box
          sx={{
            display: "grid",
            gap: 3,
            alignItems: "start",
            gridTemplateColumns: {
              xs: "minmax(0,1fr)",
              md: kind === "spot" ? "minmax(0,1fr)" : "minmax(0,1fr) 340px",
            },
          }}
        >
          <SourcePicker
            hidden={hidden}
            kind={kind}
            hash={hashOf(unit.tag)}
            onPick={(s, speed) =>
              void begin(
                // the made-up unit reports through the tables that its memory keeps
                s.kind === "simulated"
                  ? { ...s, ...(spot ? { force: spot.force } : {}), calibration: simulatedTables(unit.tag) }
                  : s,
                speed,
              )
            }
          />
          {kind !== "spot" && (
            <BeforeTest profile={profile} revision={unit.revision} odds={odds} alike={alike} />
          )}
        </Box>
      </>
    );
  return (
    <Box>
      {gone && (
        <Notice severity="warning" role="alert" after={2}>
          {say("theControllerIsGonePlugIt")}
        </Notice>
      )}
      {unopened && kind === "full" && (
        <Notice severity="warning" role="status" after={2}>
          {say("theWorkshopWasOutOfReach")}
        </Notice>
      )}
      {saving && (
        <Notice severity="info" after={2}>
          {say("finishedTheServerMeasuresIt")}
        </Notice>
      )}
      {frame.mode === "full" && (
        <FullTest
          profile={profile}
          revision={unit.revision}
          frame={frame}
          onAct={act}
          force={spot?.force ?? "normal"}
        />
      )}
      {frame.mode === "quick" && (
        <QuickLookView profile={profile} revision={unit.revision} state={frame.state} />
      )}
      {frame.mode === "playback" && <Playback profile={profile} revision={unit.revision} frame={frame} />}
      <Row gap={1} before={2} oneLine>
        <Button
          onClick={() => void finish(source)}
          disabled={saving}
          variant={frame.mode === "quick" ? "contained" : "text"}
        >
          {frame.mode === "quick" ? say("finishNow") : say("endHereKeepWhatWasMeasured")}
        </Button>
        <Button onClick={() => void leave()} disabled={saving} color="inherit">
          {say("throwThisTestAway")}
        </Button>
      </Row>
    </Box>
  );
}
