import { seeded } from "../math/random";
import { type Cap, type LadderProblem, taking } from "./problem";
import { randomCase } from "./random-unit";
import type { Rung } from "./rung";
import { QUICK, solvePolicy, WHOLE } from "./solve";

type Tried = { act: string; worked: boolean };

/**
 * Tries everything in every order and remembers whole histories; the odds after a history are worked out anew from its
 * first line each time. Shares nothing with the solver but the problem.
 */
function bruteForce(p: LadderProblem): number {
  const likelihood = (history: readonly Tried[], h: number): number =>
    history.reduce((l, { act, worked }) => {
      const a = p.attempts.find((x) => x.id === act);
      if (a) return l * (worked ? a.works![h]! : 1 - a.works![h]! - a.breaks);
      return l * p.checks!.find((x) => x.id === act)!.outcomes[worked ? 0 : 1]![h]!;
    }, p.explanations![h]!);
  const oddsOf = (history: readonly Tried[]): number[] => {
    const mass = p.explanations!.map((_, h) => likelihood(history, h));
    const all = mass.reduce((s, m) => s + m, 0);
    return mass.map((m) => m / all);
  };
  const go = (history: readonly Tried[], used: ReadonlySet<string>, depth: number): number => {
    const odds = oddsOf(history);
    const cures = history
      .filter((t) => t.worked)
      .flatMap((t) => p.attempts.find((a) => a.id === t.act) ?? []);
    const isCured = (f: number) => cures.some((a) => a.cures.includes(f));
    const left = p.faults.filter((_, f) => !isCured(f));
    const stays = [
      1 - p.comeback,
      ...cures.map((a) => 1 - a.comeback),
      ...left.map((f) => 1 - (f.leave?.comeback ?? 0)),
    ].reduce((x, y) => x * y);
    const share = left.reduce((s, f) => s * (f.leave?.share ?? 0), 1);
    const cap = Math.max(p.cap, ...cures.map((a) => a.cap)) as Cap;
    let best = p.giveUp[depth]!;
    if (left.every((f) => f.leave))
      best = Math.max(best, taking(p.price[cap] * share, p.sale) - (1 - stays) * p.comebackCost);
    const down = (to: number) => Math.max(0, p.depths[to]!.cost - p.depths[depth]!.cost);
    const after = (act: string, worked: boolean, spends: readonly string[], to: number) =>
      go([...history, { act, worked }], new Set([...used, act, ...spends]), Math.max(depth, to));
    for (const a of p.attempts) {
      if (used.has(a.id) || a.cures.every(isCured)) continue;
      const works = a.works!.reduce((s, w, h) => s + w * odds[h]!, 0);
      const spends = (a.spends ?? []).map((i) => p.attempts[i]!.id);
      let q = a.breaks * p.giveUpBroken - a.cost - down(a.depth);
      if (works > 0) q += works * after(a.id, true, spends, a.depth);
      if (1 - works - a.breaks > 0) q += (1 - works - a.breaks) * after(a.id, false, spends, a.depth);
      best = Math.max(best, q);
    }
    for (const c of p.checks!) {
      if (used.has(c.id) || c.faults.every(isCured)) continue;
      if (c.voided.some((i) => history.some((t) => t.act === p.attempts[i]!.id))) continue;
      const yes = c.outcomes[0]!.reduce((s, o, h) => s + o * odds[h]!, 0);
      let q = -c.cost - down(c.depth);
      if (yes > 0) q += yes * after(c.id, true, [], c.depth);
      if (yes < 1) q += (1 - yes) * after(c.id, false, [], c.depth);
      best = Math.max(best, q);
    }
    return best;
  };
  return go([], new Set(), p.openedTo);
}

const random = (seed: number, faults: number, routes: number, checks: number) =>
  randomCase(seeded(seed), { faults, routes, checks, explanations: 4 });

const valueOf = (p: LadderProblem): number => solvePolicy(p, WHOLE).value;

/** What following a policy brings, by walking it with the odds worked out at its own rungs. */
function follow(p: LadderProblem, r: Rung): number {
  if (r.do === "sell" || r.do === "give-up") return r.value;
  if (r.do === "check") return r.outcomes.reduce((v, o) => v + o.chance * follow(p, o.then()), -r.cost);
  const a = p.attempts[r.attempt]!;
  const lost = 1 - r.success - a.breaks;
  return (
    (r.success > 0 ? r.success * follow(p, r.worked()) : 0) +
    a.breaks * p.giveUpBroken +
    (lost > 1e-12 ? lost * follow(p, r.failed()) : 0) -
    r.cost
  );
}

test.each([
  [1, 3, 4, 16],
  [2, 2, 2, 14],
  [2, 3, 1, 4],
  [3, 1, 2, 8],
])(
  "%i faults of %i routes with %i checks: as good as trying every order there is",
  (faults, routes, checks, n) => {
    for (let seed = 1; seed <= n; seed++) {
      const p = random(seed, faults, routes, checks);
      const { value, upper, root } = solvePolicy(p, WHOLE);
      expect(value).toBeCloseTo(bruteForce(p), 6);
      expect(upper).toBe(value);
      expect(follow(p, root)).toBeCloseTo(value, 6);
    }
  },
);

test("what is quick never promises more than can be had, and its bound never less", () => {
  for (let seed = 1; seed <= 40; seed++) {
    const p = random(seed, 3, 2, 3);
    const exact = solvePolicy(p, WHOLE).value;
    const { value, upper, root } = solvePolicy(p, { ...QUICK, acts: 200 });
    expect(value).toBeLessThanOrEqual(exact + 1e-6);
    expect(upper).toBeGreaterThanOrEqual(exact - 1e-6);
    expect(follow(p, root)).toBeCloseTo(value, 6);
  }
});

