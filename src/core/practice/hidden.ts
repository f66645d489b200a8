import { z } from "../base/schema";

import { graphOf } from "../diagnosis/graph";
import type { Chance } from "../math/random";
import { controlsOf, type ModelProfile, type ProfileControl } from "../profile/profile";
import type { ControllerFaults } from "../simulate/faults";
import { partBehind } from "./inside";

/**
 * What a practice unit hides: faults of its controls, each by the measure that shows it, and how the
 * simulated controller has it.
 */

const hiddenSchema = z.strictObject({
  place: z.string().max(60),
  measure: z.string().max(60),
  /** the part of the wiring that is really broken; none where the model tells nothing of its inside */
  part: z.string().max(60).optional(),
});
export const hiddenFaultsSchema = z.array(hiddenSchema).min(1).max(6);
export type Hidden = z.infer<typeof hiddenSchema>;

export const LEVELS = [1, 2, 3] as const;
export type Level = (typeof LEVELS)[number];

/** Measures that can be hidden, by kind of control, easy ones first; each with the fault that shows in it. */
const STICK = {
  restOffset: { offset: [0.15, -0.06] },
  reachMin: { reach: { up: 0.84, left: 0.9 } },
  deadHalves: { dead: "right" },
  safeDeadZone: { scatter: 0.09, sticksShare: 0.2 },
  jumps: { wornAt: 0.35, noise: 0.006 },
} as const;
const TRIGGER = { fullPull: { full: 0.9 }, largestStep: { hole: 0.2, backtrack: 0.05 } } as const;
const BUTTON = { decision: { missRate: 0.4 }, chatter: { chatterRate: 0.45 } } as const;
const OF_KIND = { stick: STICK, trigger: TRIGGER, button: BUTTON } as const;

/** Whether a fault of a real case is one that the simulated controller can have. */
export const canHide = (control: Pick<ProfileControl, "kind"> | undefined, measure: string | null): boolean =>
  control !== undefined && measure !== null && measure in OF_KIND[control.kind];

const SHARE_OF_MEASURES: Record<Level, number> = { 1: 0.4, 2: 0.7, 3: 1 };

/**
 * Hides as many faults as the level says, on controls apart from each other; higher levels also draw the
 * measures that are harder to tell from others.
 */
export function hideFaults(
  profile: ModelProfile,
  revision: string | null,
  level: Level,
  chance: Chance,
): Hidden[] {
  const controls = [...controlsOf(profile, revision)].filter(
    (c) => c.kind !== "trigger" || "axis" in c.input,
  );
  const pick = <T>(items: readonly T[]): T =>
    items[Math.min(items.length - 1, Math.floor(chance.between(0, items.length)))]!;
  const sticks = controls.filter((c) => c.kind === "stick");
  const out: Hidden[] = [];
  while (out.length < level) {
    // where there is one, the first fault is a stick's: it is what most units come with
    const from = out.length === 0 && sticks.length ? sticks : controls;
    const control = pick(from.filter((c) => !out.some((h) => h.place === c.id)));
    const measures = Object.keys(OF_KIND[control.kind]);
    const measure = pick(
      measures.slice(0, Math.max(1, Math.ceil(measures.length * SHARE_OF_MEASURES[level]))),
    );
    out.push(withPart(profile, revision, { place: control.id, measure }, chance));
  }
  return out;
}

/** The same fault with the part behind it that is really broken, where the model has an inside. */
export function withPart(
  profile: ModelProfile,
  revision: string | null,
  hidden: Hidden,
  chance: Chance,
): Hidden {
  const kind = profile.controls.find((c) => c.id === hidden.place)?.kind;
  if (!profile.wiring || !kind) return hidden;
  const part = partBehind(graphOf(profile.wiring, revision), { ...hidden, kind }, chance.next());
  return part === null ? hidden : { ...hidden, part };
}

/** The faults as the simulated controller has them. */
export function simulatedFaults(profile: ModelProfile, hidden: readonly Hidden[]): ControllerFaults {
  const faults: Required<ControllerFaults> = { sticks: {}, triggers: {}, buttons: {} };
  for (const h of hidden) {
    const kind = profile.controls.find((c) => c.id === h.place)?.kind;
    if (kind === "stick")
      faults.sticks[h.place] = {
        ...faults.sticks[h.place],
        ...(STICK[h.measure as keyof typeof STICK] as object),
      };
    if (kind === "trigger")
      faults.triggers[h.place] = {
        ...faults.triggers[h.place],
        ...TRIGGER[h.measure as keyof typeof TRIGGER],
      };
    if (kind === "button")
      faults.buttons[h.place] = { ...faults.buttons[h.place], ...BUTTON[h.measure as keyof typeof BUTTON] };
  }
  return faults;
}

/** What a made-up seller tells: of the first fault at the lowest level, little or nothing above it. */
export type Told =
  | { code: "fault"; measure: string; control: { id: string; name?: string | undefined } }
  | { code: "something"; control: { id: string; name?: string | undefined } }
  | { code: "nothing" };
export function toldOf(profile: ModelProfile, hidden: readonly Hidden[], level: Level): Told {
  const first = hidden[0]!;
  const control = profile.controls.find((c) => c.id === first.place) ?? { id: first.place };
  if (level === 1) return { code: "fault", measure: first.measure, control };
  return level === 2 ? { code: "something", control } : { code: "nothing" };
}
