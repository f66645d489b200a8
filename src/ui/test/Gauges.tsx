"use client";

import Box from "@mui/material/Box";

import type { Reading } from "@/core/controller/source";
import { type MappedControl, readValue } from "@/core/profile/input";
import type { ProfileControl } from "@/core/profile/profile";
import { FIGURES } from "@/ui/figures";

const GRID = "var(--mui-palette-divider)";
const SIGNAL = "var(--mui-palette-primary-main)";

/** The live gauge of one control: where it is now, at the display's rate, with the figure largest. */
export function Gauge({
  control,
  latest,
  trail,
  cue,
}: {
  control: ProfileControl;
  latest: Reading | null;
  trail: readonly (readonly [number, number])[];
  cue: boolean;
}) {
  const value = latest ? readValue(control as MappedControl, latest.axes, latest.buttons) : { x: 0, y: 0, v: 0 };
  if (control.kind === "stick") return <Scope x={value.x} y={value.y} trail={trail} />;
  if (control.kind === "trigger") return <TravelBar v={value.v} />;
  return <PressLamp pressed={value.v > 0.5} cue={cue} />;
}

const Number_ = ({ children }: { children: string }) => (
  <Box
    sx={{
      fontFamily: FIGURES,
      fontSize: "2.6rem",
      fontWeight: 700,
      lineHeight: 1,
      whiteSpace: "pre",
    }}
  >
    {children}
  </Box>
);

const signed = (v: number) =>
  `${v < 0 ? "−" : "+"}${Math.abs(v * 100)
    .toFixed(1)
    .padStart(5, " ")} %`;

function Scope({ x, y, trail }: { x: number; y: number; trail: readonly (readonly [number, number])[] }) {
  return (
    <Box sx={{ display: "flex", gap: 3, alignItems: "center", flexWrap: "wrap" }}>
      <svg viewBox="-1.25 -1.25 2.5 2.5" width={270} height={270} role="img" aria-label="Where the stick is">
        <circle r={1} fill="none" stroke={GRID} strokeWidth={0.02} />
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
          left to right
        </div>
        <div>
          <Number_>{signed(-y)}</Number_>
          down to up
        </div>
      </Box>
    </Box>
  );
}

function TravelBar({ v }: { v: number }) {
  return (
    <Box sx={{ display: "grid", gap: 1, maxWidth: 560 }}>
      <Number_>{`${(v * 100).toFixed(1)} %`}</Number_>
      <Box sx={{ height: 54, border: 2, borderColor: "divider", borderRadius: 1, overflow: "hidden" }}>
        <Box sx={{ height: "100%", bgcolor: "primary.main" }} style={{ width: `${v * 100}%` }} />
      </Box>
    </Box>
  );
}

function PressLamp({ pressed, cue }: { pressed: boolean; cue: boolean }) {
  return (
    <Box sx={{ display: "flex", gap: 3, alignItems: "center" }}>
      <Box
        aria-label={cue ? "Press now" : "Wait for the cue"}
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
          fontSize: "1.7rem",
          fontWeight: 800,
        }}
      >
        {cue ? "press" : ""}
      </Box>
    </Box>
  );
}
