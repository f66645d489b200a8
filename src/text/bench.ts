import type { CalibrationOutlook } from "@/core/grade/calibration-outlook";
import type { BenchFigure, BenchResult, FigureUnit, Finding } from "@/core/bench/result";
import type { InstrumentProblem } from "@/core/instrument/instrument";
import type { FourLink, Group, Purpose, StepMethod } from "@/core/protocol/protocol";
import { measureName, percent } from "./measures";

/** Words of the bench: steps, figures and what they say. */

export const PURPOSE_NAMES: Record<Purpose, string> = { triage: "Quick triage", full: "Full test", proof: "Proof" };
export const GROUP_NAMES: Record<Group, string> = {
  "power-and-links": "Power and links",
  "no-host": "In the hand, no host",
  "host-by-cable": "On the host, by cable",
  "host-by-radio": "On the host, by radio",
  opened: "Only when open",
};
export const LINK_NAMES: Record<FourLink, string> = {
  "power-on": "power-on",
  charging: "charging sign",
  cable: "cable",
  radio: "radio",
};
export const METHOD_WORDS: Record<StepMethod, string> = {
  prompt: "look and answer",
  quick: "move everything once",
  guided: "guided recording",
  supply: "meter",
  "charge-log": "charge meter",
  "discharge-log": "run-down log",
  "link-watch": "watched link",
  motor: "run and feel",
  microphone: "sound level",
  tone: "tone",
  latch: "tugs",
  feel: "by feel",
  "trigger-drag": "scale",
  "contact-sensor": "meter, open",
};

export const FIGURE_NAMES: Record<string, string> = {
  openVolts: "open voltage",
  highestVolts: "highest voltage",
  loadedVolts: "voltage under load",
  nominalVolts: "cells times nominal",
  stateOfCharge: "state of charge",
  internalResistance: "internal resistance",
  taken: "charge taken",
  shareOfRated: "share of rated",
  breaks: "breaks in the flow",
  peakCurrent: "peak current",
  chargeTime: "time logged",
  leak: "leak, each cell",
  runTime: "run time to cut-off",
  slopePerHour: "fall per hour",
  capacity: "capacity",
  imbalance: "imbalance",
  predictedOffset: "predicted axis offset",
  totalDeviation: "total against nominal",
  total: "total resistance",
  repeats: "readings used",
  dropouts: "dropouts",
  longestGap: "longest gap",
  watched: "watched",
  cleanReach: "reach without a dropout",
  firstDropout: "first dropout at",
  walked: "walked",
  noiseFloor: "noise floor",
  phrase: "set phrase",
  rub: "rubbed surface",
  phraseOverFloor: "phrase over the floor",
  rubOverFloor: "rub over the floor",
  belowReference: "below the reference",
  silentLevel: "silence at the tone",
  toneLevel: "tone",
  toneOverSilence: "tone over silence",
  slipped: "slipped",
  slipRateUpper95: "slip rate at most (95 %)",
  tugs: "tugs",
  stuck: "would not let go",
  dragLeft: "left, powered",
  dragRight: "right, powered",
  dragDifference: "difference",
};
export const figureName = (name: string): string =>
  FIGURE_NAMES[name] ?? (name.startsWith("dropouts.") ? `dropouts, ${placeWord(name.slice(9))}` : measureName(name));

const PLACES: Record<string, string> = {
  plug: "at the plug",
  "first-third": "first third",
  middle: "middle",
  "last-third": "last third",
  shell: "at the shell",
};
export const placeWord = (place: string): string => PLACES[place] ?? place;

const digits = (v: number, n: number) => v.toFixed(n);
const IN_UNIT: Record<FigureUnit, (v: number) => string> = {
  V: (v) => `${digits(v, 2)} V`,
  "V/cell": (v) => `${digits(v, 2)} V`,
  ohm: (v) => (v >= 1000 ? `${digits(v / 1000, 2)} kΩ` : `${digits(v, 2)} Ω`),
  mAh: (v) => `${digits(v, 0)} mAh`,
  mA: (v) => `${digits(v, 0)} mA`,
  share: percent,
  h: (v) => `${digits(v, 1)} h`,
  "mV/day": (v) => `${digits(v, 1)} mV a day`,
  m: (v) => `${digits(v, 1)} m`,
  count: (v) => String(Math.round(v)),
  s: (v) => `${digits(v, 0)} s`,
  ms: (v) => `${digits(v, 0)} ms`,
  dBFS: (v) => `${digits(v, 1)} dBFS`,
  dB: (v) => `${digits(v, 1)} dB`,
  g: (v) => `${digits(v, 0)} g`,
  travel: percent,
};
export const inUnit = (v: number, unit: FigureUnit): string => IN_UNIT[unit](v);
export const figureValue = (f: BenchFigure): string => (f.value === null ? "not measured" : inUnit(f.value, f.unit));
export const figureLimit = (f: BenchFigure): string =>
  f.limit
    ? f.limit.value === 0
      ? "none allowed"
      : `${f.limit.side === "most" ? "at most" : "at least"} ${inUnit(f.limit.value, f.unit)}`
    : "";
export const figureInterval = (f: BenchFigure): string =>
  f.low != null && f.high != null
    ? `${inUnit(Math.min(f.low, f.high), f.unit)} to ${inUnit(Math.max(f.low, f.high), f.unit)}`
    : "";

