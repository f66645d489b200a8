import { seeded } from "../math/random";
import { type LadderAttempt, type LadderProblem, taking } from "../policy/problem";
import type { Rung } from "../policy/rung";
import { solveLadder } from "./ladder";
import { randomUnit } from "../policy/random-unit";

const value = (p: LadderProblem): number => {
  const solved = solveLadder(p);
  if (!solved.ok) throw new Error(`too large: ${solved.problem.states}`);
  return solved.value.value;
};
const root = (p: LadderProblem): Rung => {
  const solved = solveLadder(p);
  if (!solved.ok) throw new Error("too large");
  return solved.value.root;
};

/** Tries everything, remembers nothing: histories instead of states. Written apart from the solver. */
function bruteForce(p: LadderProblem): number {
  type Unit = { tried: boolean[]; cure: (LadderAttempt | null)[]; counted: number[]; depth: number };
  const go = (u: Unit): number => {
    const given = p.giveUp[u.depth]!;
    let share = 1;
    let kept = 1 - p.comeback;
    let cap: number = p.cap;
    let can = true;
    p.faults.forEach((f, i) => {
      const by = u.cure[i];
      if (by) {
        cap = Math.max(cap, by.cap);
        kept *= 1 - u.counted[i]!;
      } else if (f.leave) {
        share *= f.leave.share;
        kept *= 1 - f.leave.comeback;
      } else can = false;
    });
    let best = can
      ? Math.max(given, taking(p.price[cap as 0] * share, p.sale) - (1 - kept) * p.comebackCost)
      : given;
    p.attempts.forEach((a, i) => {
      if (u.tried[i] || a.cures.every((f) => u.cure[f])) return;
      const depth = Math.max(u.depth, a.depth);
      const open = p.depths[depth]!.cost - p.depths[u.depth]!.cost;
      const tried = u.tried.map((t, k) => t || k === i || (a.spends ?? []).includes(k));
      const cure = [...u.cure];
      const counted = [...u.counted];
      let first = true;
      for (const f of a.cures)
        if (!cure[f]) {
          cure[f] = a;
          counted[f] = first ? a.comeback : 0;
          first = false;
        }
      const q =
        -a.cost -
        open +
        a.success * go({ tried, cure, counted, depth }) +
        a.breaks * p.giveUpBroken +
        (1 - a.success - a.breaks) * go({ tried, cure: u.cure, counted: u.counted, depth });
      if (q > best) best = q;
    });
    return best;
  };
  return go({
    tried: p.attempts.map(() => false),
    cure: p.faults.map(() => null),
    counted: p.faults.map(() => 0),
    depth: p.openedTo,
  });
}

const PLAIN: LadderProblem = {
  faults: [{ id: "drift", leave: null }],
  attempts: [],
  depths: [
    { cost: 0, minutes: 0 },
    { cost: 400, minutes: 10 },
  ],
  openedTo: 0,
  price: [4000, 3500, 3000],
  cap: 0,
  sale: { feeShare: 0.1, fixed: 300, tax: { share: 0, above: 0 } },
  comebackCost: 1000,
  comeback: 0,
  giveUp: [500, 600],
  giveUpBroken: 100,
};
const attempt = (a: Partial<LadderAttempt>): LadderAttempt => ({
  id: "clean",
  cures: [0],
  cost: 600,
  minutes: 15,
  depth: 1,
  success: 0.5,
  breaks: 0,
  cap: 0,
  comeback: 0,
  ...a,
});

