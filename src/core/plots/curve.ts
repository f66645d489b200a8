/** How a curve of the certificate stands in its frame, the same on the page and on paper. */

export type CurvePoint = readonly [x: number, y: number];
export type CurveKind = "stick" | "trigger";
export type Curve = { now: readonly CurvePoint[]; before: readonly CurvePoint[]; limit: number | null };

export type CurveFrame = {
  /** a point of the curve as shares of the frame: from the left, from the bottom */
  place: (point: CurvePoint) => [fromLeft: number, fromBottom: number];
  /** heights worth a line: full travel, and what grade A reaches at least */
  lines: { value: number; what: "full" | "limit" }[];
};

/**
 * A stick's edge lies over 0 to 360 degrees, a trigger's pull over its milliseconds; heights are shares of
 * full travel. The frame is as high as the curves and lines need, and at least from 75 to 120 % (stick) or -4
 * to 106 % (trigger).
 */
export function curveFrame(kind: CurveKind, curve: Curve): CurveFrame {
  const all = [...curve.now, ...curve.before];
  const heights = [...all.map(([, y]) => y), ...(curve.limit === null ? [] : [curve.limit])];
  const stick = kind === "stick";
  const right = stick ? 360 : Math.max(1, ...all.map(([x]) => x));
  const low = Math.min(stick ? 0.75 : -0.04, ...heights);
  const high = Math.max(stick ? 1.2 : 1.06, ...heights);
  return {
    place: ([x, y]) => [x / right, (y - low) / (high - low)],
    lines: [
      { value: 1, what: "full" },
      ...(curve.limit === null ? [] : [{ value: curve.limit, what: "limit" as const }]),
    ],
  };
}
