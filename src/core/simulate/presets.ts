import type { MappedControl } from "../input/input";
import type { ControllerFaults } from "./faults";

/**
 * Ready-made faults for the simulated controller, each for the first control of its kind that the model has.
 */
export const PRESETS = [
  "healthy",
  "drifts",
  "worn-track",
  "dead-half",
  "slow-return",
  "noisy",
  "short-reach",
  "weak-button",
  "chatter",
  "bridged",
  "short-trigger",
  "holed-trigger",
  "stuck-button",
  "light-press",
] as const;
export type Preset = (typeof PRESETS)[number];

const stickFault = {
  drifts: { offset: [0.14, -0.06] },
  "worn-track": { wornAt: 0.35, noise: 0.006 },
  "dead-half": { dead: "right" },
  "slow-return": { scatter: 0.09, sticksShare: 0.2 },
  noisy: { noise: 0.03, spikesPerSecond: 0.8 },
  "short-reach": { reach: { up: 0.86, left: 0.93 } },
} as const;

const triggerFault = {
  "short-trigger": { full: 0.91, rest: 0.03 },
  "holed-trigger": { hole: 0.2, backtrack: 0.05 },
} as const;
const buttonFault = {
  "weak-button": { missRate: 0.35 },
  chatter: { chatterRate: 0.4 },
  "stuck-button": { stuck: true },
  "light-press": { lightMissRate: 0.4 },
} as const;

export function presetFaults(preset: Preset, controls: readonly MappedControl[]): ControllerFaults {
  const first = (kind: MappedControl["kind"]) => controls.find((c) => c.kind === kind)?.id;
  const stick = first("stick");
  const trigger = first("trigger");
  const [button, other] = controls.filter((c) => c.kind === "button").map((c) => c.id);
  if (preset in stickFault && stick)
    return { sticks: { [stick]: stickFault[preset as keyof typeof stickFault] as never } };
  if (preset in triggerFault && trigger)
    return { triggers: { [trigger]: triggerFault[preset as keyof typeof triggerFault] } };
  if (preset in buttonFault && button)
    return { buttons: { [button]: buttonFault[preset as keyof typeof buttonFault] } };
  if (preset === "bridged" && button && other) return { buttons: { [button]: { firesWith: other } } };
  return {};
}
