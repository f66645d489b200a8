import { type Belief, type Evidence, saidAlone, suspectsOf } from "./belief";

/** What a belief comes to: whole explanations, the share of each part, and what each piece of evidence said. */

export type RankedCause = { node: string; probability: number };

/** The parts by how likely each is at fault, best first. */
export const rankCauses = (b: Belief): RankedCause[] =>
  b.graph.nodes
    .map((node, i) => ({ node: node.id, probability: b.marginal[i]! }))
    .sort((x, y) => y.probability - x.probability || x.node.localeCompare(y.node));

/**
 * A whole explanation: one part, two or three, and the places whose failure it leaves to something else: to what is no
 * part of the wiring, or hangs on these parts by no connection that is known.
 */
export type Explanation = { nodes: string[]; elsewhere: string[]; probability: number };

function elsewhereIn(b: Belief, suspects: readonly number[]): string[] {
  const isOwn = (p: string) => suspects.includes(b.parts + b.places.indexOf(p));
  const isBehind = (p: string) => suspects.some((i) => b.graph.restsOn.get(p)!.includes(i));
  return b.places.filter((p) => isOwn(p) || (b.sums.fails.includes(p) && !isBehind(p)));
}

/** Whole explanations, best first; those that say the same of parts and places are one. They add up to 1. */
function allExplanations(b: Belief): Explanation[] {
  const all = new Map<string, Explanation>();
  for (const h of b.live) {
    const suspects = suspectsOf(b, h);
    const nodes = suspects.flatMap((i) => (i < b.parts ? [b.graph.nodes[i]!.id] : []));
    const elsewhere = elsewhereIn(b, suspects);
    const key = `${nodes.join()} ${elsewhere.join()}`;
    const had = all.get(key);
    if (had) had.probability += b.posterior[h]!;
    else all.set(key, { nodes, elsewhere, probability: b.posterior[h]! });
  }
  return [...all.values()].sort((x, y) => y.probability - x.probability);
}

/** The likeliest whole explanations, best first; with all others they add up to 1. */
export const explanations = (b: Belief, most: number): Explanation[] => allExplanations(b).slice(0, most);

/** The most likely whole explanation. */
export const bestExplanation = (b: Belief): Explanation => allExplanations(b)[0]!;

/** How likely it is that something which no part of the wiring stands for has a part in it. */
export const somethingElse = (b: Belief): number =>
  allExplanations(b).reduce((s, e) => s + (e.elsewhere.length > 0 ? e.probability : 0), 0);

/**
 * How much each piece of evidence speaks for each of some parts: log of the likelihood ratio between "this
 * part is in it" and "this part sound". One row a part, one figure a piece of evidence.
 */
export function weightOfEvidence(
  b: Belief,
  evidence: readonly Evidence[],
  parts: readonly number[],
): number[][] {
  const prior = b.logPrior.subarray(0, b.upToTwo).map(Math.exp);
  const weights: number[][] = parts.map(() => []);
  for (const e of evidence) {
    const joint = saidAlone(b, e);
    for (let h = 0; h < joint.length; h++) joint[h]! *= prior[h]!;
    parts.forEach((part, k) => {
      let withIt = 0;
      let without = 0;
      let mass = 0;
      let rest = 0;
      for (let h = 0; h < joint.length; h++)
        if (b.first[h] === part || b.second[h] === part) {
          withIt += joint[h]!;
          mass += prior[h]!;
        } else {
          without += joint[h]!;
          rest += prior[h]!;
        }
      weights[k]!.push(Math.log(withIt / mass / (without / rest)));
    });
  }
  return weights;
}
