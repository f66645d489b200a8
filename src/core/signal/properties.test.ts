import { RecordingBuilder, type Recording } from "../recording/recording";
import { inputMap, type MappedControl } from "../input/input";
import { simulateFullTest } from "../simulate/run";
import { HOUSE_LIMITS } from "../grade/limits";
import { analyse, type StickResult, type TriggerResult, type ButtonResult } from "../analyse/analyse";

/**
 * Laws that the measures keep whatever the sampling: the same hand and pad, recorded in another way, read the
 * same.
 */

const CONTROLS: MappedControl[] = [
  { id: "stick.left", kind: "stick", input: { axes: [0, 1] } },
  { id: "trigger.left", kind: "trigger", input: { button: 1 } },
  { id: "face.south", kind: "button", input: { button: 0 } },
];
const MAP = inputMap(CONTROLS);
const FAULTS = [
  {},
  {
    sticks: { "stick.left": { offset: [0.06, -0.04] as const, noise: 0.004, reach: { left: 0.93 } } },
    triggers: { "trigger.left": { full: 0.96, rest: 0.02, hole: 0.09 } },
    buttons: { "face.south": { missRate: 0.4 } },
  },
  {
    sticks: { "stick.left": { scatter: 0.05, noise: 0.012 } },
    triggers: { "trigger.left": { backtrack: 0.05 } },
  },
];
const recorded = (i: number): Recording =>
  simulateFullTest(CONTROLS, { seed: 40 + i, rateHz: 500, bits: 16, faults: FAULTS[i]! as never });
const recordings = FAULTS.map((_, i) => recorded(i));

/** The same recording with its rows chosen, repeated or changed. */
function rewritten(
  r: Recording,
  rows: (i: number) => number,
  change: (v: number, channel: string) => number = (v) => v,
): Recording {
  const b = new RecordingBuilder([0, 1], [0, 1]);
  const due = { cue: false };
  for (let i = 0; i < r.length; i++) {
    due.cue ||= r.cue[i] === 1; // a cue on a row that is left out belongs to the next
    for (let k = 0; k < rows(i); k++) {
      const row = b.row(
        r.t[i]! + k * 0.4,
        r.step[i]!,
        r.control[i] ? r.controlNames[r.control[i]! - 1]! : "",
        due.cue,
      );
      due.cue = false;
      r.axes.forEach((c, a) => b.setAxis(row, a, change(c![i]!, `a${a}`)));
      r.buttons.forEach((c, a) => b.setButton(row, a, change(c![i]!, `b${a}`)));
    }
  }
  return b.view();
}

const of = (r: Recording) => {
  const { controls } = analyse(r, MAP).analysis;
  return {
    stick: controls["stick.left"] as StickResult,
    trigger: controls["trigger.left"] as TriggerResult,
    button: controls["face.south"] as ButtonResult,
  };
};
const STICK = ["restOffset", "restNoise", "safeDeadZone", "reachMin", "circularityError"] as const;
const TRIGGER = ["restValue", "fullPull"] as const;

function expectSame(a: ReturnType<typeof of>, b: ReturnType<typeof of>, within: number): void {
  for (const m of STICK)
    expect([m, Math.abs(a.stick[m]! - b.stick[m]!)]).toEqual([m, expect.closeTo(0, -Math.log10(2 * within))]);
  for (const m of TRIGGER)
    expect([m, Math.abs(a.trigger[m]! - b.trigger[m]!)]).toEqual([
      m,
      expect.closeTo(0, -Math.log10(2 * within)),
    ]);
  // of a fall that comes and goes between two rows the rise in the meantime stays hidden, as it says itself
  const hidden = b.trigger.smallestSeen.backtrack!.value - HOUSE_LIMITS.trigger.backtrack.A;
  if (b.trigger.backtrack === null) {
    // beyond what a grade may rest on it is withheld, and never where nothing was near the limit
    expect(a.trigger.backtrack! + hidden).toBeGreaterThan(HOUSE_LIMITS.trigger.backtrack.C);
    expect(b.trigger.reasons).toContainEqual(
      expect.objectContaining({ measure: "backtrack", grade: "untested", note: "pull-slower" }),
    );
  } else
    expect(Math.abs(a.trigger.backtrack! - b.trigger.backtrack!)).toBeLessThanOrEqual(
      Math.max(within, hidden),
    );
  expect(b.stick.jumps?.count).toBe(a.stick.jumps?.count);
  expect([b.button.cues, b.button.missed, b.button.decision]).toEqual([
    a.button.cues,
    a.button.missed,
    a.button.decision,
  ]);
}

describe.each(recordings.map((r, i) => [i, r] as const))("controller %i", (_, r) => {
  test.each([2, 4])("every row in %i", (n) =>
    expectSame(of(r), of(rewritten(r, (i) => (i % n === 0 ? 1 : 0))), 0.01),
  );

  test("identical repeats, two or three of a row", () =>
    expectSame(of(r), of(rewritten(r, (i) => 1 + (i % 3 === 0 ? 2 : 0))), 0.005));

  test.each([8, 12])("a converter of %i bits", (bits) => {
    const steps = 2 ** bits - 1;
    const quantised = (v: number, channel: string) => {
      const low = channel.startsWith("a") ? -1 : 0;
      return low + (Math.round(((v - low) / (1 - low)) * steps) / steps) * (1 - low);
    };
    expectSame(of(r), of(rewritten(r, () => 1, quantised)), 1 / steps + 0.003);
  });

  test("a mirrored stick has mirrored places and the same sizes", () => {
    const a = of(r).stick;
    const b = of(
      rewritten(
        r,
        () => 1,
        (v, channel) => (channel === "a0" ? -v : v),
      ),
    ).stick;
    for (const m of STICK) expect(b[m]).toBeCloseTo(a[m]!, 2);
    expect(b.restCentre![0]).toBeCloseTo(-a.restCentre![0], 9);
    expect(b.restCentre![1]).toBeCloseTo(a.restCentre![1], 9);
    expect(b.reach!.left).toBeCloseTo(a.reach!.right!, 2);
    expect(b.reach!.up).toBeCloseTo(a.reach!.up!, 2);
  });

  test("time moved on and the order of columns change nothing", () => {
    const later = new RecordingBuilder([1, 0], [1, 0]);
    for (let i = 0; i < r.length; i++) {
      const row = later.row(
        r.t[i]! + 1e6,
        r.step[i]!,
        r.control[i] ? r.controlNames[r.control[i]! - 1]! : "",
        r.cue[i] === 1,
      );
      r.axes.forEach((c, a) => later.setAxis(row, a, c![i]!));
      r.buttons.forEach((c, a) => later.setButton(row, a, c![i]!));
    }
    expectSame(of(r), of(later.view()), 1e-6);
  });
});
