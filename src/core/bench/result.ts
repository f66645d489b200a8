/** What a check of a function came to. */
export type CheckResult = "pass" | "fail" | "not-tested" | "not-fitted";

/** What a reading came to: figures beside their limits, and what they say, as codes. */

// prettier-ignore
export const FIGURE_UNITS = [
  "V", "V/cell", "ohm", "mAh", "mA", "share", "h", "mV/day", "m", "count", "s", "ms", "dBFS", "dB", "g", "travel",
] as const;
export type FigureUnit = (typeof FIGURE_UNITS)[number];

export type BenchFigure = {
  name: string;
  value: number | null;
  unit: FigureUnit;
  /** an interval or a standard uncertainty about the value, in the same unit */
  low?: number | null;
  high?: number | null;
  limit?: { side: "most" | "least"; value: number };
  /** null where there is no limit or nothing was measured */
  keeps: boolean | null;
};

export type Finding = { code: string; facts?: Record<string, string | number> };
export type BenchResult = {
  v: 1;
  verdict: Exclude<CheckResult, "not-fitted">;
  figures: BenchFigure[];
  findings: Finding[];
};

export const most = (name: string, value: number | null, unit: FigureUnit, limit: number): BenchFigure => ({
  name,
  value,
  unit,
  limit: { side: "most", value: limit },
  keeps: value === null ? null : value <= limit,
});
export const least = (name: string, value: number | null, unit: FigureUnit, limit: number): BenchFigure => ({
  name,
  value,
  unit,
  limit: { side: "least", value: limit },
  keeps: value === null ? null : value >= limit,
});
export const plain = (name: string, value: number | null, unit: FigureUnit): BenchFigure => ({
  name,
  value,
  unit,
  keeps: null,
});

/** Fail if a figure does not keep its limit, not tested if a needed one is missing, else pass. */
export function verdictOf(
  figures: readonly BenchFigure[],
  needed: readonly string[],
): BenchResult["verdict"] {
  if (figures.some((f) => f.keeps === false)) return "fail";
  const missing = needed.some((name) => figures.find((f) => f.name === name)?.value == null);
  return missing ? "not-tested" : "pass";
}
