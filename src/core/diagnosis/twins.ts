import { type Belief, suspectsOf } from "./belief";
import type { Check } from "./checks";
import type { Graph } from "./graph";

/** Parts that no check and no control can tell apart count as one: each part's class, by number. */
export function classesOf(graph: Graph, library: readonly Check[]): Uint16Array {
  const signatures = graph.nodes.map((_, i) => {
    const controls = [...graph.restsOn].filter(([, parts]) => parts.includes(i)).map(([id]) => id);
    const checks = library.filter((c) => c.about.includes(i)).map((c) => c.id);
    return `${graph.kinds[i]}|${controls.join()}|${checks.join()}`;
  });
  const numbers = new Map<string, number>();
  return Uint16Array.from(signatures, (s) => {
    if (!numbers.has(s)) numbers.set(s, numbers.size);
    return numbers.get(s)!;
  });
}

/** Something else at a place is numbered from here on, by its suspect. */
export const ELSEWHERE = 100_000;

/** The most likely explanation in classes, up to three, and how likely it is; something else is a class by itself. */
export function bestClasses(b: Belief, classes: Uint16Array): { classes: number[]; probability: number } {
  const mass = new Map<string, number>();
  let best = "";
  for (const h of b.live) {
    const own = suspectsOf(b, h).map((i) => (i < b.parts ? classes[i]! : ELSEWHERE + i));
    const key = [...new Set(own)].sort((x, y) => x - y).join();
    const p = (mass.get(key) ?? 0) + b.posterior[h]!;
    mass.set(key, p);
    if (best === "" || p > mass.get(best)!) best = key;
  }
  return { classes: best.split(",").map(Number), probability: mass.get(best) ?? 0 };
}
