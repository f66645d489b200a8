"use client";

import Box from "@mui/material/Box";
import { useColorScheme } from "@mui/material/styles";
import { type ComponentType, useEffect, useState } from "react";

import { mark } from "@/text/format";

/** The canvas says nothing of itself: the Frame around it is the image, and carries the name in words. */
export function unnamed<C>(chart: C): C {
  const Raw = chart as ComponentType<{ role: string }>;
  return ((props: object) => <Raw {...props} role="presentation" />) as C;
}

export type Colours = {
  text: string;
  line: string;
  signal: string;
  pass: string;
  caution: string;
  fail: string;
  band: string;
};

/** The theme's colours as a canvas needs them, and again when the scheme changes. */
function useColours(): Colours | null {
  const { mode, systemMode } = useColorScheme();
  const [colours, setColours] = useState<Colours | null>(null);
  useEffect(() => {
    const frame = requestAnimationFrame(() => {
      const style = getComputedStyle(document.documentElement);
      const of = (name: string) => style.getPropertyValue(`--mui-palette-${name}`).trim();
      setColours({
        text: of("text-secondary"),
        line: of("divider"),
        signal: of("primary-main"),
        pass: of("pass-main"),
        caution: of("caution-main"),
        fail: of("fail-main"),
        band: `${of("pass-main")}22`,
      });
    });
    return () => cancelAnimationFrame(frame);
  }, [mode, systemMode]);
  return colours;
}

export const axis = (
  c: Colours,
  title: string,
  min: number,
  max: number,
  tick?: (v: number) => string,
  step?: number,
) => ({
  type: "linear" as const,
  min,
  max,
  title: { display: true, text: title, color: c.text },
  ticks: { color: c.text, stepSize: step, callback: (v: number | string) => (tick ?? mark)(Number(v)) },
  grid: { color: c.line },
});

export function Frame({
  label,
  height = 200,
  children,
}: {
  label: string;
  height?: number;
  children: (c: Colours) => React.ReactNode;
}) {
  const colours = useColours();
  return (
    <Box
      role="img"
      aria-label={label}
      // the drawing takes no room of its own: what it is as wide as now must not keep its box from getting
      // narrower
      sx={{ height, position: "relative", "& canvas": { position: "absolute", inset: 0 } }}
    >
      {colours && children(colours)}
    </Box>
  );
}

export type XY = { x: number; y: number };

export const flat = (y: number, width = 360): XY[] => [
  { x: 0, y },
  { x: width, y },
];
