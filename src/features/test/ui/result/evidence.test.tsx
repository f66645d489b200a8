import { render, screen } from "@testing-library/react";

import { analyse, type ControlResult, type StickResult, type TriggerResult } from "@/core/analyse/analyse";
import { HOUSE_LIMITS } from "@/core/grade/limits";
import { inputMap, type MappedControl } from "@/core/input/input";
import { type Plots, plotsOf } from "@/core/plots/plots";
import type { ControllerFaults, StickFaults, TriggerFaults } from "@/core/simulate/faults";
import { simulateFullTest } from "@/core/simulate/run";
import { evidenceOf, viewOf } from "./Evidence";
import { usualPress } from "./PressLanes";
import { edgePath, reachAtEight } from "./StickTravel";

/** What a control did, drawn: where a measure found its worst, in figures and in words, a healthy one behind. */

const CONTROLS: MappedControl[] = [
  { id: "stick.left", kind: "stick", input: { axes: [0, 1] } },
  { id: "trigger.left", kind: "trigger", input: { button: 6 } },
  { id: "face.south", kind: "button", input: { button: 0 } },
];
const FAIL = "var(--mui-palette-fail-main)";
const GREY = "var(--mui-palette-divider)";

type Kept = { result: ControlResult; plots: Plots; analysis: ReturnType<typeof analyse>["analysis"] };
function tested(id: string, faults: ControllerFaults): Kept {
  const recording = simulateFullTest(CONTROLS, { seed: 5, rateHz: 200, bits: 12, faults });
  const map = inputMap(CONTROLS);
  const { analysis, evidence } = analyse(recording, map);
  return { result: analysis.controls[id]!, plots: plotsOf(recording, map, evidence), analysis };
}

function drawn(id: string, { result, plots }: Kept, healthy: Kept | null = null, view?: "travel" | "middle") {
  const shown = evidenceOf({
    id,
    result,
    plots,
    limits: HOUSE_LIMITS,
    healthy: healthy && { tag: "BC-1", analysis: healthy.analysis, plots: healthy.plots },
    ...(view ? { view } : {}),
  });
  const { container } = render(<>{shown}</>);
  const [first] = screen.getAllByRole("img");
  return { container, words: first!.getAttribute("aria-label")! };
}
const stick = (fault: StickFaults) => tested("stick.left", { sticks: { "stick.left": fault } });
const trigger = (fault: TriggerFaults) => tested("trigger.left", { triggers: { "trigger.left": fault } });

describe("a stick", () => {
  test("a sound one has no leaps, and reaches its full way in all eight directions", () => {
    const { words, container } = drawn("stick.left", stick({}));
    expect(words).toMatch(/no leaps/);
    const figures = [...container.querySelectorAll("text")].map((t) => Number(t.textContent));
    expect(figures).toHaveLength(8);
    for (const f of figures) expect(f).toBeGreaterThan(94);
  });

  test("each leap is drawn where it began, along its axis, and counted by axis", () => {
    const kept = stick({ wornAt: 0.4 });
    const { words, container } = drawn("stick.left", kept, null, "travel");
    const leaps = (kept.result as StickResult).jumps!;
    expect(leaps.at.length).toBeGreaterThan(0);
    const along = (axis: "x" | "y") => leaps.axis.filter((a) => a === axis).length;
    expect(words).toContain(`${along("x")} leaps left to right, ${along("y")} up and down`);
    const bars = [...container.querySelectorAll(`path[stroke='${FAIL}']`)].map((p) => p.getAttribute("d")!);
    for (const [i, [x, y]] of leaps.at.entries()) {
      const isHere = (d: string) => (leaps.axis[i] === "x" ? d.includes(` ${y}H`) : d.startsWith(`M${x} `));
      expect([i, bars.some(isHere)]).toEqual([i, true]);
    }
  });

  test("one that rests off is shown by its middle, each rest with a tail towards where it was let go", () => {
    const kept = stick({ offset: [0.2, 0] });
    expect(viewOf(kept.result as StickResult)).toBe("middle");
    const { words, container } = drawn("stick.left", kept);
    expect(words).toMatch(/^The middle of the stick, brought near; rests within 2\d/);
    expect(words).toMatch(/the farthest after it was let go from /);
    const { settled, letGoAt } = kept.plots.sticks["stick.left"]!;
    expect(letGoAt).toHaveLength(settled.length);
    for (const [x, y] of letGoAt) expect(Math.hypot(x, y)).toBeGreaterThan(0.8);
    const tails = [...container.querySelectorAll("path")].filter((p) => p.getAttribute("d")!.includes("l"));
    expect(tails).toHaveLength(settled.length);
  });

  test("one whose leaps are worst is shown by its whole travel", () => {
    expect(viewOf(stick({ wornAt: 0.4 }).result as StickResult)).toBe("travel");
  });

  test("a healthy one lies behind in grey, by its own edge", () => {
    const healthy = stick({});
    const { container } = drawn("stick.left", stick({ wornAt: 0.4 }), healthy, "travel");
    const edge = edgePath((healthy.result as StickResult).profile!);
    expect(container.querySelector(`path[d="${edge}"][stroke='${GREY}']`)).not.toBeNull();
  });

  test("the reach of a direction is the least about it; where it was not there is none", () => {
    const profile = Array.from({ length: 72 }, (_, k): number | null => (k === 18 ? 0.4 : 1)); // up, at 90 degrees
    expect(reachAtEight(profile)).toEqual([1, 1, 0.4, 1, 1, 1, 1, 1]);
    const half = profile.map((r, k) => (k * 5 >= 150 && k * 5 < 210 ? null : r));
    expect(reachAtEight(half)[4]).toBeNull();
  });

  test("an edge that was not reached everywhere is no closed line", () => {
    const profile = Array.from({ length: 72 }, (_, k): number | null => (k === 10 ? null : 1));
    expect(edgePath(profile).match(/M/g)).toHaveLength(2);
    expect(edgePath(profile.map(() => null))).toBe("");
  });
});

