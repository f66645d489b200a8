import type { Chosen, Plan } from "@/core/allocate/problem";
import type { Settings } from "@/contract/deeds";
import type { PlanView } from "@/features/parts/plan";
import { appliedOf, whyWords } from "./plan-words";

const shop = { currency: "EUR", locale: "en-GB" } as unknown as Settings;
const option = (id: string, choice: "mend" | "strip" | "sell") => ({ id, choice, needs: [] });
const view = {
  problem: { units: [{ id: "u1", options: [option("m", "mend"), option("s", "sell")] }] },
  subjects: [
    { id: "u1", tag: "B-0001", ways: {} },
    { id: "u2", tag: "B-0002", ways: {} },
  ],
  donors: [{ id: "d1", tag: "B-0009" }],
  parts: { "ST-1": "stick sensor" },
} as unknown as PlanView;
const flow = (source: object) => ({ unit: "u1", slot: "left", part: "ST-1", count: 2, source });
const planOf = (...flows: object[]) =>
  ({ value: 1234.6, chosen: [{ unit: "u1", option: option("m", "mend"), flows }] }) as unknown as Plan;
const why = (more: object = {}) => ({
  unit: "u1",
  alone: null,
  inPlan: 0,
  frees: [],
  takes: [],
  gives: 0,
  ...more,
});

describe("what is put aside when a plan is applied", () => {
  const sources = (...flows: object[]) =>
    appliedOf(view, shop, planOf(...flows), [why()]).lines.map((l) => l.source);
  test("nothing of what is not in the house: bought parts, parts on their way, parts of a unit that is still whole", () => {
    const notHere = [
      { kind: "bought", offer: "x" },
      { kind: "ordered" },
      { kind: "donor", donor: "u2", slot: "left" }, // to be stripped, not stripped yet
    ];
    expect(sources(...notHere.map(flow))).toEqual([]);
  });
  test("pieces of the shelf, and of a donor that stands there", () => {
    expect(sources(flow({ kind: "stock" }), flow({ kind: "donor", donor: "d1", slot: "right" }))).toEqual([
      { kind: "stock" },
      { kind: "donor", donorUnitId: "d1", donorSlot: "right" },
    ]);
  });
  test("whole cents, and no reason longer than the record takes", () => {
    const takes = Array.from({ length: 40 }, () => ({ part: "ST-1", slot: "left", count: 2, from: "stock" }));
    const applied = appliedOf(view, shop, planOf(), [why({ takes })]);
    expect(applied.valueMinor).toBe(1235);
    expect(applied.choices[0]!.why).toHaveLength(300);
  });
});

describe("why a unit gets what the plan chose", () => {
  const chosen = { unit: "u1", option: option("m", "mend"), flows: [] } as unknown as Chosen;
  const take = (from: string, count = 1) => ({ part: "ST-1", slot: "left", count, from });
  test.each([
    [take("stock", 2), "2 stick sensor from the shelf"],
    [take("ordered"), "stick sensor that is on its way"],
    [take("d1"), "stick sensor out of B-0009"],
    [take("market 12"), "stick sensor to be bought"],
  ])("%j", (t, words) => expect(whyWords(view, shop, chosen, why({ takes: [t] }))).toBe(words));
  test("what it frees is named with who gets it", () => {
    const frees = [{ part: "ST-1", to: ["u1", "u2"] }];
    expect(whyWords(view, shop, chosen, why({ frees }))).toMatch(/stick sensor .*B-0001 and B-0002/);
  });
  test("the better choice that it alone would make is told, the same one is not", () => {
    const alone = (id: string) => whyWords(view, shop, chosen, why({ alone: { option: id, value: 900 } }));
    expect(alone("m")).toBe("");
    expect(alone("s")).toMatch(/9\.00.*sell/);
  });
});
