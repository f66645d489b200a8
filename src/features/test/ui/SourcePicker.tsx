"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";

import { connectedPads, type Pad, padActivity } from "@/browser/gamepad";
import type { PageSource } from "@/browser/runner";
import type { ControllerFaults } from "@/core/simulate/faults";
import { type Preset, PRESETS } from "@/core/simulate/presets";
import { Choice } from "@/ui/fields/Choice";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { say } from "@/features/test/words/words";
import { codeWords } from "@/words/codes";
import { Notice, Row, Text } from "@/ui/kit/layout";

const LOOK_MS = 400;
const MOVED = 0.35;

export type TestKind = "full" | "quick" | "spot";
export const KIND_WORDS: Record<TestKind, [title: string, words: string]> = {
  full: [say("fullTest"), say("handsOffTwoButtonsThenSticks")],
  quick: [say("quickLook"), say("moveEverythingOnceInAnyOrder")],
  spot: [say("spotTest"), say("theseControlsOnlyASecondLook")],
};

/** The slot whose controller was moved last: with two plugged in it tells which is in the hand. */
function useMovedPad(): number | null {
  const [moved, setMoved] = useState<number | null>(null);
  useEffect(() => {
    let rest = padActivity();
    const timer = setInterval(() => {
      const now = padActivity();
      for (const [slot, values] of now) {
        const before = rest.get(slot);
        if (before && values.some((v, i) => Math.abs(v - (before[i] ?? v)) > MOVED)) setMoved(slot);
        else if (!before) rest = new Map([...rest, [slot, values]]);
      }
    }, 60);
    return () => clearInterval(timer);
  }, []);
  return moved;
}

/** The controller to test: one that the browser reports, the simulated one, or a recording played back. */
export function SourcePicker({
  kind,
  hash,
  hidden,
  onPick,
}: {
  kind: TestKind;
  hash: number;
  /** the hidden faults of a practice unit: there is nothing to choose */
  hidden: ControllerFaults | null;
  onPick: (source: PageSource, speed: number) => void;
}) {
  const [pads, setPads] = useState<Pad[]>([]);
  const [preset, setPreset] = useState<Preset>("healthy");
  const [speed, setSpeed] = useState(1);
  const [seed, setSeed] = useState(String(hash));
  const [link, setLink] = useState<"cable" | "radio">("cable");
  const moved = useMovedPad();
  const secure = typeof window === "undefined" || window.isSecureContext;

  useEffect(() => {
    const look = () => setPads((was) => sameOr(was, connectedPads()));
    const timer = setInterval(look, LOOK_MS);
    window.addEventListener("gamepadconnected", look);
    return () => {
      clearInterval(timer);
      window.removeEventListener("gamepadconnected", look);
    };
  }, []);

  const playBack = async (file: File | undefined) => {
    if (file) onPick({ kind: "playback", csv: await file.text() }, speed);
  };
  return (
    <Box sx={{ maxWidth: 900 }}>
      <Text component="h2" size="figure" after={0.5} strong>
        {KIND_WORDS[kind][0]}
      </Text>
      <Text color="text.secondary" after={2}>
        {KIND_WORDS[kind][1]}
      </Text>
      {!secure && (
        <Notice severity="warning" after={2}>
          {say("theBrowserGivesControllersTo")}
        </Notice>
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" }, gap: 3 }}>
        <section>
          <Typography component="h3" variant="h2">
            {say("theControllerOnTheBench")}
          </Typography>
          {pads.length === 0 && <Text around={1}>{say("noneSeenYetPlugItIn")}</Text>}
          {pads.length > 0 && (
            <Choice
              label={say("linkedBy")}
              value={link}
              onChange={setLink}
              options={[
                ["cable", say("cable")],
                ["radio", say("radio")],
              ]}
            />
          )}
          {pads.length > 1 && <Text before={1}>{say("padsArePluggedInMoveThe", { pads: pads.length })}</Text>}
          <Box sx={{ display: "grid", gap: 1, mt: 1 }}>
            {pads.map((p, i) => (
              <Button
                key={p.index}
                variant={pads.length === 1 || moved === p.index ? "contained" : "outlined"}
                size="large"
                autoFocus={i === 0}
                onClick={() => onPick({ kind: "gamepad", pad: p, link }, 1)}
                sx={{ justifyContent: "start", whiteSpace: "normal", textAlign: "left" }}
              >
                {say("testIdAxesAxesButtonsButtons", { id: p.id, axes: p.axes, buttons: p.buttons })}
                {pads.length > 1 && say("slotIndex", { index: p.index + 1 })})
                {pads.length > 1 && moved === p.index && say("thisOneMoved")}
              </Button>
            ))}
          </Box>
        </section>
        <Box
          component="section"
          sx={{
            borderLeft: { md: 1 },
            borderColor: { md: "divider" },
            pl: { md: 3 },
            display: "grid",
            gap: 1.3,
            alignContent: "start",
          }}
        >
          <Typography component="h3" variant="h2">
            {say("orAStandIn")}
          </Typography>
          <Box sx={{ display: "grid", gridTemplateColumns: "2fr 1fr 1fr", gap: 1 }}>
            {!hidden && (
              <NativeSelect
                label={say("simulatedFault")}
                value={preset}
                onChange={(e) => setPreset(e.target.value as Preset)}
              >
                {PRESETS.map((p) => (
                  <option key={p} value={p}>
                    {codeWords(p)}
                  </option>
                ))}
              </NativeSelect>
            )}
            <NativeSelect
              label={say("speed")}
              value={speed}
              onChange={(e) => setSpeed(Number(e.target.value))}
            >
              {[1, 4, 20].map((s) => (
                <option key={s} value={s}>
                  {s} ×
                </option>
              ))}
            </NativeSelect>
            <TextField
              label={say("seed")}
              value={seed}
              onChange={(e) => setSeed(e.target.value.replace(/\D/g, "").slice(0, 8))}
            />
          </Box>
          <Row gap={1}>
            <Button
              variant="outlined"
              onClick={() =>
                onPick(
                  {
                    kind: "simulated",
                    seed: Number(seed) || 1,
                    preset,
                    ...(hidden ? { faults: hidden } : {}),
                  },
                  speed,
                )
              }
            >
              {hidden ? say("testThePracticeUnit") : say("testTheSimulatedController")}
            </Button>
            <Button component="label">
              {say("playARecordingBack")}
              <input
                type="file"
                accept=".csv,text/csv"
                hidden
                aria-label={say("playARecordingBack")}
                onChange={(e) => void playBack(e.target.files?.[0])}
              />
            </Button>
          </Row>
        </Box>
      </Box>
    </Box>
  );
}

const sameOr = (was: Pad[], now: Pad[]): Pad[] => (JSON.stringify(was) === JSON.stringify(now) ? was : now);