describe("a trigger", () => {
  test("the hole in its travel is marked where it is, with how much it leaps", () => {
    const kept = trigger({ hole: 0.2 });
    const { largestStep, fullPull, restValue } = kept.result as TriggerResult;
    const mark = kept.plots.marks["trigger.left"]!.step!;
    const leap = mark.to[1] - mark.from[1];
    expect(leap / (fullPull! - restValue!)).toBeGreaterThan(largestStep! - 0.01);
    const pull = kept.plots.triggers["trigger.left"]![mark.pull]!;
    expect(pull).toContainEqual(mark.from);
    expect(pull).toContainEqual(mark.to);
    const { words, container } = drawn("trigger.left", kept);
    expect(words).toMatch(/leaps by \d+\.\d % at \d+\.\d %/);
    expect(container.querySelectorAll(`path[stroke='${FAIL}'][stroke-linecap='round']`)).toHaveLength(1);
  });

  test("where it falls back on its way up is marked from the higher to the lower", () => {
    const kept = trigger({ backtrack: 0.2 });
    const mark = kept.plots.marks["trigger.left"]!.back!;
    expect(mark.from[1] - mark.to[1]).toBeCloseTo((kept.result as TriggerResult).backtrack!, 3);
    expect(drawn("trigger.left", kept).words).toMatch(/falls back by \d+\.\d % at \d+\.\d % on the way up/);
  });

  test("a sound one has no place marked", () => {
    expect(drawn("trigger.left", trigger({})).words).toMatch(
      /^\d pulls over time, the highest [\d.]+ %; grade A reaches [\d.]+ %$/,
    );
  });
});

describe("a button", () => {
  test("each press stands against its cue, and each miss is told by its cue", () => {
    const kept = tested("face.south", { buttons: { "face.south": { missRate: 0.4 } } });
    const presses = kept.plots.buttons["face.south"]!;
    const missed = presses.flatMap((p, i) => (p === null ? [i + 1] : []));
    expect(missed.length).toBeGreaterThan(0);
    const { words, container } = drawn("face.south", kept);
    expect(words).toBe(
      `${presses.length} cues, ${missed.length} without a press; missed at cue ${missed.join(", ")}`,
    );
    expect(container.querySelectorAll("rect[fill='var(--mui-palette-primary-main)']")).toHaveLength(
      presses.length - missed.length,
    );
  });

  test("how a healthy one answers is the median of its presses", () => {
    expect(usualPress([[100, 60], null, [140, 80], [120, 90]])).toEqual([120, 210]);
    expect(usualPress([null])).toBeNull();
    expect(usualPress(undefined)).toBeNull();
  });
});
