"use client";

import Box from "@mui/material/Box";

import type { Reading } from "@/core/guide/source";
import { type MappedControl, readValue } from "@/core/input/input";
import type { ProfileControl } from "@/core/profile/profile";
import type { RimSide } from "@/core/guide/plan";
import { FIGURES } from "@/ui/figures";
import { RimMap } from "@/features/test/ui/result/RimMap";
import { say } from "@/features/test/words/words";
import { figure } from "@/text/format";
import { SIZE } from "@/ui/tokens";
import { Row } from "@/ui/kit/layout";

const GRID = "var(--mui-palette-divider)";
const SIGNAL = "var(--mui-palette-primary-main)";

/** The live gauge of one control: where it is now, at the display's rate, with the figure largest. */
export function Gauge({
  control,
  latest,
  trail,
  cue,
  side,
  rim,
  gaps,
}: {
  control: ProfileControl;
  latest: Reading | null;
  trail: readonly (readonly [number, number])[];
  cue: boolean;
  side?: RimSide | null;
  rim?: { asked: number[]; missed: number[] } | null;
  gaps?: readonly number[] | null;
}) {
  const value = latest
    ? readValue(control as MappedControl, latest.axes, latest.buttons)
    : { x: 0, y: 0, v: 0 };
  if (control.kind === "stick") return <Scope x={value.x} y={value.y} trail={trail} gaps={gaps ?? null} />;
  if (control.kind === "trigger") return <TravelBar v={value.v} />;
  return (
    <Row gap={3} at="center">
      <PressLamp pressed={value.v > 0.5} cue={cue} side={side ?? null} />
      {rim && <RimMap asked={rim.asked} missed={rim.missed} size={150} />}
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

const SECTOR = (2 * Math.PI) / 72;
const onEdge = (k: number, r: number) => `${r * Math.cos(k * SECTOR)} ${-r * Math.sin(k * SECTOR)}`;

function Scope({
  x,
  y,
  trail,
  gaps,
}: {
  x: number;
  y: number;
  trail: readonly (readonly [number, number])[];
  gaps: readonly number[] | null;
}) {
  return (
    <Row gap={3} at="center">
      <svg
        viewBox="-1.25 -1.25 2.5 2.5"
        width={270}
        height={270}
        role="img"
        aria-label={say("whereTheStickIs")}
      >
        <circle r={1} fill="none" stroke={GRID} strokeWidth={0.02} />
        {(gaps ?? []).map((k) => (
          <path
            key={k}
            d={`M${onEdge(k, 1.12)}A1.12 1.12 0 0 0 ${onEdge(k + 1, 1.12)}`}
            fill="none"
            stroke="var(--mui-palette-caution-main)"
            strokeWidth={0.07}
          />
        ))}
        <circle r={0.08} fill="none" stroke={GRID} strokeWidth={0.012} />
        <path d="M-1.15 0H1.15M0-1.15V1.15" stroke={GRID} strokeWidth={0.01} />
        <polyline
          points={trail.map(([a, b]) => `${a},${b}`).join(" ")}
          fill="none"
          stroke={SIGNAL}
          strokeWidth={0.018}
          opacity={0.5}
        />
        <circle cx={x} cy={y} r={0.075} fill={SIGNAL} />
      </svg>
      <Box sx={{ display: "grid", gap: 1.5 }}>
        <div>
          <Number_>{signed(x)}</Number_>
          {say("leftToRight")}
        </div>
        <div>
          <Number_>{signed(-y)}</Number_>
          {say("downToUp")}
        </div>
      </Box>
    </Row>
  );
}

function TravelBar({ v }: { v: number }) {
  return (
    <Box sx={{ display: "grid", gap: 1, maxWidth: 560 }}>
      <Number_>{`${figure(v * 100, 1)} %`}</Number_>
      <Box sx={{ height: 54, border: 2, borderColor: "divider", borderRadius: 1, overflow: "hidden" }}>
        <Box sx={{ height: "100%", bgcolor: "primary.main" }} style={{ width: `${v * 100}%` }} />
      </Box>
    </Box>
  );
}

function PressLamp({ pressed, cue, side }: { pressed: boolean; cue: boolean; side: RimSide | null }) {
  return (
    <Row gap={3} oneLine at="center">
      <Box
        aria-label={cue ? say("pressNow") : say("waitForTheCue")}
        sx={{
          width: 210,
          height: 210,
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
    </Row>
  );
}
