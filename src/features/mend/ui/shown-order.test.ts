import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import type { DeedInput } from "@/contract/deeds";
import { lineUp, type OrderBody } from "@/core/mend/order";
import { add, closedUnit, type WorkEvent, type WorkState } from "@/core/mend/work";
import { guideOf, type MendGuide } from "@/core/profile/guide";
import { type ModelProfile, profileSchema } from "@/core/profile/profile";
import { shownOrder } from "./shown-order";

/**
 * What the page shows before the server has answered, against what the core makes of the very same presses.
 */

const folder = join(__dirname, "../../../../profiles");
const models = readdirSync(folder).map((f): ModelProfile =>
  profileSchema.parse(JSON.parse(readFileSync(join(folder, f), "utf8"))),
);
type Press = DeedInput<"work.do">["event"];

const bodyOf = (model: ModelProfile): OrderBody => ({
  targets: [
    {
      key: 1,
      faultId: null,
      number: null,
      what: "Look inside",
      slot: model.slots!.at(-1)!.id,
      route: null,
      minutes: 10,
      waitMinutes: 0,
      tools: [],
      movesOver: [],
    },
  ],
  cleaningLevel: 0,
  calibrate: [],
});

/** Enter, Enter, Enter to the end, with every piece ticked before its step goes back. */
function pressesOf(guide: MendGuide, body: OrderBody): Press[] {
  const presses: Press[] = [];
  for (const step of lineUp(guide, body, closedUnit(guide)))
    if (step.phase === "apart") presses.push({ kind: "apart", step: step.step!.id });
    else if (step.phase === "back")
      presses.push(...step.items.map((item): Press => ({ kind: "in", item })), {
        kind: "back",
        step: step.step!.id,
      });
    else if (step.phase === "work") presses.push({ kind: "task", task: step.key });
    else if (step.key === "gate:open")
      presses.push({ kind: "gate", gate: "open", why: "no leads at this bench" });
  return presses;
}

const replayed = (guide: MendGuide, presses: readonly Press[]): WorkState =>
  presses.reduce((state, press) => {
    const event = press.kind === "gate" ? { ...press, recordingId: null } : press;
    const done = add(guide, state, event as WorkEvent);
    if (!done.ok) throw new Error(`${JSON.stringify(press)}: ${JSON.stringify(done.problem)}`);
    return done.value;
  }, closedUnit(guide));
const statesOf = (items: Iterable<{ id: string; state: string }>) =>
  Object.fromEntries([...items].map((i) => [i.id, i.state]));
const orderOf = (guide: MendGuide, body: OrderBody, presses: readonly Press[]) => {
  const state = replayed(guide, presses);
  return { id: "o", line: lineUp(guide, body, state), items: [...state.items.values()] };
};

test.each(models.map((m) => [m.name, m] as const))(
  "%s: wherever the server is behind, steps and pieces stand as they will once it has caught up",
  (_name, model) => {
    for (const revision of model.revisions) {
      const guide = guideOf(model.guide!, revision.id);
      const body = bodyOf(model);
      const presses = pressesOf(guide, body);
      expect(presses.length).toBeGreaterThan(4);
      for (let from = 0; from < presses.length; from++)
        for (let to = from + 1; to <= presses.length; to++) {
          const pending = presses.slice(from, to).map((event) => ({ orderId: "o", event, tookMs: null }));
          const shown = shownOrder(orderOf(guide, body, presses.slice(0, from)), pending);
          const truth = orderOf(guide, body, presses.slice(0, to));
          expect(statesOf(shown.items)).toEqual(statesOf(truth.items));
          expect(shown.line.map((s) => [s.key, s.done])).toEqual(truth.line.map((s) => [s.key, s.done]));
        }
    }
  },
);

test("what waits for another order changes nothing here", () => {
  const model = models[0]!;
  const order = orderOf(guideOf(model.guide!, model.revisions[0]!.id), bodyOf(model), []);
  const first = order.line[0]!.step!.id;
  expect(
    shownOrder(order, [{ orderId: "another", event: { kind: "apart", step: first }, tookMs: null }]),
  ).toEqual(order);
});
