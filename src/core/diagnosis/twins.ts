import type { Belief } from "./belief";
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

/** The most likely explanation in classes, one or two, and how likely it is. */
export function bestClasses(b: Belief, classes: Uint16Array): { classes: number[]; probability: number } {
  const mass = new Map<number, number>();
  let best = -1;
  for (const h of b.live) {
    const x = classes[b.first[h]!]!;
    const y = classes[b.second[h]!]!;
    const key = Math.min(x, y) * 65536 + Math.max(x, y);
    const p = (mass.get(key) ?? 0) + b.posterior[h]!;
    mass.set(key, p);
    if (best < 0 || p > mass.get(best)!) best = key;
  }
  return {
    classes: [...new Set([Math.floor(best / 65536), best % 65536])],
    probability: mass.get(best) ?? 0,
  };
}
