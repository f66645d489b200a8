import { Guide } from "../guide/guide";
import { planFullTest } from "../guide/plan";
import { inputMap, type MappedControl } from "../profile/input";
import type { Recording } from "../recording/recording";
import { HOUSE_RULES, type Rules } from "../signal/analyse";
import { SimulatedController, type SimulatedSettings } from "./controller";

const MAX_MS = 15 * 60_000;
const BATCH_MS = 20;

const channelsOf = (controls: readonly MappedControl[]) => {
  const [first] = new SimulatedController(controls, { seed: 1, rateHz: 1000, bits: 8, faults: {} }).readUntil(10);
  return { axes: first!.axes.length, buttons: first!.buttons.length };
};

/** Runs a whole full test with the simulated controller, without waiting: the same guide as on the page. */
export function simulateFullTest(
  controls: readonly (MappedControl & { rim?: boolean })[],
  settings: SimulatedSettings,
  rules: Rules = HOUSE_RULES,
): Recording {
  const controller = new SimulatedController(controls, settings);
  const guide = new Guide(planFullTest(controls), inputMap(controls), rules, channelsOf(controls));
  for (let t = BATCH_MS; t < MAX_MS; t += BATCH_MS) {
    const commands = guide.add(controller.readUntil(t));
    const { phase } = guide.state();
    if (phase === "asking") commands.push(...guide.act("was-moved"));
    for (const c of commands) {
      if (c.kind === "cue") controller.cue(c.t);
      else controller.prompt(c.step, c.control);
    }
    if (phase === "done") break;
  }
  return guide.recording();
}