describe("by hand", () => {
  test("what a sale leaves", () => {
    expect(taking(4000, { feeShare: 0.1, fixed: 300, tax: { share: 0, above: 0 } })).toBe(3300);
    // 20 % of what it sells above 1000, and the same fee
    expect(taking(4000, { feeShare: 0.1, fixed: 300, tax: { share: 0.2, above: 1000 } })).toBe(2700);
    expect(taking(800, { feeShare: 0, fixed: 0, tax: { share: 0.2, above: 1000 } })).toBe(800);
  });

  test("one attempt: 600 and 400 to open, half the time 3300, else 600", () => {
    // -1000 + 0.5 * 3300 + 0.5 * 600 = 950, against 500 at once
    expect(value({ ...PLAIN, attempts: [attempt({})] })).toBeCloseTo(950, 9);
  });

  test("it stops where the attempt brings less than giving up", () => {
    const p = { ...PLAIN, attempts: [attempt({ success: 0.2 })] }; // -1000 + 660 + 480 = 140
    expect(value(p)).toBe(500);
    expect(root(p).do).toBe("give-up");
  });

  test("the second attempt finds the unit open: it pays no second strip-down", () => {
    const p = { ...PLAIN, attempts: [attempt({}), attempt({ id: "module", cost: 1500, success: 0.9 })] };
    // module after clean: -1500 + 0.9 * 3300 + 0.1 * 600 = 1530; clean first: -1000 + 0.5 * 3300 + 0.5 * 1530
    // = 1415
    // module first: -1900 + 0.9 * 3300 + 0.1 * (-600 + 0.5 * 3300 + 0.5 * 600 = 1350) = 1205
    expect(value(p)).toBeCloseTo(1415, 9);
    const first = root(p);
    if (first.do !== "try") throw new Error("should try");
    expect(p.attempts[first.attempt]!.id).toBe("clean");
    expect(first.cost).toBe(1000);
    const then = first.failed();
    expect(then).toMatchObject({ do: "try", attempt: 1, cost: 1500 });
    expect(first.worked()).toMatchObject({ do: "sell", cap: 0 });
    if (then.do === "try") expect(then.failed()).toMatchObject({ do: "give-up", value: 600 });
  });

  test("a cure that comes back costs what a return costs, and a lower grade its price", () => {
    // -1000 + 0.5 * (0.9 * 3500 - 300 - 0.2 * 1000) + 0.5 * 600 = 625
    expect(value({ ...PLAIN, attempts: [attempt({ cap: 1, comeback: 0.2 })] })).toBeCloseTo(625, 9);
  });

  test("a stated limit: sold with the fault at half the price", () => {
    const p = { ...PLAIN, faults: [{ id: "radio", leave: { share: 0.5, comeback: 0 } }] };
    expect(value(p)).toBeCloseTo(2000 * 0.9 - 300, 9);
    expect(root(p)).toMatchObject({ do: "sell", share: 0.5 });
  });

  test("one remedy for two faults is worth more than one for each", () => {
    const two = [PLAIN.faults[0]!, { id: "click", leave: null }];
    const apart = {
      ...PLAIN,
      faults: two,
      attempts: [attempt({ success: 1 }), attempt({ success: 1, cures: [1] })],
    };
    expect(value(apart)).toBeCloseTo(3300 - 400 - 1200, 9);
    const joint = {
      ...apart,
      attempts: [...apart.attempts, attempt({ id: "module", success: 1, cost: 900, cures: [0, 1] })],
    };
    expect(value(joint)).toBeCloseTo(3300 - 400 - 900, 9);
  });

  test("the twin part: now while it is open, or left with its chance of a return", () => {
    // the twin wears out within the warranty in 30 of 100; a return costs 2000; changing it now costs 500
    const twin = { id: "twin", leave: { share: 1, comeback: 0.3 } };
    const p = {
      ...PLAIN,
      comebackCost: 2000,
      faults: [PLAIN.faults[0]!, twin],
      attempts: [attempt({ success: 1 })],
    };
    expect(value(p)).toBeCloseTo(3300 - 1000 - 600, 9);
    expect(
      value({
        ...p,
        attempts: [...p.attempts, attempt({ id: "twin now", cures: [1], success: 1, cost: 500 })],
      }),
    ).toBeCloseTo(3300 - 1000 - 500, 9);
  });

  test("what an attempt uses up is not tried after it", () => {
    const p = {
      ...PLAIN,
      attempts: [attempt({}), attempt({ id: "module", cost: 100, success: 0.6, spends: [0] })],
    };
    const first = root(p);
    if (first.do !== "try") throw new Error("should try");
    const whole = first.attempt === 1 ? first : first.failed();
    if (whole.do !== "try") throw new Error("should try the module");
    expect(whole.failed().do).toBe("give-up");
  });
});

test("equal to trying every order, on small units", () => {
  for (let seed = 1; seed <= 300; seed++) {
    const c = seeded(seed);
    const faults = 1 + (seed % 3);
    const waysOfEach = () => {
      if (faults === 1) return 5;
      if (faults === 2) return 2 + (seed % 2);
      return 2;
    };
    const p = randomUnit(c, faults, waysOfEach(), seed % 4 === 0 ? 1 : 0);
    if (p.attempts.length > 7) continue;
    expect(value(p)).toBeCloseTo(bruteForce(p), 6);
  }
});