const FINDINGS: Record<string, (facts: Record<string, string | number>) => string> = {
  "load-raised-voltage": () =>
    "The loaded voltage is above the open one: the two were swapped, or the load was not on. Read again.",
  "charge-first": () => "Too low to judge anything by: charge it, or fit fresh cells, first.",
  "supply-low": () => "The supply is below what the model needs: check the host's port and the cord.",
  "voltage-too-high": () => "Above what cells of this kind show: check what is fitted, and do not charge.",
  "cell-sags": () => "The voltage sags under load: a tired cell.",
  "no-load-reading": () => "Without a loaded reading the cell itself is not judged.",
  "no-current": () => "No current flowed, and no sign was seen: contacts or charging circuit. Measure at the contacts next.",
  "sign-without-current": () => "The sign shows charging while no current flows: the charging circuit.",
  "contacts-break": () => "The current comes and goes: contacts.",
  "charge-not-finished": () => "The log ends before the current fell off: capacity is not known yet.",
  "charges-too-high": () => "The charging circuit does not stop where it should. Unplug it.",
  "cell-takes-little": () => "It takes little charge before it is full: a tired cell.",
  "current-without-sign": () => "Current flows and the sign stays dark: look at the light, not at the cell.",
  "log-too-short": () => "Too few rows to draw a line through.",
  "cell-leaks": () => "The charge does not hold while it lies still: the cell.",
  "cell-gives-little": () => "It gives little before cut-off: a tired cell.",
  "voltage-does-not-fall": () => "The voltage did not fall: log for longer, or with a load.",
  "finger-left-out": (f) => `${f.count} ${f.count === 1 ? "reading" : "readings"} with a finger on the part left out.`,
  "leg-open": () => "An open leg: a broken track, leg or joint.",
  "track-broken": () => "The total lies too far from nominal: a broken track.",
  "one-reading": () => "One reading has no spread: repeat it to know how sure it is.",
  "readings-scatter": () => "The readings scatter: hold the probes still and repeat.",
  "drops-at": (f) => `Drops out ${placeWord(String(f.place))}, ${f.count} ${f.count === 1 ? "time" : "times"}.`,
  "charge-lost-at": (f) => `Charging stops when pushed ${f.places}.`,
  "plug-loose": () => "The plug sits loose.",
  "plug-falls-out": () => "The plug falls out.",
  "places-left": (f) => `Not long enough: ${String(f.places).split(", ").map(placeWord).join(", ")}.`,
  "radio-drops": (f) => `First dropout at ${f.metres} m.`,
  "walk-farther": (f) => `No dropout so far: walk to ${f.metres} m.`,
  "microphone-deaf": () => "Neither voice nor rubbing is heard: the microphone or its line is dead.",
  "microphone-muffled": () => "Rubbing is heard, the voice is not: a blocked opening or a boot out of place.",
  "not-this-opening": () => "The voice is heard, rubbing this opening is not: another microphone may be hearing it.",
  "below-reference": () => "Quieter than the reference unit.",
  "no-reference": () => "No reference unit was measured this way yet.",
  "tone-not-heard": () => "The tone is not heard.",
  "latch-slips": (f) => `Slipped ${f.count} of ${f.tugs} tugs.`,
  "latch-sticks": (f) => `Would not let go ${f.count} ${f.count === 1 ? "time" : "times"}.`,
  "more-tugs": () => "Held so far, but too few tugs to rule out one slip in five. 14 clean tugs do.",
  "try-the-release": () => "Try the release as well.",
  "motor-silent": () => "Does not run.",
  "motor-weak": () => "Runs weakly.",
  "motor-rattles": () => "Rattles.",
  "play-marked": () => "Marked free play.",
  "return-slow": () => "Comes back slowly.",
  "return-hangs": () => "Hangs.",
  "feels-floppy": () => "Floppy.",
  "feels-sticky": () => "Sticky.",
  "feels-stiff": () => "Too stiff.",
  "drag-left-weak": () => "The left trigger pushes back less than the right.",
  "drag-right-weak": () => "The right trigger pushes back less than the left.",
  "gears-grind": () => "The gears grind.",
};
export const findingText = (f: Finding): string => FINDINGS[f.code]?.(f.facts ?? {}) ?? f.code;

/** A result in one line: its first figure and what it says. */
export function benchResultText(r: BenchResult): string {
  const first = r.figures.find((f) => f.value !== null && f.limit) ?? r.figures.find((f) => f.value !== null);
  return [first && `${figureName(first.name)} ${figureValue(first)}`, ...r.findings.map(findingText)].filter(Boolean).join("; ");
}

const PROBLEMS: { [C in InstrumentProblem["code"]]: (p: Extract<InstrumentProblem, { code: C }>) => string } = {
  "no-answer": (p) =>
    `The instrument did not answer within ${p.afterMs / 1000} s. Check the cable and its settings, then read again.`,
  "not-understood": (p) => `The instrument said "${p.answer}", which is no figure. Read again.`,
  overload: () => "The instrument shows an overload: an open circuit, or too small a range.",
  "instrument-error": (p) => `The instrument reports: ${p.text}`,
  "line-lost": () => "The line to the instrument is lost. Plug it in and connect again.",
  cannot: (p) => `This instrument cannot measure ${p.quantity}. Type the figure.`,
};
export const instrumentProblemText = (p: InstrumentProblem): string => (PROBLEMS[p.code] as (p: InstrumentProblem) => string)(p);

const list = (names: readonly string[]) => names.map(measureName).join(", ");
export function calibrationText(o: CalibrationOutlook): string {
  if (o.verdict === "cures") return `Calibration is predicted to cure it: ${list(o.before)}.`;
  if (o.verdict === "helps") return `Calibration would cure ${list(o.cured)}, not ${list(o.left)}: that is wear.`;
  if (o.verdict === "no-cure") return `Calibration will not cure it: ${list(o.left)} is wear.`;
  return o.verdict === "unknown" ? "Whether calibration would help is not known: the edge or the rest was not measured." : "";
}
