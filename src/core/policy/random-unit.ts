import type { Chance } from "../math/random";
import type { Cap, LadderAttempt, LadderProblem } from "./problem";

/**
 * Made-up units for tests and benchmarks: prices, minutes and parts in the range of the trade, everything
 * else by chance.
 */
export function randomUnit(c: Chance, faults: number, routes: number, joints: number): LadderProblem {
  const minute = 40;
  const depths = [
    { cost: 0, minutes: 0 },
    { cost: minute * 10, minutes: 10 },
    { cost: minute * 18, minutes: 18 },
  ];
  const attempt = (id: string, cures: readonly number[]): LadderAttempt => {
    const minutes = c.between(5, 45) * (cures.length > 1 ? 1.4 : 1);
    const breaks = c.happens(0.3) ? c.between(0, 0.06) : 0;
    return {
      id,
      cures,
      minutes,
      cost: Math.round(minutes * minute + (c.happens(0.6) ? c.between(80, 1100) : 0)),
      depth: Math.floor(c.next() * 3),
      success: c.between(0.15, 0.95 - breaks),
      breaks,
      cap: Math.floor(c.next() * 3) as Cap,
      comeback: c.between(0, 0.25),
    };
  };
  const attempts: LadderAttempt[] = [];
  for (let f = 0; f < faults; f++) for (let k = 0; k < routes; k++) attempts.push(attempt(`${f}.${k}`, [f]));
  for (let j = 0; j < joints && faults > 1; j++) {
    const first = Math.floor(c.next() * faults);
    attempts.push(attempt(`both.${j}`, [first, (first + 1 + Math.floor(c.next() * (faults - 1))) % faults]));
  }
  const spending = attempts.map((a, i) =>
    c.happens(0.15)
      ? {
          ...a,
          spends: attempts.flatMap((b, k) => (k < i && b.cures.every((f) => a.cures.includes(f)) ? [k] : [])),
        }
      : a,
  );
  const price = c.between(2500, 9000);
  const parts = c.between(300, 1900);
  return {
    faults: Array.from({ length: faults }, (_, f) => ({
      id: `fault ${f}`,
      leave: c.happens(0.25) ? { share: c.between(0.4, 0.85), comeback: c.between(0, 0.1) } : null,
    })),
    attempts: spending,
    depths,
    openedTo: 0,
    price: [price, price * 0.88, price * 0.72],
    cap: 0,
    sale: {
      feeShare: 0.11,
      fixed: 450,
      tax: { share: c.happens(0.3) ? 0.16 : 0, above: c.between(0, 1500) },
    },
    comebackCost: 1500,
    comeback: 0.02,
    giveUp: [parts - 720, parts - 320, parts],
    giveUpBroken: parts - 900,
  };
}

/**
 * The same with what may be wrong: whole explanations that share causes between faults, attempts that cure some of them
 * only, and checks that tell them apart, each with its own mistakes.
 */
export function randomCase(
  c: Chance,
  {
    faults,
    routes,
    checks,
    explanations,
  }: { faults: number; routes: number; checks: number; explanations: number },
): LadderProblem {
  const unit = randomUnit(c, faults, routes, c.happens(0.5) ? 1 : 0);
  const causes = Array.from({ length: explanations }, () => unit.faults.map(() => Math.floor(c.next() * 3)));
  const weights = causes.map(() => c.between(0.05, 1));
  const all = weights.reduce((s, w) => s + w, 0);
  const attempts = unit.attempts.map((a) => {
    const cured = a.cures.map(() => [0, 1, 2].filter(() => c.happens(0.5)));
    const well = c.between(0.5, 1 - a.breaks);
    const works = causes.map((cause) => (a.cures.every((f, k) => cured[k]!.includes(cause[f]!)) ? well : 0));
    return { ...a, works, success: works.reduce((s, w, h) => s + (w * weights[h]!) / all, 0) };
  });
  return {
    ...unit,
    attempts,
    explanations: weights.map((w) => w / all),
    checks: Array.from({ length: checks }, (_, k) => {
      const fault = Math.floor(c.next() * faults);
      const asked = Math.floor(c.next() * 3);
      const [right, wrong] = [c.between(0.6, 0.99), c.between(0, 0.15)];
      const first = causes.map((cause) => (cause[fault] === asked ? right : wrong));
      return {
        id: `check ${k}`,
        cost: c.between(5, 260),
        minutes: 1,
        depth: Math.floor(c.next() * 3),
        outcomes: [first, first.map((x) => 1 - x)],
        faults: [fault],
        voided: attempts.flatMap((a, i) => (a.cures.includes(fault) && c.happens(0.3) ? [i] : [])),
      };
    }),
  };
}
