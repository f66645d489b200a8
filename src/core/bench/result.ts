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
  /** the smallest defect beyond the limit that the reading would have shown with 95 % probability */
  smallest?: number;
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

/**
 * A figure with its 95 % interval. One that would keep its limit does so only when its whole interval does: what
 * lies too close to tell is no pass (`keeps` null).
 */
export function within(f: BenchFigure, low: number | null, high: number | null): BenchFigure {
  if (f.value === null || low === null || high === null) return f;
  const { limit } = f;
  if (!limit) return { ...f, low, high };
  const most = limit.side === "most";
  const smallest = most ? limit.value + (high - f.value) : limit.value - (f.value - low);
  const beyond = most ? high > limit.value : low < limit.value;
  return { ...f, low, high, smallest, keeps: f.keeps === true && beyond ? null : f.keeps };
}

/** Kept by its value, and not by its interval. */
export const isTooClose = (f: BenchFigure): boolean =>
  f.limit !== undefined && f.value !== null && f.smallest !== undefined && f.keeps === null;

/** Fail if a figure does not keep its limit, not tested if a needed one is missing or too close, else pass. */
export function verdictOf(
  figures: readonly BenchFigure[],
  needed: readonly string[],
): BenchResult["verdict"] {
  if (figures.some((f) => f.keeps === false)) return "fail";
  const missing =
    needed.some((name) => figures.find((f) => f.name === name)?.value == null) || figures.some(isTooClose);
  return missing ? "not-tested" : "pass";
}
