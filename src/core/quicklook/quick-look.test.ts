import { inputMap, type MappedControl } from "../input/input";
import { HOUSE_RULES } from "../analyse/analyse";
import { SimulatedController } from "../simulate/controller";
import type { ControllerFaults } from "../simulate/faults";
import { QUICK_MS, QuickLook, quickFindings } from "./quick-look";

const CONTROLS: MappedControl[] = [
  { id: "stick.left", kind: "stick", input: { axes: [0, 1] } },
  { id: "trigger.left", kind: "trigger", input: { button: 2 } },
  { id: "face.south", kind: "button", input: { button: 0 } },
  { id: "face.east", kind: "button", input: { button: 1 } },
];

function look(faults: ControllerFaults) {
  const source = new SimulatedController(CONTROLS, { seed: 6, rateHz: 200, bits: 10, faults });
  const quick = new QuickLook(inputMap(CONTROLS), HOUSE_RULES, source.channels);
  source.obey({ kind: "prompt", step: "free", control: "*" });
  for (let t = 50; t < QUICK_MS + 500 && !quick.state().done; t += 50) quick.add(source.readUntil(t));
  return quick;
}
const codes = (quick: QuickLook, id: string) =>
  quick
    .state()
    .controls.find((c) => c.id === id)!
    .faults.map((f) => f.code);

test("a healthy controller is ticked all over, without a fault, well within 90 s", () => {
  const state = look({}).state();
  expect(state).toMatchObject({ done: true, allSeen: true });
  expect(state.elapsedMs).toBeLessThan(20_000);
  expect(state.controls.flatMap((c) => c.faults)).toEqual([]);
});

test.each([
  [{ sticks: { "stick.left": { offset: [0.2, 0] } } }, "stick.left", "rests-off"],
  [{ sticks: { "stick.left": { dead: "up" } } }, "stick.left", "dead-side"],
  [{ sticks: { "stick.left": { wornAt: 0.4 } } }, "stick.left", "leaps"],
  [{ triggers: { "trigger.left": { full: 0.8 } } }, "trigger.left", "short-pull"],
  [{ triggers: { "trigger.left": { rest: 0.1 } } }, "trigger.left", "rests-off"],
  [{ buttons: { "face.south": { stuck: true } } }, "face.south", "held-at-rest"],
  [{ buttons: { "face.south": { chatterRate: 1 } } }, "face.south", "chatters"],
  [{ buttons: { "face.south": { firesWith: "face.east" } } }, "face.south", "fires-with"],
] as [ControllerFaults, string, string][])("%j shows on %s as %s", (faults, control, code) => {
  expect(codes(look(faults), control)).toContain(code);
});

test("what never moves is not ticked, and the look ends by its time", () => {
  const state = look({ sticks: { "stick.left": { noAnswer: true } } }).state();
  expect(state.allSeen).toBe(false);
  expect(state.done).toBe(true);
  expect(state.elapsedMs).toBeGreaterThanOrEqual(QUICK_MS);
});

test("the server finds from the recording what the page found live", () => {
  const quick = look({
    sticks: { "stick.left": { offset: [0.2, 0] } },
    buttons: { "face.east": { chatterRate: 1 } },
  });
  expect(quickFindings(quick.recording(), inputMap(CONTROLS), HOUSE_RULES)).toEqual(quick.state().controls);
});
