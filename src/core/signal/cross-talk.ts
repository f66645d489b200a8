import type { Prepared, Run } from "./rows";

const BEYOND = 0.3;

/**
 * Lean of a line through weighted points, by total least squares: degrees from the first axis. Null without
 * points.
 */
function lean(points: {
  sx: number;
  sy: number;
  sxx: number;
  syy: number;
  sxy: number;
  w: number;
}): number | null {
  const { sx, sy, sxx, syy, sxy, w } = points;
  if (w <= 0) return null;
  const vxx = sxx - (sx * sx) / w;
  const vyy = syy - (sy * sy) / w;
  const vxy = sxy - (sx * sy) / w;
  if (vxx + vyy <= 0) return null;
  return (0.5 * Math.atan2(2 * vxy, vxx - vyy) * 180) / Math.PI;
}

/** How far a sideways push leans from x and an upward push from y, in degrees, counter-clockwise positive. */
export function crossTalk(
  p: Prepared,
  x: Float64Array,
  y: Float64Array,
  runs: readonly Run[],
): { x: number | null; y: number | null } {
  const side = { sx: 0, sy: 0, sxx: 0, syy: 0, sxy: 0, w: 0 };
  const up = { ...side };
  const add = (to: typeof side, a: number, b: number, w: number) => {
    to.sx += w * a;
    to.sy += w * b;
    to.sxx += w * a * a;
    to.syy += w * b * b;
    to.sxy += w * a * b;
    to.w += w;
  };
  for (const run of runs)
    for (let i = run.from; i < run.to; i++) {
      const right = x[i]!;
      const upward = -y[i]!;
      if (Math.abs(right) > BEYOND && Math.abs(right) > Math.abs(upward))
        add(side, right, upward, p.weights[i]!);
      else if (upward > BEYOND && upward > Math.abs(right)) add(up, upward, -right, p.weights[i]!);
    }
  return { x: lean(side), y: lean(up) };
}