test("large units are solved by looking where it may pay, and come to the same", () => {
  // the same unit with a joint attempt that can do nothing takes the other way through the solver
  for (let seed = 1; seed <= 4; seed++) {
    const p = randomUnit(seeded(seed * 7919), 3, 5, 0);
    const idle = { ...p.attempts[0]!, id: "idle", cures: [0, 1], success: 0, breaks: 0, cost: 0 };
    expect(value(p)).toBeCloseTo(value({ ...p, attempts: [...p.attempts, idle] }), 6);
  }
});

describe("laws", () => {
  const units = Array.from({ length: 60 }, (_, i) => randomUnit(seeded(1000 + i), 1 + (i % 3), 3, i % 3));

  test("never worse than any fixed order of attempts, each made until the faults are cured", () => {
    for (const [i, p] of units.entries()) {
      const c = seeded(i);
      const best = value(p);
      for (let round = 0; round < 10; round++) {
        const order = p.attempts.map((_, k) => k).sort(() => c.next() - 0.5);
        expect(fixedOrder(p, order)).toBeLessThanOrEqual(best + 1e-6);
      }
    }
  });

  test("more success never lowers the value; a dearer attempt never raises it", () => {
    for (const p of units) {
      const with0 = (change: Partial<LadderAttempt>) => ({
        ...p,
        attempts: p.attempts.map((a, i) => (i === 0 ? { ...a, ...change } : a)),
      });
      const a = p.attempts[0]!;
      expect(value(with0({ success: a.success + (1 - a.success - a.breaks) / 2 }))).toBeGreaterThanOrEqual(
        value(p) - 1e-6,
      );
      expect(value(with0({ cost: a.cost * 1.5 + 50 }))).toBeLessThanOrEqual(value(p) + 1e-6);
    }
  });

  test("scaling money scales the answer", () => {
    for (const p of units) {
      const k = 3.7;
      const scaled: LadderProblem = {
        ...p,
        attempts: p.attempts.map((a) => ({ ...a, cost: a.cost * k })),
        depths: p.depths.map((d) => ({ ...d, cost: d.cost * k })),
        price: [p.price[0] * k, p.price[1] * k, p.price[2] * k],
        sale: { ...p.sale, fixed: p.sale.fixed * k, tax: { ...p.sale.tax, above: p.sale.tax.above * k } },
        comebackCost: p.comebackCost * k,
        giveUp: p.giveUp.map((g) => g * k),
        giveUpBroken: p.giveUpBroken * k,
      };
      expect(value(scaled)).toBeCloseTo(value(p) * k, 5);
    }
  });
});

test("a problem beyond its size is refused with its size", () => {
  const solved = solveLadder(randomUnit(seeded(1), 6, 7, 0));
  expect(solved).toMatchObject({ ok: false, problem: { code: "too-large" } });
});

/** Makes the attempts in one order, skipping what is cured, and ends as well as it can. */
function fixedOrder(p: LadderProblem, order: number[]): number {
  const go = (at: number, p2: LadderProblem, gone: Set<number>): number => {
    const i = order[at];
    if (i === undefined) return value({ ...p2, attempts: [] });
    const a = p2.attempts[i]!;
    if (gone.has(i) || a.cures.every((f) => p2.faults[f]!.id === "cured")) return go(at + 1, p2, gone);
    const depth = Math.max(p2.openedTo, a.depth);
    const open = p.depths[depth]!.cost - p.depths[p2.openedTo]!.cost;
    const spent = new Set([...gone, i, ...(a.spends ?? [])]);
    const fresh = a.cures.find((f) => p2.faults[f]!.id !== "cured");
    const cured: LadderProblem = {
      ...p2,
      openedTo: depth,
      cap: Math.max(p2.cap, a.cap) as 0,
      faults: p2.faults.map((f, k) =>
        a.cures.includes(k) && f.id !== "cured"
          ? { id: "cured", leave: { share: 1, comeback: k === fresh ? a.comeback : 0 } }
          : f,
      ),
    };
    return (
      -a.cost -
      open +
      a.success * go(at + 1, cured, spent) +
      a.breaks * p.giveUpBroken +
      (1 - a.success - a.breaks) * go(at + 1, { ...p2, openedTo: depth }, spent)
    );
  };
  return go(0, p, new Set());
}
