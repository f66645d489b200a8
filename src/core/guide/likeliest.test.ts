import fc from "fast-check";

import type { MappedControl } from "../input/input";
import { likeliestFirst } from "./likeliest";
import { planFullTest } from "./plan";

const MAPPED: MappedControl[] = [
  { id: "stick.left", kind: "stick", input: { axes: [0, 1] } },
  { id: "stick.right", kind: "stick", input: { axes: [2, 3] } },
  { id: "trigger.left", kind: "trigger", input: { button: 6 } },
  ...["face.south", "face.east", "face.west", "bumper.left", "pad.up"].map((id, button): MappedControl => ({
    id,
    kind: "button",
    input: { button },
  })),
];

test("what stands out comes first, most likely first, and nothing where all are alike", () => {
  const odds = (...bad: number[]) => bad.map((b, i) => ({ place: `p${i}`, bad: b }));
  expect(likeliestFirst(odds(0.02, 0.4, 0.02, 0.1, 0.02)).map((o) => o.place)).toEqual(["p1", "p3"]);
  expect(likeliestFirst(odds(0.3, 0.3, 0.3))).toEqual([]);
  expect(likeliestFirst([])).toEqual([]);
});

test("the plan asks for it right after the two buttons that steer the test, and for everything once all the same", () => {
  const ids = MAPPED.map((c) => c.id);
  fc.assert(
    fc.property(fc.shuffledSubarray(ids, { maxLength: 4 }), (first) => {
      const usual = planFullTest(MAPPED);
      const plan = planFullTest(MAPPED, [], null, first);
      const key = (s: { step: string; control: string }) => `${s.step} ${s.control}`;
      expect(plan.map(key).sort()).toEqual(usual.map(key).sort());
      expect([plan[0]!.step, plan.at(-1)!.step]).toEqual(["rest", "rest"]);
      const order = [...new Set(plan.map((s) => s.control).filter(Boolean))];
      const steering = order.slice(0, 2);
      expect(steering).toEqual([...new Set(usual.map((s) => s.control).filter(Boolean))].slice(0, 2));
      const wanted = first.filter((id) => !steering.includes(id));
      expect(order.slice(2, 2 + wanted.length)).toEqual(wanted);
    }),
    { seed: 22, numRuns: 60 },
  );
});
