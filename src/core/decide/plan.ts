import type { Advice } from "./advise";
import type { TreeNode } from "./walk";

/** From the advised policy to what a work order holds: per place which route comes first, and what follows if it fails. */

/** An attempt by its place in the advice's options, with the chance that it works by all that is known there. */
export type PlannedTry = { attempt: number; works: number };
export type Planned = {
  /** checks, by their place in the advice's list, that come before the first attempt */
  looks: number[];
  /** by faulty place, the attempts in the order in which each failure leads to the next */
  ladders: ReadonlyMap<string, PlannedTry[]>;
};

/** Where a check leads most likely. */
const likeliest = (node: Extract<TreeNode, { do: "check" }>): TreeNode =>
  node.outcomes.reduce((a, b) => (b.chance > a.chance ? b : a)).then;

/** The attempts at some places one after another, when none of them helps. */
function downFrom(advice: Advice, node: TreeNode, places: readonly string[]): PlannedTry[] {
  if (node.do === "check") return downFrom(advice, likeliest(node), places);
  if (node.do !== "try") return [];
  const mine = advice.options[node.attempt]!.places.some((p) => places.includes(p));
  if (!mine) return downFrom(advice, node.worked, places);
  return [{ attempt: node.attempt, works: node.success }, ...downFrom(advice, node.failed, places)];
}

/** The way through the policy on which every first attempt works, each place with its own way down. */
export function plannedWork(advice: Advice): Planned {
  const looks: number[] = [];
  const ladders = new Map<string, PlannedTry[]>();
  let node: TreeNode = advice.tree;
  while (node.do === "check" || node.do === "try") {
    if (node.do === "check") {
      if (ladders.size === 0) looks.push(node.check);
      node = likeliest(node);
      continue;
    }
    const { places } = advice.options[node.attempt]!;
    const down = downFrom(advice, node, places);
    for (const p of places) if (!ladders.has(p)) ladders.set(p, down);
    node = node.worked;
  }
  return { looks, ladders };
}
