import type { CalibrationProblem } from "@/core/calibrate/calibrate";
import type { BackCheck, Cable, Hazard } from "@/core/profile/guide";
import type { Fate, WorkProblem } from "@/core/mend/work";
import type { Placed } from "@/core/dayplan/problem";
import { percent, reasonText } from "./measures";
import { placeWords } from "./names";

/** Words of the mending part: cautions before a step, checks of what goes back, refusals. */

export const CAUTIONS: Record<Hazard, string> = {
  powered: "No metal while there is power: unplug first.",
  cell: "Lithium cell: by its plug, never by the wires; no bending, no metal. Swollen, hot or pierced: stop, isolate, hand it over under the local rules.",
  spring: "Sprung part: glasses on, a finger over it.",
  blade: "Cut and pry away from the hand.",
  iron: "Hot iron: stand, clear bench, nothing plastic close.",
  "hot-air": "Hot air: shield what is near, nothing that burns beneath.",
  fumes: "Flux fumes: air on, face aside; lead stays off hands and food.",
  solvent: "Solvent: no flame, air on, gloves; never two agents together. Its data sheet comes first.",
  glue: "Glue: off skin and moving parts; mist stays off the cap’s fit.",
  static: "Static: touch the earth point before the board.",
  dust: "Dust and mould: mask, outside or under the hood.",
  force: "If it will not move, look for a missed fastener or strip before more force.",
};

export const CHECK_WORDS: Record<BackCheck, string> = {
  facing: "faces the right way, from the player’s view",
  seated: "seated, no gap",
  "marker-line": "in up to its line, straight",
  "catch-down": "catch closed on both ends",
  tug: "holds a light tug",
  "cable-free": "no cable trapped beneath",
  threaded: "threaded through its slot",
  "low-force": "two fingers only: low force in plastic",
  "same-thread": "dropped into its old thread",
  returns: "springs back by itself, three times",
  keyed: "keyed to its place",
  flush: "seam flush, latches caught, no trim squeezed",
  "hidden-one": "the hidden fastener is in, its cover back",
  "contacts-to-board": "contacts look at the proper board",
  "teeth-meet": "end tooth to end gap; full stroke to the very end",
  "soft-bend": "ribbon in its softest bend",
};

export const CATCH_WORDS: Record<Cable["catch"], string> = {
  "pull-tab": "pull tab",
  flip: "flip bar",
  slide: "slide catch",
  "push-fit": "push fit",
  "board-to-board": "board to board",
  plug: "plug",
  soldered: "soldered",
};

export const FATE_WORDS: Record<Fate, string> = {
  "missing-before": "was missing when it came",
  lost: "lost here",
  broken: "broken",
  replaced: "replaced by a new one",
  "left-out": "left out on purpose",
};

const list = (ids: readonly string[], names: Record<string, string>): string => {
  const shown = ids.slice(0, 4).map((i) => names[i] ?? i);
  return ids.length > 4 ? `${shown.join("; ")}; and ${ids.length - 4} more` : shown.join("; ");
};

type Words = { [C in WorkProblem["code"]]: (p: Extract<WorkProblem, { code: C }>, names: Record<string, string>) => string };
const WORK: Words = {
  "step-unknown": () => "The guide has no such step any more. Open the work order again.",
  "item-unknown": () => "The guide has no such piece any more. Open the work order again.",
  "apart-already": (p, n) => `Done already: ${list([p.step], n)}.`,
  "not-apart": (p, n) => `This is not apart: ${list([p.step], n)}.`,
  "blocked-by": (p, n) => `First: ${list(p.steps, n)}. It lies over this step.`,
  "put-back-first": (p, n) => `Put back first: ${list(p.steps, n)}.`,
  "left-out": (p, n) =>
    `Not back yet: ${list(p.items, n)}. Put ${p.items.length === 1 ? "it" : "each"} back, or say what became of it.`,
  "not-out": (p, n) => `This is in its place: ${list([p.item], n)}.`,
  "gate-first": () => "Test it before the last fasteners: the step before this one.",
  "gate-needs-test": () => "A test is missing. Run it first.",
  "still-apart": (p, n) => `Still open: ${list(p.steps, n)}.`,
  "tasks-open": (p) =>
    `${p.tasks.length} ${p.tasks.length === 1 ? "task of the work order is" : "tasks of the work order are"} not done: go back to ${p.tasks.length === 1 ? "it" : "them"} in the list.`,
  over: () => "This work order is closed.",
};
export const workText = (p: WorkProblem, names: Record<string, string>): string =>
  (WORK[p.code] as (p: WorkProblem, n: Record<string, string>) => string)(p, names);

export const holeText = (h: { hole: number; why: "not-checked" | "solder-in-it" | "ring-torn" }): string =>
  `hole ${h.hole} ${h.why === "not-checked" ? "is not checked" : h.why === "solder-in-it" ? "still holds solder: fresh solder, then clear it" : "has a torn ring: bridge it before the part"}`;

export function calibrationText(stick: string, p: CalibrationProblem): string {
  const name = placeWords(stick);
  if (p.code === "not-measured") return `The ${name} is not measured well enough for this. Run the full test first.`;
  const why = [
    ...p.reasons.map(reasonText),
    ...(p.scatter ? [`scatter after release ${percent(p.scatter.value)} (limit ${percent(p.scatter.limit)})`] : []),
  ];
  return `Not calibrated: the ${name} is worn, and calibration would only hide it: ${why.join("; ")}. Clean, replace or rework it first.`;
}

/** Why a task stands where it stands in the day's plan. */
export const placedWhy = (x: Placed, opensWait: boolean, late: boolean): string =>
  x.pinned
    ? "pinned by hand"
    : opensWait
      ? "starts a wait"
      : late
        ? "due soon"
        : x.setup > 0
          ? `with ${x.setup} min set-up`
          : "longest way still to go";
