import loadHighs, { type Highs } from "highs";

import { bestByTrying, planByHand } from "./by-hand";
import { explainPlan, worthOfPlan } from "./explain";
import type { PlanProblem } from "./problem";
import { randomPlan } from "./random-plan";
import { nextPiece, solvePlan } from "./solve";

let highs: Highs;
beforeAll(async () => {
  highs = await loadHighs();
});

const small = (seed: number): PlanProblem => {
  const p = randomPlan(seed, { units: 4, parts: 5, donorShare: 0.25 });
  return {
    ...p,
    offers: p.offers
      .slice(0, 3)
      .map((o) => ({ ...o, mostPacks: Math.min(o.mostPacks, o.breaks.length > 1 ? 5 : 2) })),
  };
};

test("the plan is the best there is: the same as trying everything, on 40 small workshops", () => {
  for (let seed = 1; seed <= 40; seed++) {
    const p = small(seed);
    const plan = solvePlan(highs, p, { seconds: 20 });
    expect(plan.status).toBe("proven");
    expect(Math.abs(plan.value - bestByTrying(p))).toBeLessThan(1);
  }
});

test("what a plan says adds up to what it is worth, and nothing is used twice", () => {
  for (let seed = 50; seed < 62; seed++) {
    const p = randomPlan(seed, { units: 30, parts: 20, donorShare: 0.1 });
    const plan = solvePlan(highs, p, { seconds: 20 });
    expect(Math.abs(worthOfPlan(p, plan) - plan.value)).toBeLessThan(1);
    expect(plan.minutes).toBeLessThanOrEqual(p.minutes);
    for (const c of plan.chosen)
      for (const n of c.option.needs)
        expect(c.flows.filter((f) => f.slot === n.slot).reduce((s, f) => s + f.count, 0)).toBe(n.count);
    for (const s of p.stock) {
      const used = plan.chosen
        .flatMap((c) => c.flows)
        .filter((f) => f.part === s.part && f.source.kind === "stock");
      expect(used.reduce((a, f) => a + f.count, 0)).toBeLessThanOrEqual(s.count);
    }
    const stripped = new Set(plan.chosen.filter((c) => c.option.choice === "strip").map((c) => c.unit));
    const places = new Set<string>();
    for (const f of plan.chosen.flatMap((c) => c.flows))
      if (f.source.kind === "donor") {
        expect(stripped.has(f.source.donor)).toBe(true);
        const place = `${f.source.donor} ${f.source.slot}`;
        expect(places.has(place)).toBe(false);
        places.add(place);
      }
  }
});

test("it is never below what a person would do", () => {
  for (let seed = 70; seed < 76; seed++) {
    const p = randomPlan(seed, { units: 25, parts: 16, donorShare: 0.1 });
    const plan = solvePlan(highs, p, { seconds: 20 });
    for (const way of ["oldest-first", "strip-worst-third"] as const)
      expect(worthOfPlan(p, planByHand(p, way))).toBeLessThanOrEqual(plan.value + 1);
  }
});

const pair: PlanProblem = {
  units: [
    {
      id: "worn",
      frees: [
        { slot: "left", part: "M", count: 1, worth: 100 },
        { slot: "right", part: "M", count: 1, worth: 100 },
      ],
      options: [
        { id: "sell", choice: "sell", value: 610, minutes: 0, needs: [] },
        { id: "strip", choice: "strip", value: 150, minutes: 20, needs: [] },
      ],
    },
    ...["one", "two"].map((id) => ({
      id,
      frees: [],
      options: [
        { id: "keep", choice: "keep" as const, value: 200, minutes: 0, needs: [] },
        {
          id: "mend",
          choice: "mend" as const,
          value: 2000,
          minutes: 30,
          needs: [{ slot: "left", count: 1, from: ["M"] }],
        },
      ],
    })),
  ],
  donors: [],
  stock: [],
  ordered: [],
  offers: [],
  suppliers: [],
  keeps: {},
  minutes: 200,
  locks: [],
};

test("a unit that would bring 6.10 alone is stripped because its parts free two others, and the plan says so", () => {
  const plan = solvePlan(highs, pair, { seconds: 5 });
  expect(plan.value).toBe(150 + 2 * (2000 - 100));
  const why = explainPlan(pair, plan).find((w) => w.unit === "worn")!;
  expect(why.alone).toEqual({ option: "sell", value: 610 });
  expect(why.frees).toEqual([{ part: "M", to: ["one", "two"] }]);
  expect(why.gives).toBe(460);
});

test("locks are kept, and hours are a bound", () => {
  const option = (p: PlanProblem, unit: string) =>
    solvePlan(highs, p, { seconds: 5 }).chosen.find((c) => c.unit === unit)!.option.id;
  expect(option({ ...pair, locks: [{ unit: "worn", option: "strip", as: "not" }] }, "worn")).toBe("sell");
  expect(option({ ...pair, locks: [{ unit: "one", option: "keep", as: "keep" }] }, "one")).toBe("keep");
  expect(option({ ...pair, minutes: 40 }, "worn")).toBe("sell");
  const shut = {
    ...pair,
    locks: pair.units[0]!.options.map((o) => ({ unit: "worn", option: o.id, as: "not" as const })),
  };
  expect(solvePlan(highs, shut, { seconds: 5 }).status).toBe("impossible");
});

test("what is ordered is counted on before anything is stripped for it, and said apart from the shelf", () => {
  const plan = solvePlan(highs, { ...pair, ordered: [{ part: "M", count: 2, worth: 60 }] }, { seconds: 5 });
  expect(plan.value).toBe(610 + 2 * (2000 - 60));
  expect(plan.chosen.flatMap((c) => c.flows.map((f) => f.source))).toEqual([
    { kind: "ordered" },
    { kind: "ordered" },
  ]);
});

test("the next piece is worth what the plan gains by it", () => {
  const plan = solvePlan(highs, pair, { seconds: 5 });
  // with one on the shelf, one unit is still missing its part: stripping stays, and one freed piece is kept
  // at its worth
  expect(nextPiece(highs, pair, plan, ["M"], { seconds: 5 })).toEqual([{ part: "M", adds: 100 }]);
  const alone = { ...pair, units: pair.units.slice(1) };
  expect(nextPiece(highs, alone, solvePlan(highs, alone, { seconds: 5 }), ["M"], { seconds: 5 })).toEqual([
    { part: "M", adds: 1800 },
  ]);
});

test("packs, breaks and carriage are paid whole, and what is left over is booked at its worth", () => {
  const p: PlanProblem = {
    ...pair,
    units: pair.units.slice(1),
    offers: [
      {
        id: "pack",
        supplier: "s",
        part: "M",
        pack: 5,
        breaks: [{ packs: 1, priceMinor: 1000 }],
        mostPacks: 2,
      },
      { id: "one", supplier: "t", part: "M", pack: 1, breaks: [{ packs: 1, priceMinor: 300 }], mostPacks: 9 },
    ],
    suppliers: [
      { id: "s", carriageMinor: 100, freeFromMinor: null },
      { id: "t", carriageMinor: 400, freeFromMinor: 600 },
    ],
    keeps: { M: 150 },
  };
  const plan = solvePlan(highs, p, { seconds: 5 });
  // two single ones reach the free carriage: 600; a pack is 1000 + 100 less 3 left over at 150
  expect(plan.orders).toEqual([{ offer: "one", packs: 2, costMinor: 600 }]);
  expect(plan.carriageMinor).toBe(0);
  expect(plan.value).toBe(4000 - 600);
});
