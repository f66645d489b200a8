import type { CleaningJob } from "./cleaning";
import type { OrderStep, Target } from "./order";
import { isRefTo, refOf, refTo } from "./ref";
import type { MendGuide, Way } from "../profile/guide";
import { controlsOf, functionsOf, type ModelProfile, type ProfileControl } from "../profile/profile";

/**
 * What a step is about, as a picture of it needs it: which side of the unit, and every place on it with what is done
 * there. Lengths in millimetres on the plan, seen through from the front; whoever draws the back or the inside turns
 * it over, as the hand has.
 */

export type Side = "front" | "back" | "inside";
export type Shown =
  | { kind: "fastener"; lengthMm: number; under: string | null; deep: boolean }
  | { kind: "clip"; way: Way | null; glued: boolean }
  | { kind: "cable"; way: Way | null; soldered: boolean; endsUnit: boolean }
  | { kind: "piece"; falls: boolean; picture: boolean };
export type PicturedItem = { id: string; at: { x: number; y: number }; is: Shown };
export type PicturedBoard = {
  name: string;
  width: number;
  height: number;
  face: "top" | "bottom";
  /** parts that sit there, and whether the step is about them */
  parts: { id: string; name: string; at: { x: number; y: number }; isIt: boolean }[];
};
export type StepPicture = {
  side: Side;
  /** in the order of the step's own list */
  items: PicturedItem[];
  /** controls and functions that the step is about */
  places: string[];
  board: PicturedBoard | null;
};

/** A well is deep where the driver needs a shaft of its own. */
const shownOf = (guide: MendGuide, ref: string): (PicturedItem & { side: Side }) | null => {
  const { kind, id } = refOf(ref) ?? { kind: null, id: "" };
  if (kind === "fastener") {
    const f = guide.fasteners.find((x) => x.id === id);
    return f
      ? {
          id: ref,
          at: f.at,
          side: f.face,
          is: { kind, lengthMm: f.lengthMm, under: f.under ?? null, deep: f.shaftMm !== undefined },
        }
      : null;
  }
  if (kind === "clip") {
    const c = guide.clips.find((x) => x.id === id);
    return c ? { id: ref, at: c.at, side: c.face, is: { kind, way: c.way ?? null, glued: c.glued } } : null;
  }
  if (kind === "cable") {
    const c = guide.cables.find((x) => x.id === id);
    return c
      ? {
          id: ref,
          at: c.at,
          side: "inside",
          is: { kind, way: c.way ?? null, soldered: c.catch === "soldered", endsUnit: c.endsUnit },
        }
      : null;
  }
  const p = guide.pieces.find((x) => x.id === id);
  return p
    ? { id: ref, at: p.at, side: "inside", is: { kind: "piece", falls: p.falls, picture: p.picture } }
    : null;
};

/** The side that most of what has one is on; a closed unit shows its back, an open one its inside. */
function sideOf(items: readonly (PicturedItem & { side: Side })[], isClosed: boolean): Side {
  const fixed = items.filter((i) => i.is.kind === "fastener" || i.is.kind === "clip").map((i) => i.side);
  const count = (s: Side) => fixed.filter((x) => x === s).length;
  const [most] = (["back", "front", "inside"] as const)
    .filter((s) => count(s) > 0)
    .sort((a, b) => count(b) - count(a));
  return most ?? (isClosed ? "back" : "inside");
}

export type About = {
  profile: Pick<ModelProfile, "slots" | "wiring" | "controls" | "functions">;
  guide: MendGuide;
  targets: readonly Target[];
  cleaning: readonly CleaningJob[];
  /** of each check in the order, the part, point, control or function that it is about */
  looks: readonly { id: string; target: string }[];
};

/** The picture of a step, or nothing where it has no place: a test, say. */
export function pictureOf(step: Pick<OrderStep, "key" | "step" | "items">, about: About): StepPicture | null {
  if (step.step !== null) {
    const items = step.items.flatMap((id) => shownOf(about.guide, id) ?? []);
    if (items.length === 0) return null;
    const side = sideOf(items, step.step.after.length === 0);
    return { side, items: items.map(({ id, at, is }) => ({ id, at, is })), places: [], board: null };
  }
  if (isRefTo("mend", step.key)) {
    const target = about.targets.find((t) => refTo("mend", t.key) === step.key);
    const slot = about.profile.slots?.find((s) => s.id === target?.slot);
    return slot ? placed(about, slot.serves) : null;
  }
  if (isRefTo("calibrate", step.key)) return placed(about, [refOf(step.key)!.id]);
  if (isRefTo("look", step.key)) {
    const look = about.looks.find((l) => refTo("look", l.id) === step.key);
    return look ? (onBoard(about, look.target) ?? placed(about, [look.target])) : null;
  }
  const job = about.cleaning.find((j) => refTo("clean", j.surface) === step.key);
  const surface = about.guide.surfaces.find((s) => s.id === job?.surface);
  const piece = surface?.piece ? shownOf(about.guide, refTo("piece", surface.piece)) : null;
  return piece
    ? { side: "inside", items: [{ id: piece.id, at: piece.at, is: piece.is }], places: [], board: null }
    : null;
}

function placed({ profile }: About, ids: readonly string[]): StepPicture | null {
  const known = [...profile.controls, ...profile.functions.filter((f) => f.at)];
  const places = ids.filter((id) => known.some((k) => k.id === id));
  return places.length > 0 ? { side: "front", items: [], places, board: null } : null;
}

/** A part or test point where it sits on its board. */
function onBoard({ profile: { wiring } }: About, target: string): StepPicture | null {
  const node = wiring?.nodes.find((n) => n.id === target && n.board && n.at);
  const point = wiring?.points.find((p) => p.id === target);
  const where = node ? { board: node.board!, face: node.face ?? "top" } : point;
  const board = wiring?.boards.find((b) => b.id === where?.board);
  if (!wiring || !where || !board) return null;
  const parts = wiring.nodes
    .filter((n) => n.board === board.id && (n.face ?? "top") === where.face && n.at)
    .map((n) => ({ id: n.id, name: n.name, at: n.at!, isIt: n.id === target }));
  const points = point ? [{ id: point.id, name: point.name, at: point.at, isIt: true }] : [];
  return {
    side: "inside",
    items: [],
    places: [],
    board: {
      name: board.name,
      width: board.width,
      height: board.height,
      face: where.face,
      parts: [...parts, ...points],
    },
  };
}

/** What the pictures of a model are laid on: its outline, its controls, and what else has a place of its own. */
export type PlanOf = Pick<ModelProfile["plan"], "width" | "height" | "outlines"> & {
  controls: readonly ProfileControl[];
  functions: readonly { id: string; name: string; at: { x: number; y: number } }[];
};
export const planOf = (profile: ModelProfile, revision: string | null): PlanOf => ({
  width: profile.plan.width,
  height: profile.plan.height,
  outlines: profile.plan.outlines,
  controls: controlsOf(profile, revision),
  functions: functionsOf(profile, revision).flatMap(({ id, name, at }) => (at ? [{ id, name, at }] : [])),
});
