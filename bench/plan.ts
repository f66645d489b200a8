import loadHighs from "highs";

import { planByHand } from "../src/core/allocate/by-hand";
import { worthOfPlan } from "../src/core/allocate/explain";
import { randomPlan } from "../src/core/allocate/random-plan";
import { solvePlan } from "../src/core/allocate/solve";

/**
 * The allocation plan: time to proven optimum, gap when stopped, and margin against what a person would do.
 */

const RUNS = Number(process.argv[2] ?? 5);
const STOP = 10; // seconds
const PATIENCE = Number(process.argv[3] ?? 60); // seconds to go on for the proof
const median = (v: number[]) => [...v].sort((a, b) => a - b)[Math.floor(v.length / 2)]!;

const highs = await loadHighs();
console.log(
  `\nAllocation plan, 40 part kinds, 10 % donors, ${RUNS} instances a size; stopped at ${STOP} s, proof given ${PATIENCE} s`,
);
for (const units of [20, 100, 500]) {
  const rows = Array.from({ length: RUNS }, (_, i) => {
    const p = randomPlan(1000 + units + i, { units, parts: 40, donorShare: 0.1 });
    const plan = solvePlan(highs, p, { seconds: STOP });
    const proof = plan.status === "proven" ? plan : solvePlan(highs, p, { seconds: PATIENCE });
    const hand = (way: "oldest-first" | "strip-worst-third") =>
      plan.value / Math.max(1, worthOfPlan(p, planByHand(p, way)));
    return { plan, proof, oldest: hand("oldest-first"), third: hand("strip-worst-third") };
  });
  const proven = rows.filter((r) => r.proof.status === "proven");
  const times = proven.map((r) => r.proof.seconds);
  console.log(
    `  ${String(units).padStart(3)} units: proven ${proven.length}/${RUNS}` +
      (times.length
        ? `, median ${median(times).toFixed(2)} s, longest ${Math.max(...times).toFixed(2)} s`
        : "") +
      `; at ${STOP} s worst gap ${(100 * Math.max(...rows.map((r) => r.plan.gap))).toFixed(4)} %` +
      `; margin ${median(rows.map((r) => r.oldest)).toFixed(2)} x oldest first, ${median(rows.map((r) => r.third)).toFixed(2)} x strip the worst third`,
  );
}
console.log(
  `  memory: ${(process.memoryUsage().rss / 1e6).toFixed(0)} MB of the process, ${(highs.memoryBytes / 1e6).toFixed(0)} MB of it the solver's`,
);
