import type { ModelProfile } from "../profile/profile";

/** Families of faults that the same routes treat, read from where a fault is and what was measured. */

export const FAMILIES = [
  "stick-drift",
  "stick-worn",
  "stick-range",
  "button-dome",
  "button-membrane",
  "button-switch",
  "trigger",
  "power",
  "port",
  "radio",
  "sound",
  "motor",
  "board-part",
  "cord",
  "latch",
] as const;
export type Family = (typeof FAMILIES)[number];
/** Families of causes: what has its own remedy wherever it shows. `chip`: work on the board; `elsewhere`: no part known. */
export const CAUSE_FAMILIES = [
  "flex",
  "joint",
  "connector",
  "cap",
  "post",
  "spring",
  "gear",
  "cell",
  "contact",
  "lead",
  "chip",
  "elsewhere",
] as const;
export type Treated = Family | (typeof CAUSE_FAMILIES)[number];
export const isStick = (family: Family): boolean => family.startsWith("stick");

const WORN = new Set(["restNoise", "restSpikes", "jumps", "stuckReleases", "deadHalves", "noAnswer"]);
const RANGE = new Set(["reachMin", "circularityError"]);

const BY_FUNCTION: Record<ModelProfile["functions"][number]["kind"], Family> = {
  motor: "motor",
  light: "board-part",
  speaker: "sound",
  microphone: "sound",
  jack: "sound",
  port: "port",
  radio: "radio",
  touch: "board-part",
  motion: "board-part",
  latch: "latch",
  cord: "cord",
  key: "board-part",
  charging: "power",
  "power-on": "power",
};

const BY_CONTACT = { dome: "button-dome", membrane: "button-membrane", clicky: "button-switch" } as const;

function stickFamily(measure: string | null): Family {
  if (measure && WORN.has(measure)) return "stick-worn";
  if (measure && RANGE.has(measure)) return "stick-range";
  return "stick-drift";
}

/** The family of one fault; null for a place that the profile does not have. */
export function familyOf(profile: ModelProfile, place: string, measure: string | null): Family | null {
  const control = profile.controls.find((c) => c.id === place);
  if (control?.kind === "stick") return stickFamily(measure);
  if (control?.kind === "trigger") return "trigger";
  if (control?.kind === "button") return BY_CONTACT[control.contact];
  const fn = profile.functions.find((f) => f.id === place);
  return fn ? BY_FUNCTION[fn.kind] : null;
}

const WORST_FIRST: readonly Family[] = ["stick-worn", "stick-drift", "stick-range"];
/** Several symptoms of one place are one fault: the worst family speaks for them. */
export const worstOf = (families: readonly Family[]): Family =>
  [...families].sort((a, b) => WORST_FIRST.indexOf(a) - WORST_FIRST.indexOf(b))[0]!;
