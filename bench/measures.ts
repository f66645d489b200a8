/**
 * For each measure its error against the injected truth, over simulated controllers with random faults and
 * rates from 60 Hz to 1 kHz; the confusion table of grades; and how long a practised hand's full test of a
 * two-stick pad takes.
 * npm run bench:measures [-- N]
 */
import { GRADES, type Grade } from "@/core/grade/grade";
import { HOUSE_LIMITS } from "@/core/grade/limits";
import { type Chance, seeded } from "@/core/math/random";
import { median, quantile } from "@/core/math/quantile";
import { inputMap, type MappedControl, STANDARD_MAP } from "@/core/input/input";
import { analyse } from "@/core/analyse/analyse";
import { SimulatedController } from "@/core/simulate/controller";
import type { ButtonFaults, StickFaults, TriggerFaults } from "@/core/simulate/faults";
import { simulateFullTest } from "@/core/simulate/run";

const COUNT = Number(process.argv.slice(2).find((a) => /^\d+$/.test(a)) ?? 500);
const L = HOUSE_LIMITS;
const CONTROLS: MappedControl[] = [
  { id: "stick.left", kind: "stick", input: { axes: [0, 1] } },
  { id: "trigger.left", kind: "trigger", input: { button: 6 } },
  { id: "face.south", kind: "button", input: { button: 0 } },
  { id: "face.east", kind: "button", input: { button: 1 } },
];
const MAP = inputMap(CONTROLS);
type Class = "healthy" | "between" | "broken";
const CLASSES: Class[] = ["healthy", "between", "broken"];

/** A share of travel for a limit that must not be passed, in the wished class. */
function upTo(c: Chance, cls: Class, a: number, cc: number): number {
  if (cls === "healthy") return c.between(0, a / 2);
  return cls === "broken" ? c.between(1.5 * cc, 2.5 * cc) : c.between(a / 2, 1.5 * cc);
}
/** The same for a figure that must reach a limit: what is missing to 1 plays the part of the fault. */
const reachOf = (c: Chance, cls: Class, a: number, cc: number) => 1 - upTo(c, cls, 1 - a, 1 - cc);

const NOISE_TO_SIGMA = Math.sqrt(2 * Math.log(20)); // the 95th percentile of the distance of two normals

function stickFaults(c: Chance, cls: Class): StickFaults {
  const f: StickFaults = { noise: c.between(0.0005, L.stick.restNoise.A / 2 / NOISE_TO_SIGMA) };
  const healthyOffset = c.between(0, L.stick.restOffset.A / 2);
  const angle = c.between(0, 2 * Math.PI);
  const offset = (r: number): [number, number] => [r * Math.cos(angle), r * Math.sin(angle)];
  f.offset = offset(healthyOffset / 2);
  f.scatter = c.between(0.001, 0.006);
  if (cls === "healthy") return f;
  const kind = c.pick(["offset", "noise", "reach", "scatter", "jumps", "dead"] as const);
  if (kind === "offset") f.offset = offset(upTo(c, cls, L.stick.restOffset.A, L.stick.restOffset.C));
  if (kind === "noise") f.noise = upTo(c, cls, L.stick.restNoise.A, L.stick.restNoise.C) / NOISE_TO_SIGMA;
  if (kind === "reach")
    f.reach = {
      [c.pick(["right", "left", "up", "down"])]: reachOf(c, cls, L.stick.reachMin.A, L.stick.reachMin.C),
    };
  if (kind === "scatter") f.scatter = upTo(c, cls, L.stick.safeDeadZone.A, L.stick.safeDeadZone.C) / 1.2;
  if (kind === "jumps") {
    f.wornAt = c.between(-0.6, 0.6);
    f.leap = cls === "broken" ? c.between(0.3, 0.6) : c.between(0.03, 0.3);
  }
  if (kind === "dead" && cls === "broken") f.dead = c.pick(["right", "left", "up", "down"] as const);
  return f;
}

function triggerFaults(c: Chance, cls: Class): TriggerFaults {
  const f: TriggerFaults = {
    rest: c.between(0, L.trigger.restValue.A / 2),
    full: c.between(1 - (1 - L.trigger.fullPull.A) / 2, 1),
  };
  if (cls === "healthy") return f;
  const kind = c.pick(["rest", "full", "backtrack", "hole"] as const);
  if (kind === "rest") f.rest = upTo(c, cls, L.trigger.restValue.A, L.trigger.restValue.C);
  if (kind === "full") f.full = reachOf(c, cls, L.trigger.fullPull.A, L.trigger.fullPull.C);
  if (kind === "backtrack") f.backtrack = upTo(c, cls, L.trigger.backtrack.A, L.trigger.backtrack.C);
  if (kind === "hole") f.hole = upTo(c, cls, L.trigger.largestStep.A, L.trigger.largestStep.C);
  return f;
}

