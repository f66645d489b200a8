import { Guide } from "../guide/guide";
import { type GuideStep, planFullTest } from "../guide/plan";
import { inputMap, type MappedControl } from "../input/input";
import type { Recording } from "../recording/recording";
import { HOUSE_RULES, type Rules } from "../analyse/analyse";
import { SimulatedController, type SimulatedSettings } from "./controller";

const MAX_MS = 15 * 60_000;
const BATCH_MS = 20;

/** Runs a whole full test with the simulated controller, without waiting: the same guide as on the page. */
export function simulateFullTest(
  controls: readonly (MappedControl & { rim?: boolean })[],
  settings: SimulatedSettings,
  rules: Rules = HOUSE_RULES,
  plan: readonly GuideStep[] = planFullTest(controls),
  controller = new SimulatedController(controls, settings),
): Recording {
  const guide = new Guide(plan, inputMap(controls), rules, controller.channels);
  for (let t = BATCH_MS; t < MAX_MS; t += BATCH_MS) {
    const commands = guide.add(controller.readUntil(t));
    const { phase } = guide.state();
    if (phase === "asking") commands.push(...guide.act("was-moved"));
    commands.forEach((c) => controller.obey(c));
    if (phase === "done") break;
  }
  return guide.recording();
}
