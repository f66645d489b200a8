import { render, screen, within } from "@testing-library/react";

import { type Frame, TestSession } from "@/core/controller/session";
import { planFullTest } from "@/core/guide/plan";
import { HOUSE_RULES } from "@/core/analyse/analyse";
import type { MappedControl } from "@/core/input/input";
import { controlsOf, profileMap } from "@/core/profile/profile";
import { SimulatedController } from "@/core/simulate/controller";
import type { ControllerFaults } from "@/core/simulate/faults";
import { FullTest } from "@/features/test/ui/FullTest";
import { modelOf } from "../../../../../test/ui/models";

/** A test that runs, as the page shows it: what the step has so far, what was found, and the risk that is left. */

const PROFILE = modelOf("dunlin");
const CONTROLS = controlsOf(PROFILE, null) as MappedControl[];
type FullFrame = Extract<Frame, { mode: "full" }>;

/** Runs the test on its own clock until something of it is so, and shows the page as it is then. */
function until(isSo: (state: FullFrame["state"]) => boolean, faults: ControllerFaults = {}) {
  const source = new SimulatedController(CONTROLS, { seed: 4, rateHz: 250, bits: 12, faults });
  const session = new TestSession(planFullTest(CONTROLS), source, profileMap(PROFILE, null), HOUSE_RULES);
  for (let t = 20; t < 600_000; t += 20) {
    const frame = session.advance(t) as FullFrame;
    if (!isSo(frame.state)) continue;
    const view = render(
      <FullTest profile={PROFILE} revision={null} frame={frame} onAct={() => {}} force="normal" />,
    );
    return { ...view, frame };
  }
  throw new Error("it never came to that");
}
const isStep = (step: string, control: string) => (state: FullFrame["state"]) =>
  state.current?.step === step && state.current.control === control;
const found = () => screen.getByRole("region", { name: "Found so far" });

test("the edge stands as far as it was drawn, and nothing was measured of it yet", () => {
  const isHere = isStep("circle", "stick.left");
  until((s) => isHere(s) && (s.progress?.edge?.filter((r) => r !== null).length ?? 0) > 20);
  const name = screen.getByRole("img", {
    name: /^Where the stick is; its edge is drawn in \d+ of 72 parts$/,
  });
  expect(Number(/in (\d+) of/.exec(name.getAttribute("aria-label")!)![1])).toBeLessThan(72);
  expect(within(found()).getByText(/^Still open: left stick/)).toBeTruthy();
});

test("while it is let go, each direction tells what it still asks for", () => {
  const isHere = isStep("flick", "stick.left");
  until((s) => isHere(s) && (s.progress?.letGo?.filter((n) => n > 0).length ?? 0) > 2);
  expect(
    screen.getByRole("img", { name: /^Where the stick is; let go often enough from [0-7] of 8 directions$/ }),
  ).toBeTruthy();
});

test("presses fall against their cues as they come", () => {
  until((s) => s.current?.step === "press" && (s.progress?.answers?.length ?? 0) === 5);
  expect(screen.getByRole("img", { name: "5 cues, 0 without a press" })).toBeTruthy();
});

test("pulls of a trigger stand by how high they came", () => {
  until((s) => s.current?.step === "pull" && (s.progress?.heights?.length ?? 0) === 2);
  expect(
    screen.getByRole("img", { name: /^Where the trigger is; pulls came to \d+\.\d %, \d+\.\d %$/ }),
  ).toBeTruthy();
});

test("what was found is told worst first while the test goes on; what is not over stays open, never passed", () => {
  const faults = { sticks: { "stick.left": { dead: "left" as const } } };
  const { frame } = until(isStep("circle", "stick.right"), faults);
  const list = within(found());
  expect(list.getByText("left stick")).toBeTruthy();
  expect(list.getByText(/dead halves left.*: fail/)).toBeTruthy();
  const measured = CONTROLS.filter(
    (c) => (frame.state.analysis!.controls[c.id]?.grade ?? "untested") !== "untested",
  );
  expect(list.getByText(`${measured.length} of ${CONTROLS.length} controls measured`)).toBeTruthy();
  expect(list.queryByText("All of them grade A.")).toBeNull();
  expect(list.getByText(/^Still open: right stick, /)).toBeTruthy();
});

test("the risk that is left falls with the presses; a first test has no aim to come under", () => {
  const riskOf = () =>
    Number(
      /([\d.]+) %/.exec(within(found()).getByRole("region", { name: /bad button gets by/ }).textContent)![1],
    );
  const first = until((s) => s.current?.step === "press");
  const before = riskOf();
  first.unmount();
  until((s) => s.current?.step === "circle");
  expect(riskOf()).toBeLessThan(before);
  expect(within(found()).queryByText(/wanted under/)).toBeNull();
});
