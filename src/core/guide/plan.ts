import type { MappedControl } from "../input/input";
import { badChance, type Presses } from "../signal/risk";
import type { Step } from "../recording/recording";

/**
 * One thing asked of the person; `control` is empty when it is about all of them. `ms`: how long hands stay off
 * where that is not the usual time.
 */
export type GuideStep = { step: Step; control: string; ms?: number };

/**
 * What a proof asks of the buttons: the chance that one of them is bad stays under `aim`. Presses since the last
 * thing done at a button count, those of earlier tests too (signal/risk.ts).
 */
export type PressAim = {
  aim: number;
  /** buttons of the whole unit, over which the risk is summed; those of the test when it is not said */
  buttons?: number;
  /** a spot test proves nothing by itself: what earlier presses have decided need not be decided anew */
  pooled?: boolean;
  before: Readonly<Record<string, { middle: Presses; rim: Presses }>>;
};
export const RELEASE_AIM = 0.001;
/** A proof of a unit of which no press is known. */
export const FRESH_PROOF: PressAim = { aim: RELEASE_AIM, before: {} };
export const NO_PRESSES: Readonly<Record<"middle" | "rim", Presses>> = {
  middle: { presses: 0, missed: 0 },
  rim: { presses: 0, missed: 0 },
};

/** What the middle or the rim of a button has shown before this test. */
export const pressesBefore = (aim: PressAim, control: string, where: "middle" | "rim"): Presses =>
  (aim.before[control] ?? NO_PRESSES)[where];

type Planned = MappedControl & { rim?: boolean };

/**
 * Where a press on the rim is asked for, cue by cue; the four are pooled for the verdict and kept apart for
 * the drawing.
 */
export const RIM_SIDES = ["top", "right", "bottom", "left"] as const;
export type RimSide = (typeof RIM_SIDES)[number];
export const rimSideOf = (cue: number): RimSide => RIM_SIDES[cue % RIM_SIDES.length]!;

const COMMAND_BUTTONS = 2;
const isThumbButton = (c: Planned) =>
  c.kind === "button" && !c.id.endsWith(".click") && !c.id.startsWith("menu") && c.id !== "home";

/**
 * The full test in an order that lessens handling: hands off, two buttons under the thumb (once they pass,
 * holding one repeats or skips a step, so that the hands stay on the controller), each stick, the triggers,
 * then the other buttons. `rimToo` names buttons whose rim is asked for beyond the profile's, as a claim
 * does; `likeliest` names what is asked for before the rest. A test begins and ends with hands off.
 */
export function planFullTest(
  controls: readonly Planned[],
  rimToo: readonly string[] = [],
  aim: PressAim | null = null,
  likeliest: readonly string[] = [],
): GuideStep[] {
  const of = (kind: MappedControl["kind"]) => controls.filter((c) => c.kind === kind);
  const thumb = of("button").filter(isThumbButton);
  const faces = thumb.filter((c) => c.id.startsWith("face."));
  const first = (faces.length >= COMMAND_BUTTONS ? faces : thumb).slice(0, COMMAND_BUTTONS);
  const others = of("button").filter((c) => !first.includes(c));
  const buttons = [...first, ...(aim ? mostDoubtfulFirst(others, aim) : others)];
  const pressed = (c: Planned): GuideStep[] => [
    { step: "press", control: c.id },
    ...(c.rim || rimToo.includes(c.id) ? [{ step: "press-edge" as const, control: c.id }] : []),
  ];
  const stepsOf = (c: Planned): GuideStep[] => {
    if (c.kind === "button") return pressed(c);
    if (c.kind === "trigger") return [{ step: "pull", control: c.id }];
    return (["circle", "sweep", "flick"] as const).map((step) => ({ step, control: c.id }));
  };
  const steering = buttons.slice(0, first.length);
  const usual = [...of("stick"), ...of("trigger"), ...buttons.slice(first.length)];
  const before = likeliest.flatMap((id) => usual.find((c) => c.id === id) ?? []);
  return [
    { step: "rest", control: "" },
    ...steering.flatMap(stepsOf),
    ...[...before, ...usual.filter((c) => !before.includes(c))].flatMap(stepsOf),
    // what crept off while it was used must not rest on its first moment
    { step: "rest", control: "" },
  ];
}

/** The buttons of which least is known come first, so that the risk falls quickest. */
const mostDoubtfulFirst = (buttons: readonly Planned[], aim: PressAim): Planned[] =>
  [...buttons].sort(
    (a, b) => badChance(pressesBefore(aim, b.id, "middle")) - badChance(pressesBefore(aim, a.id, "middle")),
  );

/**
 * Some controls only, each with its own steps: a second look at what surprised, or presses with another
 * force.
 */
export function planSpotTest(controls: readonly Planned[], ids: readonly string[]): GuideStep[] {
  const wanted = controls.filter((c) => ids.includes(c.id));
  return planFullTest(wanted.map((c) => ({ ...c, rim: c.rim || ids.length === 1 })));
}
