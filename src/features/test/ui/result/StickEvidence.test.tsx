import { render, screen } from "@testing-library/react";

import { analyse, type StickResult } from "@/core/analyse/analyse";
import { HOUSE_LIMITS } from "@/core/grade/limits";
import { inputMap, type MappedControl } from "@/core/input/input";
import { plotsOf } from "@/core/plots/plots";
import type { StickFaults } from "@/core/simulate/faults";
import { simulateFullTest } from "@/core/simulate/run";
import { reachAtEight, StickEvidence } from "./StickEvidence";

/** What a stick did, drawn: the leaps where they were, and how far it reached, in figures and in words. */

const CONTROLS: MappedControl[] = [{ id: "stick.left", kind: "stick", input: { axes: [0, 1] } }];

function drawn(fault: StickFaults) {
  const faults = { sticks: { "stick.left": fault } };
  const recording = simulateFullTest(CONTROLS, { seed: 5, rateHz: 200, bits: 12, faults });
  const map = inputMap(CONTROLS);
  const { analysis, evidence } = analyse(recording, map);
  const plots = plotsOf(recording, map, evidence);
  const result = analysis.controls["stick.left"] as StickResult;
  const view = render(
    <StickEvidence result={result} plot={plots.sticks["stick.left"]!} limits={HOUSE_LIMITS.stick} />,
  );
  return { result, container: view.container, words: screen.getByRole("img").getAttribute("aria-label")! };
}

test("a sound stick has no leaps, and reaches its full way in all eight directions", () => {
  const { words, container } = drawn({});
  expect(words).toMatch(/no leaps/);
  const figures = [...container.querySelectorAll("text")].map((t) => Number(t.textContent));
  expect(figures).toHaveLength(8);
  for (const f of figures) expect(f).toBeGreaterThan(94);
});

test("each leap is drawn where it began, along its axis, and counted by axis", () => {
  const { words, container, result } = drawn({ wornAt: 0.4 });
  const leaps = result.jumps!;
  expect(leaps.at.length).toBeGreaterThan(0);
  const along = (axis: "x" | "y") => leaps.axis.filter((a) => a === axis).length;
  expect(words).toContain(`${along("x")} leaps left to right, ${along("y")} up and down`);
  const bars = [...container.querySelectorAll("path[stroke='var(--mui-palette-fail-main)']")].map((p) =>
    p.getAttribute("d")!,
  );
  for (const [i, [x, y]] of leaps.at.entries()) {
    const isHere = (d: string) => (leaps.axis[i] === "x" ? d.includes(` ${y}H`) : d.startsWith(`M${x} `));
    expect([i, bars.some(isHere)]).toEqual([i, true]);
  }
});

test("the reach of a direction is the least about it; where it was not there is none", () => {
  const profile = Array.from({ length: 72 }, (_, k): number | null => (k === 18 ? 0.4 : 1)); // up, at 90 degrees
  expect(reachAtEight(profile)).toEqual([1, 1, 0.4, 1, 1, 1, 1, 1]);
  const half = profile.map((r, k) => (k * 5 >= 150 && k * 5 < 210 ? null : r));
  expect(reachAtEight(half)[4]).toBeNull();
});