const buttonFaults = (c: Chance, cls: Class): ButtonFaults => ({
  missRate: cls === "healthy" ? 0 : cls === "broken" ? 0.3 : c.between(0.005, 0.3),
});

type Kind = "stick" | "trigger" | "button";
const errors = new Map<string, number[]>();
const note = (measure: string, got: number | null, truth: number) => {
  if (got === null) return;
  errors.set(measure, [...(errors.get(measure) ?? []), Math.abs(got - truth)]);
};
const confusion = new Map<string, number>();
const count = (kind: Kind, cls: Class, grade: Grade) => {
  const key = `${kind}|${cls}|${grade}`;
  confusion.set(key, (confusion.get(key) ?? 0) + 1);
};
const of = (kind: Kind, cls: Class, grades: readonly Grade[]) =>
  grades.reduce((n, g) => n + (confusion.get(`${kind}|${cls}|${g}`) ?? 0), 0);
const jumps = { seen: 0, seenRight: 0, small: 0, smallFound: 0, clean: 0, cleanFalse: 0 };
let brokenBelowSmallest = 0;
const escaped: string[] = [];

for (let seed = 1; seed <= COUNT; seed++) {
  const c = seeded(seed * 7919);
  const rateHz = Math.round(60 * (1000 / 60) ** c.next());
  const bits = c.pick([8, 10, 12]);
  const cls = { stick: c.pick(CLASSES), trigger: c.pick(CLASSES), button: c.pick(CLASSES) };
  const stick = stickFaults(c, cls.stick);
  const trigger = triggerFaults(c, cls.trigger);
  const button = buttonFaults(c, cls.button);
  const controller = new SimulatedController(CONTROLS, {
    seed,
    rateHz,
    bits,
    faults: {
      sticks: { "stick.left": stick },
      triggers: { "trigger.left": trigger },
      buttons: { "face.south": button },
    },
  });
  const recording = simulateFullTest(
    CONTROLS,
    { seed, rateHz, bits, faults: {} },
    undefined,
    undefined,
    controller,
  );
  const { analysis } = analyse(recording, MAP);
  const s = analysis.controls["stick.left"]!;
  const t = analysis.controls["trigger.left"]!;
  const b = analysis.controls["face.south"]!;
  if (s.kind !== "stick" || t.kind !== "trigger" || b.kind !== "button") throw new Error("unexpected kinds");

  const offset = Math.hypot(...stick.offset!);
  const usable = stick.dead === undefined;
  note("restOffset", s.restOffset, offset);
  note("restNoise", s.restNoise, stick.noise! * NOISE_TO_SIGMA);
  if (usable && stick.wornAt === undefined) {
    const settled = controller
      .settledAt("stick.left")
      .slice(2)
      .filter(([x, y]) => Math.hypot(x, y) < 0.45) // farther out it counts as never let go
      .slice(0, s.releases ?? 0);
    // the first two let-gos end the circles and the sweeps
    const far = Math.max(
      offset,
      ...settled.map(([x, y]) =>
        Math.hypot(x + stick.offset![0] * (1 - Math.abs(x)), y + stick.offset![1] * (1 - Math.abs(y))),
      ),
    );
    note("safeDeadZone", s.safeDeadZone, Math.max(far, offset + 2.2 * stick.noise!));
    note("reachMin", s.reachMin, Math.min(1, ...Object.values(stick.reach ?? { right: 1 })));
    const edge = circularityTruth(stick);
    note("circularityError", s.circularityError, edge);
  }
  note("trigger restValue", t.restValue, trigger.rest!);
  note("trigger fullPull", t.fullPull, trigger.full!);
  if (!trigger.hole)
    note("trigger backtrack", t.backtrack, (trigger.backtrack ?? 0) * (trigger.full! - trigger.rest!));
  if (!trigger.backtrack) note("trigger largestStep", t.largestStep, trigger.hole ?? 0);

  if (usable) {
    const leap = stick.wornAt === undefined ? 0 : stick.leap!;
    const smallest = s.jumps?.smallestSeen ?? 0.1;
    if (leap === 0) {
      jumps.clean++;
      if ((s.jumps?.count ?? 0) > 0) jumps.cleanFalse++;
    } else if (leap > smallest) {
      jumps.seen++;
      if ((s.jumps?.count ?? 0) > 0) jumps.seenRight++;
    } else {
      jumps.small++;
      if ((s.jumps?.count ?? 0) > 0) jumps.smallFound++;
      if (cls.stick === "broken") brokenBelowSmallest++;
    }
  }
  const told = stick.wornAt === undefined || stick.leap! > (s.jumps?.smallestSeen ?? 0.1);
  if (told) count("stick", cls.stick, s.grade);
  count("trigger", cls.trigger, t.grade);
  count("button", cls.button, b.grade);
  if (cls.stick === "healthy" && s.grade === "fail")
    escaped.push(
      `seed ${seed} healthy stick failed at ${rateHz} Hz, ${bits} bits: ${JSON.stringify(s.reasons)}`,
    );
  if (cls.trigger === "healthy" && t.grade === "fail")
    escaped.push(`seed ${seed} healthy trigger failed at ${rateHz} Hz: ${JSON.stringify(t.reasons)}`);
  if (cls.trigger === "broken" && (t.grade === "A" || t.grade === "B"))
    escaped.push(`seed ${seed} broken trigger ${t.grade} at ${rateHz} Hz: ${JSON.stringify(trigger)}`);
  if (cls.stick === "broken" && told && (s.grade === "A" || s.grade === "B"))
    escaped.push(`seed ${seed} broken stick ${s.grade} at ${rateHz} Hz: ${JSON.stringify(stick)}`);
}

