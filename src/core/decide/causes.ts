import { type Belief, suspectsOf } from "../diagnosis/belief";
import { LEAK } from "../diagnosis/priors";
import type { NodeKind } from "../profile/wiring";
import { type Family, isStick, type Treated } from "./families";

/** What may be behind a failing place, from the belief under Find, as deciding needs it: plain data. */

/** Parts that are at fault together behind one place; `elsewhere`: what no part of the wiring stands for. */
export type PlaceCause = {
  parts: { node: string; kind: NodeKind; name: string }[];
  elsewhere: boolean;
  probability: number;
};

const SHOWN = 12;
const LEAST = 0.002;

/**
 * The explanations of what fails at one place, the likeliest first: those of the whole unit, so far as their parts lie
 * behind it. They add up to 1; what has no part behind it counts as something else.
 */
export function causesAt(b: Belief, place: string): PlaceCause[] {
  const behind = new Set(b.graph.restsOn.get(place) ?? []);
  const own = b.parts + b.places.indexOf(place);
  const masses = new Map<string, PlaceCause>();
  const weight = weighed(b, [place]);
  for (const h of b.live) {
    const suspects = suspectsOf(b, h);
    const parts = suspects.filter((i) => behind.has(i)).sort((i, j) => i - j);
    const elsewhere = parts.length === 0 || suspects.includes(own);
    const probability = weight(h);
    const key = `${parts.join()} ${elsewhere}`;
    const had = masses.get(key);
    if (had) had.probability += probability;
    else
      masses.set(key, {
        parts: parts.map((i) => {
          const { id, kind, name } = b.graph.nodes[i]!;
          return { node: id, kind, name };
        }),
        elsewhere,
        probability,
      });
  }
  const all = [...masses.values()].sort((x, y) => y.probability - x.probability);
  const total = all.reduce((s, c) => s + c.probability, 0);
  const kept = all.filter((c, i) => i === 0 || (i < SHOWN && c.probability >= LEAST * total));
  const sum = kept.reduce((s, c) => s + c.probability, 0);
  return kept.map((c) => ({ ...c, probability: c.probability / sum }));
}

/**
 * How likely each explanation is, where some places are known to fail though no test says so: a hand named them. A
 * place fails by itself seldom.
 */
function weighed(b: Belief, named: readonly string[]): (h: number) => number {
  const unseen = named
    .filter((p) => !b.sums.fails.includes(p))
    .map((p) => new Set([...(b.graph.restsOn.get(p) ?? []), b.parts + b.places.indexOf(p)]));
  return (h) => {
    const suspects = suspectsOf(b, h);
    return unseen.reduce((w, own) => w * (suspects.some((i) => own.has(i)) ? 1 : LEAK), b.posterior[h]!);
  };
}

/**
 * Chance that any of some places fails, by all that is known of what they rest on: what they share is counted once.
 * @param named places that are known to fail
 */
export function chanceOfAnyFailing(
  b: Belief,
  places: readonly string[],
  named: readonly string[] = [],
): number {
  const works = new Float64Array(b.n).fill(1);
  for (const place of places) {
    for (const i of b.graph.restsOn.get(place) ?? []) works[i]! *= 1 - b.graph.covers[i]!;
    const own = b.places.indexOf(place);
    if (own >= 0) works[b.parts + own] = 0;
  }
  const weight = weighed(b, named);
  let fails = 0;
  let all = 0;
  for (const h of b.live) {
    const w = weight(h);
    all += w;
    fails += w * (1 - suspectsOf(b, h).reduce((x, i) => x * works[i]!, 1));
  }
  return fails / all;
}
/** The same of one: of what nobody tested. */
export const chanceOfFailing = (b: Belief, place: string, named: readonly string[] = []): number =>
  chanceOfAnyFailing(b, [place], named);

const BY_KIND: Partial<Record<NodeKind, Treated>> = {
  flex: "flex",
  trace: "flex",
  joint: "joint",
  connector: "connector",
  plug: "connector",
  socket: "connector",
  cap: "cap",
  post: "post",
  frame: "post",
  mechanism: "post",
  spring: "spring",
  gear: "gear",
  rocker: "gear",
  latch: "latch",
  cell: "cell",
  "cell-contact": "contact",
  port: "port",
  fuse: "chip",
  supply: "chip",
  chip: "chip",
  board: "chip",
  lead: "lead",
  shell: "elsewhere",
};
/** What a fault of a kind of part has to be treated as, at a place of some family. */
export function treatedAs(kind: NodeKind, family: Family): Treated {
  if (kind === "lead" && family === "cord") return "cord";
  if (kind === "mechanism" && !isStick(family)) return family;
  return BY_KIND[kind] ?? family;
}
