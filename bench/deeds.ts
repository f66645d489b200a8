/**
 * What each deed costs the database while the demonstration is told: questions, time of the database, time
 * under lock; medians. It wants the address of an empty, migrated database. DEED=name,name prints one of each
 * such deed question by question.
 */
import { subscribe } from "node:diagnostics_channel";

import { COSTS, type DeedCost } from "@/platform/deed/cost";

const all = new Map<string, DeedCost[]>();
subscribe(COSTS, (told) => {
  const cost = told as DeedCost;
  all.set(cost.deed, [...(all.get(cost.deed) ?? []), cost]);
});

await import("@/cli/demo-data");

const median = (of: readonly number[]): number =>
  [...of].sort((a, b) => a - b)[Math.floor(of.length / 2)] ?? 0;
console.log(
  `\n${"deed".padEnd(24)}${"done".padStart(6)}${"queries".padStart(9)}${"db ms".padStart(8)}${"locked ms".padStart(11)}`,
);
const line = (name: string, costs: readonly DeedCost[]): string =>
  name.padEnd(24) +
  String(costs.length).padStart(6) +
  String(median(costs.map((c) => c.queries))).padStart(9) +
  median(costs.map((c) => c.databaseMs))
    .toFixed(1)
    .padStart(8) +
  median(costs.map((c) => c.lockedMs))
    .toFixed(1)
    .padStart(11);
for (const [name, costs] of [...all].sort(([a], [b]) => (a < b ? -1 : 1))) console.log(line(name, costs));
console.log(line("all", [...all.values()].flat()));
for (const name of (process.env.DEED ?? "").split(",")) {
  const shown = all.get(name);
  if (shown) console.log(`\n${name}\n${shown[Math.floor(shown.length / 2)]?.asked.join("\n")}`);
}
