import type { Reading } from "./source";
import { inputMap, type MappedControl } from "../input/input";
import { HOUSE_RULES } from "../analyse/analyse";
import { SimulatedController } from "../simulate/controller";
import type { ControllerFaults } from "../simulate/faults";
import { Guide } from "./guide";
import { planFullTest } from "./plan";

const controls: MappedControl[] = [
  { id: "face.south", kind: "button", input: { button: 0 } },
  { id: "face.east", kind: "button", input: { button: 1 } },
  { id: "face.west", kind: "button", input: { button: 2 } },
  { id: "stick.left", kind: "stick", input: { axes: [0, 1] } },
];

/** Lets the made-up hand do the two thumb buttons; `press` then holds buttons over what it reads. */
function afterThumbs(faults: ControllerFaults = {}) {
  const source = new SimulatedController(controls, { seed: 4, rateHz: 200, bits: 10, faults });
  const guide = new Guide(planFullTest(controls), inputMap(controls), HOUSE_RULES, source.channels);
  let t = 0;
  const go = (ms: number, held: readonly number[] = []) => {
    for (const end = t + ms; t < end; t += 20)
      for (const reading of source.readUntil(t)) {
        const buttons = reading.buttons.map((v, i) => (held.includes(i) ? 1 : v));
        guide.add([{ ...reading, buttons } satisfies Reading]).forEach((c) => source.obey(c));
      }
  };
  while (guide.state().current?.step !== "circle" && t < 120_000) go(100);
  go(1500);
  return { guide, go };
}

test("held for a second, a button that passed repeats the step and the next one skips it", () => {
  const { guide, go } = afterThumbs();
  expect(guide.state().commands).toEqual({ again: "face.south", skip: "face.east" });
  const rows = guide.recording().length;
  go(1100, [0]);
  expect(guide.state().current).toMatchObject({ step: "circle" });
  expect(guide.state().phase).toBe("lead-in");
  expect(guide.recording().length).toBeGreaterThan(rows); // set aside, never thrown away
  go(1500);
  go(1100, [1]);
  expect(guide.state().current).toMatchObject({ step: "sweep" });
  expect(guide.state().skipped).toEqual([3]);
});

test("a short press commands nothing, and one hold commands once", () => {
  const { guide, go } = afterThumbs();
  go(700, [1]);
  go(200);
  expect(guide.state().current).toMatchObject({ step: "circle" });
  go(3000, [1]);
  expect(guide.state().skipped).toHaveLength(1);
});

test("a button that fires with another never commands, nor does one that failed", () => {
  const bridged = afterThumbs({ buttons: { "face.south": { firesWith: "face.west" } } });
  expect(bridged.guide.state().commands).toEqual({ again: "face.east", skip: null });
  const weak = afterThumbs({ buttons: { "face.east": { missRate: 0.6 } } });
  expect(weak.guide.state().commands).toEqual({ again: "face.south", skip: null });
});
