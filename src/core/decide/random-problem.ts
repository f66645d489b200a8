import type { Chance } from "../math/random";
import type { Attempt, LadderProblem } from "./ladder";

const SCHOOLS = ["clean", "sensor", "module", "magnetic", "calibrate"] as const;

/** A made-up unit to decide on, for tests and benches: deterministic by its chance. */
export function randomProblem(c: Chance, { faults, attempts }: { faults: number; attempts: number }): LadderProblem {
  const a = Math.round(c.between(1800, 6000));
  const b = Math.round(a * c.between(0.8, 0.95));
  const closed = Math.round(a * c.between(0.1, 0.35));
  const made = Array.from({ length: attempts }, (_, i): Attempt => {
    const first = i < faults ? i : Math.floor(c.next() * faults);
    const joined = faults > 1 && c.happens(0.12) ? [(first + 1) % faults] : [];
    const school = SCHOOLS[i % SCHOOLS.length]!;
    return {
      id: `a${i}`,
      school,
      faults: [first, ...joined],
      cost: Math.round(c.between(20, 900)),
      success: Math.round(c.between(0.2, 0.98) * 1000) / 1000,
      opens: c.happens(0.8),
      cap: c.pick([0, 0, 1, 2] as const),
      later: Math.round(c.between(0, 250)),
      spends: [],
    };
  });
  return {
    faults,
    attempts: made.map((x, i) => (c.happens(0.15) && i > 0 ? { ...x, spends: [made[i - 1]!.id] } : x)),
    openCost: Math.round(c.between(100, 600)),
    prices: [a, b, Math.round(b * c.between(0.75, 0.95))],
    salvage: { closed, opened: Math.round(closed * c.between(0.6, 1)) },
  };
}