/** The mean distance of the noiseless edge from 1, as the simulated electronics bend it. */
function circularityTruth(f: StickFaults): number {
  let sum = 0;
  for (let k = 0; k < 720; k++) {
    const a = (k / 720) * 2 * Math.PI;
    const axis = (v: number, plus: "right" | "down", minus: "left" | "up", o: number) =>
      v * (f.reach?.[v >= 0 ? plus : minus] ?? 1) +
      o * (1 - Math.abs(v * (f.reach?.[v >= 0 ? plus : minus] ?? 1)));
    const x = Math.max(-1, Math.min(1, axis(Math.cos(a), "right", "left", f.offset?.[0] ?? 0)));
    const y = Math.max(-1, Math.min(1, axis(-Math.sin(a), "down", "up", f.offset?.[1] ?? 0)));
    sum += Math.abs(Math.hypot(x, y) - 1);
  }
  return sum / 720;
}

console.log(`${COUNT} simulated controllers, 60 Hz to 1 kHz, 8 to 12 bits\n`);
console.log("measure                 median error   99th percentile   cases");
for (const [measure, list] of errors)
  console.log(
    `${measure.padEnd(22)} ${median(list).toFixed(5).padStart(12)} ${quantile(list, 0.99).toFixed(5).padStart(17)} ${String(list.length).padStart(9)}`,
  );
console.log(
  `\njumps above smallestSeen found: ${jumps.seenRight} of ${jumps.seen}; below it found: ${jumps.smallFound} of ${jumps.small} (reported apart; ${brokenBelowSmallest} of them injected as broken); false on sticks without: ${jumps.cleanFalse} of ${jumps.clean}`,
);
console.log("\ngrades                 " + GRADES.map((g) => g.padStart(9)).join(""));
for (const kind of ["stick", "trigger", "button"] as const)
  for (const cls of CLASSES)
    console.log(
      `${`${kind}, ${cls}`.padEnd(22)} ${GRADES.map((g) => String(of(kind, cls, [g])).padStart(9)).join("")}`,
    );

const share = (n: number, all: number) => `${n} of ${all} (${all ? ((100 * n) / all).toFixed(2) : "0"} %)`;
const all = (kind: Kind, cls: Class) => of(kind, cls, GRADES);
console.log(
  `\nbroken sticks graded A or B:    ${share(of("stick", "broken", ["A", "B"]), all("stick", "broken"))} (aim: none)`,
);
console.log(
  `broken triggers graded A or B:  ${share(of("trigger", "broken", ["A", "B"]), all("trigger", "broken"))} (aim: none)`,
);
console.log(
  `broken buttons passed:          ${share(of("button", "broken", ["A", "B", "C"]), all("button", "broken"))} (aim: under 2 %)`,
);
const healthyFailed = (["stick", "trigger", "button"] as const).reduce(
  (n, k) => n + of(k, "healthy", ["fail"]),
  0,
);
const healthy = (["stick", "trigger", "button"] as const).reduce((n, k) => n + all(k, "healthy"), 0);
console.log(`healthy controls failed:        ${share(healthyFailed, healthy)} (aim: under 1 %)`);
for (const line of escaped.slice(0, 12)) console.log(`  ${line}`);

const pad = STANDARD_MAP.controls;
const full = simulateFullTest(pad, { seed: 3, rateHz: 250, bits: 10, faults: {} });
const seconds = full.t[full.length - 1]! / 1000;
const buttons = pad.filter((p) => p.kind === "button").length;
console.log(
  `\nFull test by a practised (simulated) hand, two sticks, two triggers, ${buttons} buttons: ${Math.floor(seconds / 60)} min ${Math.round(seconds % 60)} s (aim: under 6 min)`,
);
