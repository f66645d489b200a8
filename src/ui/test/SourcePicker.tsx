"use client";

import Alert from "@mui/material/Alert";
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

const LOOK_MS = 400;
const MOVED = 0.35;

export type TestKind = "full" | "quick" | "spot";
export const KIND_WORDS: Record<TestKind, [title: string, words: string]> = {
  full: [
    "Full test",
    "Hands off, two buttons, then sticks, triggers and the other buttons. Each step ends by itself when it has enough evidence.",
  ],
  quick: ["Quick look", "Move everything once, in any order. It ends by itself within 90 seconds, and is never proof."],
  spot: ["Spot test", "These controls only: a second look, never proof."],
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
      <Typography component="h2" sx={{ fontSize: "2rem", fontWeight: 800, mb: 0.5 }}>
        {KIND_WORDS[kind][0]}
      </Typography>
      <Typography color="text.secondary" sx={{ mb: 2.5 }}>
        {KIND_WORDS[kind][1]}
      </Typography>
      {!secure && (
        <Alert severity="warning" sx={{ mb: 2 }}>
          The browser gives controllers to secure addresses only. Open Birdcage by https, or on this machine by 127.0.0.1.
        </Alert>
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" }, gap: 3 }}>
        <section>
          <Typography component="h3" variant="h2">
            The controller on the bench
          </Typography>
          {pads.length === 0 && (
            <Typography sx={{ my: 1 }}>
              None seen yet. Plug it in and press any button on it: the browser shows it only then.
            </Typography>
          )}
          {pads.length > 0 && (
            <Choice
              label="Linked by"
              value={link}
              onChange={setLink}
              options={[
                ["cable", "cable"],
                ["radio", "radio"],
              ]}
            />
          )}
          {pads.length > 1 && (
            <Typography sx={{ mt: 1 }}>{pads.length} are plugged in. Move the one to test: it says so here.</Typography>
          )}
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
                Test {p.id} ({p.axes} axes, {p.buttons} buttons{pads.length > 1 && `, slot ${p.index + 1}`})
                {pads.length > 1 && moved === p.index && " – this one moved"}
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
            Or a stand-in
          </Typography>
          <Box sx={{ display: "grid", gridTemplateColumns: "2fr 1fr 1fr", gap: 1 }}>
            {!hidden && (
              <NativeSelect label="Simulated fault" value={preset} onChange={(e) => setPreset(e.target.value as Preset)}>
                {PRESETS.map((p) => (
                  <option key={p} value={p}>
                    {p.replaceAll("-", " ")}
                  </option>
                ))}
              </NativeSelect>
            )}
            <NativeSelect label="Speed" value={speed} onChange={(e) => setSpeed(Number(e.target.value))}>
              {[1, 4, 20].map((s) => (
                <option key={s} value={s}>
                  {s} ×
                </option>
              ))}
            </NativeSelect>
            <TextField label="Seed" value={seed} onChange={(e) => setSeed(e.target.value.replace(/\D/g, "").slice(0, 8))} />
          </Box>
          <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
            <Button
              variant="outlined"
              onClick={() =>
                onPick({ kind: "simulated", seed: Number(seed) || 1, preset, ...(hidden ? { faults: hidden } : {}) }, speed)
              }
            >
              {hidden ? "Test the practice unit" : "Test the simulated controller"}
            </Button>
            <Button component="label">
              Play a recording back
              <input
                type="file"
                accept=".csv,text/csv"
                hidden
                aria-label="Play a recording back"
                onChange={(e) => void playBack(e.target.files?.[0])}
              />
            </Button>
          </Box>
        </Box>
      </Box>
    </Box>
  );
}

const sameOr = (was: Pad[], now: Pad[]): Pad[] => (JSON.stringify(was) === JSON.stringify(now) ? was : now);
