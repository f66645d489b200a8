import { type Reach, circularityError, measureOuter, reachMinOf, reachOf } from "./outer";
import type { Point, Rest } from "./rest";
import type { Prepared, Run } from "./rows";

const LEAST_SPAN = 0.1; // a smaller span would blow noise up to full travel

export type Calibration = {
  centre: Point;
  low: Point;
  high: Point;
  after: { restOffset: number; reachMin: number | null; circularityError: number | null };
};

export function calibrateAxis(v: number, centre: number, low: number, high: number): number {
  const out = v >= centre ? (v - centre) / (high - centre) : (v - centre) / (centre - low);
  return Math.max(-1, Math.min(1, out));
}

/** New centre and range from the recording, and the figures that would remain; what remains is wear. */
export function calibrate(
  p: Prepared,
  x: Float64Array,
  y: Float64Array,
  circle: readonly Run[],
  rest: Rest,
  reach: Reach,
): Calibration | null {
  const { right, left, up, down } = reach;
  if (right === null || left === null || up === null || down === null) return null;
  const centre = rest.centre;
  const high: Point = [right, down];
  const low: Point = [-left, -up];
  const spans = [high[0] - centre[0], centre[0] - low[0], high[1] - centre[1], centre[1] - low[1]];
  if (Math.min(...spans) < LEAST_SPAN) return null;
  const cx = new Float64Array(x.length);
  const cy = new Float64Array(y.length);
  for (const run of circle)
    for (let i = run.from; i < run.to; i++) {
      cx[i] = calibrateAxis(x[i]!, centre[0], low[0], high[0]);
      cy[i] = calibrateAxis(y[i]!, centre[1], low[1], high[1]);
    }
  const { profile } = measureOuter(p, cx, cy, circle);
  return {
    centre,
    low,
    high,
    // the median commutes with a rising map, so the new rest centre is the mapped old one: the origin. What
    // rests now here and now there stays as far apart.
    after: {
      restOffset: rest.apart,
      reachMin: reachMinOf(reachOf(profile, [])),
      circularityError: circularityError(profile),
    },
  };
}
