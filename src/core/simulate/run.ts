import { Guide } from "../guide/guide";
import { type GuideStep, type PressAim, planFullTest } from "../guide/plan";
import { inputMap, type MappedControl } from "../input/input";
import type { Recording } from "../recording/recording";
import { HOUSE_RULES, type Rules } from "../analyse/analyse";
import { SimulatedController, type SimulatedSettings } from "./controller";

const MAX_MS = 15 * 60_000;
const BATCH_MS = 20;

type RunOptions = {
  rules?: Rules;
  plan?: readonly GuideStep[];
  controller?: SimulatedController;
  /** presses until few bad buttons can be left, as a proof asks */
  aim?: PressAim | null;
};

/** Runs a whole full test with the simulated controller, without waiting: the same guide as on the page. */
export function simulateFullTest(
  controls: readonly (MappedControl & { rim?: boolean })[],
  settings: SimulatedSettings,
  {
    rules = HOUSE_RULES,
    aim = null,
    plan = planFullTest(controls, [], aim),
    controller = new SimulatedController(controls, settings),
  }: RunOptions = {},
): Recording {
  const guide = new Guide(plan, inputMap(controls), rules, controller.channels, aim);
  for (let t = BATCH_MS; t < MAX_MS; t += BATCH_MS) {
    const commands = guide.add(controller.readUntil(t));
    const { phase } = guide.state();
    if (phase === "asking") commands.push(...guide.act("was-moved"));
    commands.forEach((c) => controller.obey(c));
    if (phase === "done") break;
  }
  return guide.recording();
}
