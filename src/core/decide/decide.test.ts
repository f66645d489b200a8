import fc from "fast-check";

import { seeded } from "../math/random";
import { chanceOf } from "./chances";
import { type Attempt, bySchool, type LadderProblem, LadderSolver, solveLadder } from "./ladder";
import { randomProblem } from "./random-problem";

const attempt = (id: string, change: Partial<Attempt>): Attempt => ({
  id,
  school: "clean",
  faults: [0],
  cost: 100,
  success: 0.5,
  opens: false,
  cap: 0,
  later: 0,
  spends: [],
  ...change,
});
const problem = (attempts: Attempt[], change: Partial<LadderProblem> = {}): LadderProblem => ({
  faults: 1 + Math.max(0, ...attempts.flatMap((a) => a.faults)),
  attempts,
  openCost: 0,
  prices: [3000, 2500, 2000],
  salvage: { closed: 800, opened: 800 },
  ...change,
});

/** Every order and every moment to stop, tried one by one: no memory, no bound. */
function longWay(p: LadderProblem): number {
  const walk = (spent: ReadonlySet<string>, cured: ReadonlySet<number>, cap: number, open: boolean): number => {
    if (cured.size === p.faults) return p.prices[cap]!;
    let best = open ? p.salvage.opened : p.salvage.closed;
    for (const a of p.attempts) {
      if (spent.has(a.id) || a.faults.every((f) => cured.has(f))) continue;
      const cost = a.cost + (a.opens && !open ? p.openCost : 0);
      const opened = open || a.opens;
      const done = new Set([...spent, a.id]);
      const yes = walk(done, new Set([...cured, ...a.faults]), Math.max(cap, a.cap), opened) - a.later;
      const no = walk(new Set([...done, ...a.spends]), cured, cap, opened);
      best = Math.max(best, a.success * yes + (1 - a.success) * no - cost);
    }
    return best;
  };
  return walk(new Set(), new Set(), 0, false);
}

