import type { ControlResult, StickResult } from "../analyse/analyse";

/** At which axis and in which direction of a stick a measure failed, as far as the signal tells. */

export type Direction = "right" | "up" | "left" | "down";
export type Sides = { axis?: "x" | "y"; direction?: Direction; steady?: boolean };

/** One axis speaks alone where the other shows less than this share of it. */
const ALONE = 1 / 3;
const oneOf = (x: number, y: number): "x" | "y" | null => {
  if (x > 0 && y <= ALONE * x) return "x";
  return y > 0 && x <= ALONE * y ? "y" : null;
};
const axisOf: Record<Direction, "x" | "y"> = { right: "x", left: "x", up: "y", down: "y" };
const AXES_APART = 0.8;

/** Still where it rests: noise under this share of travel, and it comes back to within that much. */
const STILL = { noise: 0.02, spread: 0.06 };
const isSteady = (r: StickResult): boolean | undefined => {
  if (r.restNoise === null) return undefined;
  const stuck = r.stuckReleases ?? 0;
  return r.restNoise <= STILL.noise && stuck === 0 && (r.returnSpread ?? 0) <= STILL.spread;
};

function restSides(r: StickResult): Sides {
  if (r.restCentre === null) return {};
  const [x, y] = r.restCentre;
  const axis = oneOf(Math.abs(x), Math.abs(y));
  const steady = isSteady(r);
  const still = steady === undefined ? {} : { steady };
  if (axis === null) return still;
  if (axis === "x") return { axis, direction: x > 0 ? "right" : "left", ...still };
  return { axis, direction: y > 0 ? "down" : "up", ...still };
}

function jumpSides({ jumps }: StickResult): Sides {
  const all = jumps?.axis ?? [];
  const y = all.filter((a) => a === "y").length / Math.max(1, all.length);
  if (all.length === 0 || Math.max(y, 1 - y) < AXES_APART) return {};
  return { axis: y > 0.5 ? "y" : "x" };
}

function halfSides({ deadHalves }: StickResult): Sides {
  const axes = new Set((deadHalves ?? []).map((h) => axisOf[h]));
  const [axis] = axes;
  if (!axis || axes.size > 1) return {};
  return deadHalves!.length === 1 ? { axis, direction: deadHalves![0]! } : { axis };
}

const DIRECTIONS: readonly Direction[] = ["right", "up", "left", "down"];
function reachSides({ reach }: StickResult): Sides {
  const known = DIRECTIONS.flatMap((d) => (reach?.[d] == null ? [] : [{ d, far: reach[d] }]));
  const [least, next] = known.sort((a, b) => a.far - b.far);
  if (!least || !next || known.length < DIRECTIONS.length) return {};
  const opposite = known.find((k) => axisOf[k.d] === axisOf[least.d] && k.d !== least.d)!;
  const others = known.filter((k) => axisOf[k.d] !== axisOf[least.d]);
  if (others.some((k) => k.far - least.far < NEAR)) return {};
  const axis = axisOf[least.d];
  return opposite.far - least.far < NEAR ? { axis } : { axis, direction: least.d };
}
const NEAR = 0.05;

/** Of a failed measure of a stick; empty for anything else, and where both axes show it alike. */
export function sidesOf(r: ControlResult, measure: string): Sides {
  if (r.kind !== "stick") return {};
  switch (measure) {
    case "restOffset":
      return restSides(r);
    case "restNoise":
    case "restSpikes": {
      const axis = r.restNoiseBy ? oneOf(...r.restNoiseBy) : null;
      return axis === null ? {} : { axis };
    }
    case "jumps":
      return jumpSides(r);
    case "deadHalves":
      return halfSides(r);
    case "reachMin":
      return reachSides(r);
    default:
      return {};
  }
}
