/** How a control reads from the axes and buttons of the W3C Gamepad API. */

export type StickInput = { axes: readonly [number, number]; flip?: readonly [boolean, boolean] | undefined };
export type ButtonInput = { button: number };
/** A trigger on an axis: the axis value when released and when fully pulled. */
export type AxisTriggerInput = { axis: number; released: number; pulled: number };
/** A direction that a hat reports as one of several values of one axis. */
export type HatInput = { hat: number; values: readonly number[] };

export type MappedControl =
  | { id: string; kind: "stick"; input: StickInput }
  | { id: string; kind: "trigger"; input: ButtonInput | AxisTriggerInput }
  | { id: string; kind: "button"; input: ButtonInput | HatInput };

export type InputMap = {
  readonly controls: readonly MappedControl[];
  /** The allowed range of a channel that some control reads; undefined for one that none does. */
  range(kind: "a" | "b", index: number): readonly [number, number] | undefined;
};

const AXIS_RANGE = [-1, 1] as const;
const BUTTON_RANGE = [0, 1] as const;
const HAT_RANGE = [-4, 4] as const; // browsers report a centred hat just outside -1..1
export const HAT_TOLERANCE = 0.1; // neighbouring hat values lie 2/7 apart

export function inputMap(controls: readonly MappedControl[]): InputMap {
  const ranges = new Map<string, readonly [number, number]>();
  for (const c of controls) {
    const input = c.input;
    if ("axes" in input) input.axes.forEach((a) => ranges.set(`a${a}`, AXIS_RANGE));
    else if ("button" in input) ranges.set(`b${input.button}`, BUTTON_RANGE);
    else if ("axis" in input) ranges.set(`a${input.axis}`, AXIS_RANGE);
    else ranges.set(`a${input.hat}`, HAT_RANGE);
  }
  return { controls, range: (kind, index) => ranges.get(`${kind}${index}`) };
}

/** Controls of a model that a controller or a file with these axes and buttons cannot have. */
export function lackingControls(
  map: InputMap,
  hasAxis: (i: number) => boolean,
  hasButton: (i: number) => boolean,
): string[] {
  const lacks = ({ input }: MappedControl): boolean => {
    if ("axes" in input) return !input.axes.every(hasAxis);
    if ("button" in input) return !hasButton(input.button);
    return !hasAxis("axis" in input ? input.axis : input.hat);
  };
  return map.controls.filter(lacks).map((c) => c.id);
}

const STANDARD_BUTTONS = [
  "face.south",
  "face.east",
  "face.west",
  "face.north",
  "bumper.left",
  "bumper.right",
  "trigger.left",
  "trigger.right",
  "menu.left",
  "menu.right",
  "stick.left.click",
  "stick.right.click",
  "pad.up",
  "pad.down",
  "pad.left",
  "pad.right",
  "home",
] as const;

/** The standard gamepad of measures.md: used for a recording that comes without a profile. */
export const STANDARD_MAP: InputMap = inputMap([
  { id: "stick.left", kind: "stick", input: { axes: [0, 1] } },
  { id: "stick.right", kind: "stick", input: { axes: [2, 3] } },
  ...STANDARD_BUTTONS.map((id, button): MappedControl => ({
    id,
    kind: id.startsWith("trigger.") ? "trigger" : "button",
    input: { button },
  })),
]);

/** Reads one control's value from a live reading: a position for a stick, 0..1 for the others. */
export function readValue(
  control: MappedControl,
  axes: ArrayLike<number>,
  buttons: ArrayLike<number>,
): { x: number; y: number; v: number } {
  if (control.kind === "stick") {
    const [ax, ay] = control.input.axes;
    const [fx, fy] = control.input.flip ?? [false, false];
    return { x: (axes[ax] ?? 0) * (fx ? -1 : 1), y: (axes[ay] ?? 0) * (fy ? -1 : 1), v: 0 };
  }
  const input = control.input;
  if ("button" in input) return { x: 0, y: 0, v: buttons[input.button] ?? 0 };
  if ("axis" in input) return { x: 0, y: 0, v: axisTriggerValue(input, axes[input.axis] ?? input.released) };
  return { x: 0, y: 0, v: hatPressed(input, axes[input.hat] ?? 9) ? 1 : 0 };
}

export const axisTriggerValue = (input: AxisTriggerInput, raw: number): number =>
  Math.min(1, Math.max(0, (raw - input.released) / (input.pulled - input.released)));

export const hatPressed = (input: HatInput, raw: number): boolean =>
  input.values.some((value) => Math.abs(value - raw) < HAT_TOLERANCE);
