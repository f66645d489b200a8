import type { Chance } from "../math/random";
import type { Cap, LadderAttempt, LadderProblem } from "./ladder-problem";

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
