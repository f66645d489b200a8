/**
 * The ladder: how fast, how many states, and against each single school as a standing policy.
 * npm run bench:decide
 */
import { bySchool, type LadderProblem, LadderSolver, solveLadder } from "@/core/decide/ladder";
import { randomProblem } from "@/core/decide/random-problem";
import { quantile } from "@/core/math/quantile";
import { seeded } from "@/core/math/random";

/** The same question without memory or bounds, for small problems only. */
function longWay(p: LadderProblem): number {
  const walk = (spent: ReadonlySet<string>, cured: ReadonlySet<number>, cap: number, open: boolean): number => {
    if (cured.size === p.faults) return p.prices[cap]!;
    let best = open ? p.salvage.opened : p.salvage.closed;
    for (const a of p.attempts) {
      if (spent.has(a.id) || a.faults.every((f) => cured.has(f))) continue;
      const cost = a.cost + (a.opens && !open ? p.openCost : 0);
      const done = new Set([...spent, a.id]);
      const yes = walk(done, new Set([...cured, ...a.faults]), Math.max(cap, a.cap), open || a.opens) - a.later;
      const no = walk(new Set([...done, ...a.spends]), cured, cap, open || a.opens);
      best = Math.max(best, a.success * yes + (1 - a.success) * no - cost);
    }
    return best;
  };
  return walk(new Set(), new Set(), 0, false);
}

const UNITS = 2000;
let equal = 0;
for (let seed = 0; seed < UNITS; seed++) {
  const p = randomProblem(seeded(seed), { faults: 1 + (seed % 3), attempts: 2 + (seed % 5) });
  if (Math.abs(solveLadder(p).value - longWay(p)) < 1e-6) equal++;
}
console.log(`${UNITS} random units of 2 to 6 attempts, equal to trying everything: ${equal} (aim: all)`);
let seven = 0;
for (let seed = 0; seed < 60; seed++) {
  const p = randomProblem(seeded(seed + 50_000), { faults: 1 + (seed % 3), attempts: 7 });
  if (Math.abs(solveLadder(p).value - longWay(p)) < 1e-6) seven++;
}
console.log(`60 random units of 7 attempts, equal to trying everything: ${seven} (aim: all)`);

const took: number[] = [];
const states: number[] = [];
for (let seed = 0; seed < 300; seed++) {
  const p = randomProblem(seeded(seed + 9000), { faults: 4, attempts: 20 });
  const began = performance.now();
  states.push(solveLadder(p).states);
  took.push(performance.now() - began);
}
console.log(
  `4 faults, 20 attempts (5 each): median ${quantile(took, 0.5).toFixed(1)} ms, 95th percentile ${quantile(took, 0.95).toFixed(1)} ms, most ${Math.max(...took).toFixed(0)} ms; states looked at, median ${quantile(states, 0.5).toFixed(0)} (aim: 100 ms, 1 s)`,
);

const gains = new Map<string, number[]>();
for (let seed = 0; seed < 1000; seed++) {
  const p = randomProblem(seeded(seed + 70_000), { faults: 1 + (seed % 3), attempts: 10 });
  const best = solveLadder(p).value;
  for (const school of ["clean", "sensor", "module", "magnetic", "calibrate"])
    gains.set(school, [...(gains.get(school) ?? []), best - new LadderSolver(bySchool(p, school)).solve().value]);
}
console.log("mean margin per unit lost by following one school always (minor units):");
for (const [school, list] of gains)
  console.log(`  ${school.padEnd(10)} ${(list.reduce((s, x) => s + x, 0) / list.length).toFixed(0)}`);
