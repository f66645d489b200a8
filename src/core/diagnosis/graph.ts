import { COVERAGE } from "./priors";
import type { NodeKind, Wiring, WiringNode } from "../profile/wiring";

/**
 * The wiring of one unit, indexed: parts by number, and for each control, function and test point the parts
 * it rests on.
 */
export type Graph = {
  nodes: readonly WiringNode[];
  index: ReadonlyMap<string, number>;
  kinds: readonly NodeKind[];
  /** how surely a fault of each part shows, by its kind */
  covers: readonly number[];
  /** the parts that a control or function rests on, itself served by, as sorted numbers */
  restsOn: ReadonlyMap<string, readonly number[]>;
  /** the parts that show at a test point: its own part and all that this needs */
  showsAt: ReadonlyMap<string, readonly number[]>;
  /** the part and everything it needs */
  upstream: readonly (readonly number[])[];
};

/** Builds the graph of a revision; with an unknown revision every part that some revision has. */
export function graphOf(wiring: Wiring, revision: string | null): Graph {
  const nodes = wiring.nodes.filter(
    (n) => !n.revisions || revision === null || n.revisions.includes(revision),
  );
  const index = new Map(nodes.map((n, i) => [n.id, i]));
  const upstream: number[][] = nodes.map(() => []);
  const done = new Set<number>();
  const visit = (i: number): readonly number[] => {
    if (done.has(i)) return upstream[i]!;
    const all = new Set([i]);
    for (const need of nodes[i]!.needs) {
      const k = index.get(need);
      if (k !== undefined) for (const u of visit(k)) all.add(u);
    }
    upstream[i] = [...all].sort((a, b) => a - b);
    done.add(i);
    return upstream[i]!;
  };
  nodes.forEach((_, i) => visit(i));
  const union = (ids: readonly string[]) => {
    const all = new Set<number>();
    for (const id of ids) {
      const k = index.get(id);
      if (k !== undefined) upstream[k]!.forEach((u) => all.add(u));
    }
    return [...all].sort((a, b) => a - b);
  };
  const restsOn = new Map(Object.entries(wiring.serves).map(([id, parts]) => [id, union(parts)]));
  return {
    nodes,
    index,
    kinds: nodes.map((n) => n.kind),
    covers: nodes.map((n) => COVERAGE[n.kind]),
    restsOn: new Map([...restsOn].filter(([, parts]) => parts.length > 0)),
    showsAt: new Map(
      wiring.points.flatMap((p) => {
        const k = index.get(p.node);
        return k === undefined ? [] : [[p.id, upstream[k]!] as const];
      }),
    ),
    upstream,
  };
}
