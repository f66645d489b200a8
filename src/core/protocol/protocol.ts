import type { ReadingKind } from "../bench/readings";
import { controlsOf, functionsOf, type ModelProfile, type ProfileFunction } from "../profile/profile";

/**
 * The ordered list of steps that tests a unit for a purpose, from its profile: power and links first, then
 * what needs no host, then what does, grouped by host and cable, so that nothing is plugged or picked up
 * twice.
 */

export const PURPOSES = ["triage", "full", "proof"] as const;
export type Purpose = (typeof PURPOSES)[number];

export const GROUPS = ["power-and-links", "no-host", "host-by-cable", "host-by-radio", "opened"] as const;
export type Group = (typeof GROUPS)[number];

/** How a step is done: by a reading, by looking (pass or fail), or as a guided recording. */
export type StepMethod = ReadingKind | "prompt" | "quick" | "guided";

export type ProtocolStep = {
  id: string;
  group: Group;
  method: StepMethod;
  /** what it is about: a function, a control, a supply, or "controls" for the recording */
  subject: string;
  /** the function whose answer this step gives, if any */
  functionId: string | null;
  /** left out of the tally: worth doing when something points to it */
  optional: boolean;
};

const PROMPTS: Partial<Record<ProfileFunction["kind"], StepMethod>> = {
  motor: "motor",
  speaker: "tone",
  jack: "tone",
  microphone: "microphone",
  latch: "latch",
  cord: "link-watch",
  port: "link-watch",
  radio: "link-watch",
};

const LINKS = new Set<ProfileFunction["kind"]>(["power-on", "charging", "port", "cord", "radio"]);
const LINK_ORDER: ProfileFunction["kind"][] = ["power-on", "charging", "port", "cord", "radio"];
const NO_HOST = new Set<ProfileFunction["kind"]>(["latch"]);

/** Whether host steps go by a cable: the unit has a cord or a port. */
const byCable = (functions: readonly ProfileFunction[]) =>
  functions.some((f) => f.kind === "cord" || f.kind === "port");

/**
 * The steps of a protocol in order. Triage keeps to what tells most in least time and never counts as proof.
 */
export function protocolOf(profile: ModelProfile, revision: string | null, purpose: Purpose): ProtocolStep[] {
  const functions = functionsOf(profile, revision);
  const controls = controlsOf(profile, revision);
  const host: Group = byCable(functions) ? "host-by-cable" : "host-by-radio";
  const steps: ProtocolStep[] = [];
  const add = (group: Group, method: StepMethod, subject: string, more: Partial<ProtocolStep> = {}) =>
    steps.push({
      id: `${method}.${subject}`,
      group,
      method,
      subject,
      functionId: null,
      optional: false,
      ...more,
    });
  const addFunction = (group: Group, f: ProfileFunction) =>
    add(group, triageMethod(f, purpose), f.id, { functionId: f.id });

  for (const power of profile.power) {
    const subject = power.half ?? "main";
    add("power-and-links", "supply", subject);
    if (purpose !== "triage" && power.kind === "built-in") {
      add("power-and-links", "charge-log", subject, { optional: true });
    }
    if (purpose !== "triage" && power.kind !== "cord")
      add("power-and-links", "discharge-log", subject, { optional: true });
  }
  const links = functions.filter((f) => LINKS.has(f.kind));
  links.sort((a, b) => LINK_ORDER.indexOf(a.kind) - LINK_ORDER.indexOf(b.kind));
  links.forEach((f) => addFunction("power-and-links", f));

  if (purpose === "triage") {
    add(host, "quick", "controls");
    return inOrder(steps);
  }
  functions.filter((f) => NO_HOST.has(f.kind)).forEach((f) => addFunction("no-host", f));
  for (const c of controls) if (c.kind !== "button") add("no-host", "feel", c.id, { optional: true });
  add(host, "guided", "controls");
  functions.filter((f) => !LINKS.has(f.kind) && !NO_HOST.has(f.kind)).forEach((f) => addFunction(host, f));
  const motored = controls.filter((c) => c.kind === "trigger" && c.motored);
  if (motored.length === 2) add(host, "trigger-drag", "triggers", { optional: true });
  for (const c of controls)
    if (c.kind === "stick" && (c.sensorByRevision?.[revision ?? ""] ?? c.sensor) === "contact")
      for (const axis of ["x", "y"]) add("opened", "contact-sensor", `${c.id}.${axis}`, { optional: true });
  return inOrder(steps);
}

const triageMethod = (f: ProfileFunction, purpose: Purpose): StepMethod =>
  purpose === "triage" ? "prompt" : (PROMPTS[f.kind] ?? "prompt");

const inOrder = (steps: ProtocolStep[]): ProtocolStep[] =>
  GROUPS.flatMap((group) => steps.filter((s) => s.group === group));

/** House guess of the minutes of a step, until the shop's own times move it. */
export const USUAL_MINUTES: Record<StepMethod, number> = {
  prompt: 0.3,
  quick: 1.5,
  guided: 5,
  supply: 1,
  "charge-log": 2,
  "discharge-log": 2,
  "link-watch": 1.5,
  motor: 0.4,
  microphone: 1,
  tone: 0.7,
  latch: 1,
  feel: 0.4,
  "trigger-drag": 1.5,
  "contact-sensor": 2,
};

const GUESS_WEIGHT = 3;

export type Minutes = { expected: number; cases: number };

/** Expected minutes: the house guess counts as three cases beside the shop's own times (their median). */
export function expectedMinutes(method: StepMethod, median: number | null, cases: number): Minutes {
  const usual = USUAL_MINUTES[method];
  if (median === null || cases === 0) return { expected: usual, cases: 0 };
  return { expected: (GUESS_WEIGHT * usual + cases * median) / (GUESS_WEIGHT + cases), cases };
}

/**
 * The four results that power and links come to, each by the functions of its kind; "not fitted" where the
 * model has none.
 */
export const FOUR_LINKS = ["power-on", "charging", "cable", "radio"] as const;
export type FourLink = (typeof FOUR_LINKS)[number];
const KINDS_OF: Record<FourLink, readonly ProfileFunction["kind"][]> = {
  "power-on": ["power-on"],
  charging: ["charging"],
  cable: ["cord", "port"],
  radio: ["radio"],
};
export const functionsOfLink = (link: FourLink, functions: readonly ProfileFunction[]): ProfileFunction[] =>
  functions.filter((f) => KINDS_OF[link].includes(f.kind));