describe("the ladder", () => {
  test("one attempt, worked by hand: 0.5 x 3000 + 0.5 x 800 - 100", () => {
    const solved = solveLadder(problem([attempt("clean", {})]));
    expect(solved.value).toBe(1800);
    expect(solved.first).toEqual({ attempt: "clean", chance: 0.5, ifCured: "sell", ifFails: "give-up" });
  });

  test("cheap first, then dear: cleaning at 100, then the module at 900 if the retest fails", () => {
    const solved = solveLadder(problem([attempt("module", { cost: 900, success: 0.95 }), attempt("clean", {})]));
    // module alone 0.95 x 3000 + 0.05 x 800 - 900 = 1990; after it failed nothing is left; clean first: 0.5 x 3000 + 0.5 x 1990 - 100
    expect(solved.value).toBeCloseTo(0.5 * 3000 + 0.5 * 1990 - 100, 9);
    expect(solved.first).toMatchObject({ attempt: "clean", ifFails: { attempt: "module", ifFails: "give-up" } });
  });

  test("it gives up when no attempt pays, and what was spent before does not matter", () => {
    expect(solveLadder(problem([attempt("hopeless", { cost: 2500, success: 0.3 })])).first).toBe("give-up");
  });

  test("strip-down is paid once, and one remedy for two faults is joined", () => {
    const two = [attempt("a", { opens: true, success: 1 }), attempt("b", { faults: [1], opens: true, success: 1 })];
    expect(solveLadder(problem(two, { openCost: 300 })).value).toBe(3000 - 300 - 200);
    const joined = attempt("module", { faults: [0, 1], cost: 150, opens: true, success: 1 });
    expect(solveLadder(problem([...two, joined], { openCost: 300 })).value).toBe(3000 - 300 - 150);
  });

  test("with two faults it leaves a dear fallback until the other fault is cured", () => {
    const attempts = [
      attempt("clean", { cost: 50, success: 0.5 }),
      attempt("module", { cost: 1200, success: 0.98 }),
      attempt("solder", { faults: [1], cost: 50, success: 0.5 }),
    ];
    const { first } = solveLadder(problem(attempts));
    const line: string[] = [];
    for (let r = first; typeof r === "object"; r = r.ifFails as typeof r) line.push(r.attempt);
    expect(line.indexOf("module")).not.toBe(0);
    expect(solveLadder(problem(attempts)).value).toBeCloseTo(longWay(problem(attempts)), 9);
  });

  test.each([...Array(60).keys()])("it equals the long way on small problems, seed %i", (seed) => {
    const p = randomProblem(seeded(seed), { faults: 1 + (seed % 3), attempts: 2 + (seed % 4) });
    expect(solveLadder(p).value).toBeCloseTo(longWay(p), 6);
  });

  test("its outcomes' chances add up to one and their mean is its value", () => {
    for (let seed = 0; seed < 30; seed++) {
      const solver = new LadderSolver(randomProblem(seeded(seed), { faults: 2, attempts: 6 }));
      const { value } = solver.solve();
      const outcomes = solver.outcomes();
      expect(outcomes.reduce((s, o) => s + o.chance, 0)).toBeCloseTo(1, 9);
      expect(outcomes.reduce((s, o) => s + o.chance * o.margin, 0)).toBeCloseTo(value, 6);
    }
  });

  test("laws: more success never lowers it, scaled money scales it, no school beats it, and giving up is its floor", () => {
    fc.assert(
      fc.property(fc.nat(100_000), fc.double({ min: 0, max: 1, noNaN: true }), (seed, lift) => {
        const p = randomProblem(seeded(seed), { faults: 2, attempts: 6 });
        const value = solveLadder(p).value;
        const surer = {
          ...p,
          attempts: p.attempts.map((a, i) => (i === 0 ? { ...a, success: a.success + (1 - a.success) * lift } : a)),
        };
        expect(solveLadder(surer).value).toBeGreaterThanOrEqual(value - 1e-6);
        const times = (x: number) => x * 3;
        const scaled: LadderProblem = {
          ...p,
          openCost: times(p.openCost),
          prices: [times(p.prices[0]), times(p.prices[1]), times(p.prices[2])],
          salvage: { closed: times(p.salvage.closed), opened: times(p.salvage.opened) },
          attempts: p.attempts.map((a) => ({ ...a, cost: times(a.cost), later: times(a.later) })),
        };
        expect(solveLadder(scaled).value).toBeCloseTo(3 * value, 4);
        for (const school of new Set(p.attempts.map((a) => a.school)))
          expect(solveLadder(bySchool(p, school)).value).toBeLessThanOrEqual(value + 1e-6);
        expect(value).toBeGreaterThanOrEqual(p.salvage.closed);
      }),
      { numRuns: 80 },
    );
  });
});

describe("chances", () => {
  const none = { good: 0, all: 0 };
  test("without cases the prior stands; own cases move it, others' less", () => {
    expect(chanceOf({ mean: 0.6, cases: 5 }, none, none).mean).toBeCloseTo(0.6, 12);
    const own = chanceOf({ mean: 0.6, cases: 5 }, none, { good: 0, all: 10 }).mean;
    const others = chanceOf({ mean: 0.6, cases: 5 }, { good: 0, all: 10 }, none).mean;
    expect(own).toBeCloseTo(0.2, 12);
    expect(others).toBeCloseTo(0.2, 12);
    expect(chanceOf({ mean: 0.6, cases: 5 }, { good: 0, all: 10 }, { good: 10, all: 10 }).mean).toBeGreaterThan(0.6);
  });
  test("the interval holds the mean and narrows with cases", () => {
    const few = chanceOf({ mean: 0.7, cases: 4 }, none, { good: 2, all: 3 });
    const many = chanceOf({ mean: 0.7, cases: 4 }, none, { good: 200, all: 300 });
    for (const c of [few, many]) {
      expect(c.low).toBeLessThan(c.mean);
      expect(c.high).toBeGreaterThan(c.mean);
    }
    expect(many.high - many.low).toBeLessThan((few.high - few.low) / 4);
  });
});