describe("what a value may do", () => {
  const cases = Array.from({ length: 12 }, (_, i) => random(i + 100, 2, 2, 2));
  const moneyTimes = (p: LadderProblem, k: number): LadderProblem => ({
    ...p,
    attempts: p.attempts.map((a) => ({ ...a, cost: a.cost * k })),
    checks: p.checks!.map((c) => ({ ...c, cost: c.cost * k })),
    depths: p.depths.map((d) => ({ ...d, cost: d.cost * k })),
    price: [p.price[0] * k, p.price[1] * k, p.price[2] * k],
    sale: { ...p.sale, fixed: p.sale.fixed * k, tax: { ...p.sale.tax, above: p.sale.tax.above * k } },
    comebackCost: p.comebackCost * k,
    giveUp: p.giveUp.map((g) => g * k),
    giveUpBroken: p.giveUpBroken * k,
  });

  test("something more that may be done never lowers it, an attempt or a check", () => {
    for (const p of cases) {
      const fewer = { ...p, checks: p.checks!.slice(1) };
      expect(valueOf(p)).toBeGreaterThanOrEqual(valueOf(fewer) - 1e-6);
      const shorter = {
        ...p,
        attempts: p.attempts.slice(0, -1).map((a) => ({ ...a, spends: [] })),
        checks: p.checks!.map((c) => ({ ...c, voided: [] })),
      };
      const whole = {
        ...p,
        attempts: p.attempts.map((a) => ({ ...a, spends: [] })),
        checks: p.checks!.map((c) => ({ ...c, voided: [] })),
      };
      expect(valueOf(whole)).toBeGreaterThanOrEqual(valueOf(shorter) - 1e-6);
    }
  });

  test("a dearer minute makes a check worth less by its own minutes at most", () => {
    for (const p of cases)
      for (const [k, check] of p.checks!.entries()) {
        const dearer = {
          ...p,
          checks: p.checks!.map((c, i) => (i === k ? { ...c, cost: check.cost + 50 } : c)),
        };
        const lost = valueOf(p) - valueOf(dearer);
        expect(lost).toBeGreaterThanOrEqual(-1e-6);
        expect(lost).toBeLessThanOrEqual(50 + 1e-6);
      }
  });

  test("the same in another currency is the same, so many times over", () => {
    for (const p of cases) {
      const [once, more] = [solvePolicy(p, WHOLE), solvePolicy(moneyTimes(p, 100), WHOLE)];
      expect(more.value / 100).toBeCloseTo(once.value, 6);
      expect(more.acts[0]!.index).toBe(once.acts[0]!.index);
    }
  });
});

describe("one fault, two ways to cure it", () => {
  const unit: LadderProblem = {
    ...random(1, 1, 1, 0),
    faults: [{ id: "drift", leave: null }],
    depths: [{ cost: 0, minutes: 0 }],
    openedTo: 0,
    price: [5000, 5000, 5000],
    cap: 0,
    sale: { feeShare: 0, fixed: 0, tax: { share: 0, above: 0 } },
    comebackCost: 0,
    comeback: 0,
    giveUp: [1000],
    giveUpBroken: 1000,
    explanations: [0.8, 0.2],
    checks: [],
    attempts: [
      // both mend the sensor and neither the flex: where the first fails, the second hardly helps
      ["clean", 300, [0.9, 0]] as const,
      ["sensor", 900, [0.95, 0]] as const,
    ].map(([id, cost, works]) => ({
      id,
      cures: [0],
      cost,
      minutes: 10,
      depth: 0,
      success: 0.8 * works[0],
      breaks: 0,
      works,
      cap: 0,
      comeback: 0,
    })),
  };

  test("after a failure the next has the odds that are left, not its own", () => {
    const { root } = solvePolicy(unit, WHOLE);
    if (root.do !== "try") throw new Error("tries nothing");
    expect(unit.attempts[root.attempt]!.id).toBe("clean");
    // 0.08 of 1 is left for the sensor, 0.2 for the flex: 0.95 * 0.08 / 0.28 = 27 of 100, worth 1086 of its 900
    const then = root.failed();
    if (then.do !== "try") throw new Error("gives up");
    expect(then.success).toBeCloseTo((0.95 * 0.08) / 0.28, 9);
    // as if independent it would have been 76 of 100
    expect(unit.attempts[then.attempt]!.success).toBeCloseTo(0.76, 9);
  });

  test("a dearer second way is not tried any more once the first failed", () => {
    const dear = { ...unit, attempts: unit.attempts.map((a, i) => (i === 1 ? { ...a, cost: 1200 } : a)) };
    const { root } = solvePolicy(dear, WHOLE);
    if (root.do !== "try") throw new Error("tries nothing");
    expect(root.failed().do).toBe("give-up");
  });

  test("a cheap look comes first where it tells the two apart, a dear one does not", () => {
    const look = (cost: number): LadderProblem => ({
      ...unit,
      checks: [
        {
          id: "look",
          cost,
          minutes: 2,
          depth: 0,
          outcomes: [
            [0.999, 0.001],
            [0.001, 0.999],
          ],
          faults: [0],
          voided: [],
        },
      ],
    });
    const cheap = solvePolicy(look(20), WHOLE);
    expect(cheap.root.do).toBe("check");
    expect(cheap.acts[0]).toMatchObject({ do: "check", index: 0 });
    expect(cheap.acts[0]!.value).toBeGreaterThan(cheap.acts[1]!.value);
    expect(solvePolicy(look(800), WHOLE).root.do).toBe("try");
  });
});
