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
  [1, 3, 4, 40],
  [2, 2, 2, 25],
  [2, 3, 1, 6],
  [3, 1, 2, 12],
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
