import type { Graph } from "./graph";
import { COVERAGE, LEAK, LEAK_SHOWS, oddsOf, type Outcome, type ShopRecord, showsAs } from "./priors";

/**
 * Exact Bayes over every single fault and every pair of faults: P(faults | what was seen), with the model of
 * priors.ts. A control fails if any faulty part that it rests on shows (noisy or), or by the leak; a check
 * answers as its tables say.
 */

/**
 * Something seen: of a control or function, or the outcome of a check as its chances under "these parts are
 * faulty" or not.
 */
export type Evidence =
  | {
      kind: "function";
      id: string;
      outcome: Outcome;
      /** parts whose fault says nothing here: it comes and goes, and this was seen while it stayed away */
      exempt?: readonly number[];
    }
  | {
      kind: "check";
      /** the parts it is about: the chance of what was seen if any of them is at fault, and if none is */
      about: readonly number[];
      ifFaulty: number;
      ifSound: number;
    }
  | {
      kind: "cure";
      /**
       * What was replaced, reseated or swapped: the chance of what was seen if every fault that the failing
       * controls rest on lies in it, and if not.
       */
      about: readonly number[];
      ifAll: number;
      ifNot: number;
    };

/** Hypotheses by number: 0..n-1 one part, then pairs. */
export type Belief = {
  graph: Graph;
  n: number;
  /** the two parts of hypothesis h; the same twice for a single fault */
  first: Uint16Array;
  second: Uint16Array;
  logPrior: Float64Array;
  logLikelihood: Float64Array;
  posterior: Float64Array;
  /** P(part at fault), over all hypotheses */
  marginal: Float64Array;
  /** parts that some failing control rests on: a treatment is judged by these */
  failing: Uint8Array;
  /** hypotheses that still carry weight: planning looks at these only */
  live: Uint32Array;
};
const NEGLIGIBLE = 1e-7;

export function startBelief(graph: Graph, record: ShopRecord = {}): Belief {
  const n = graph.nodes.length;
  const count = n + (n * (n - 1)) / 2;
  const b: Belief = {
    graph,
    n,
    first: new Uint16Array(count),
    second: new Uint16Array(count),
    logPrior: new Float64Array(count),
    logLikelihood: new Float64Array(count),
    posterior: new Float64Array(count),
    marginal: new Float64Array(n),
    failing: new Uint8Array(n),
    live: new Uint32Array(0),
  };
  const logOdds = graph.kinds.map((k) => Math.log(oddsOf(k, record) / (1 - oddsOf(k, record))));
  let h = 0;
  for (let i = 0; i < n; i++, h++) {
    b.first[h] = b.second[h] = i;
    b.logPrior[h] = logOdds[i]!;
  }
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++, h++) {
      b.first[h] = i;
      b.second[h] = j;
      b.logPrior[h] = logOdds[i]! + logOdds[j]!;
    }
  settle(b);
  return b;
}

/** P(outcome of a function | the faulty parts that it rests on): none, one, or two of them. */
export function outcomeChance(graph: Graph, outcome: Outcome, faulty: readonly number[]): number {
  let works = 1 - LEAK;
  let weight = LEAK;
  let shows = LEAK * LEAK_SHOWS;
  for (const i of faulty) {
    const c = COVERAGE[graph.kinds[i]!];
    works *= 1 - c;
    weight += c;
    if (outcome !== "works") shows += c * showsAs(graph.kinds[i]!, outcome);
  }
  return outcome === "works" ? works : ((1 - works) * shows) / weight;
}

/**
 * Adds evidence and settles the posterior. Likelihoods of pieces of evidence multiply: each is a look of its
 * own.
 */
export function learn(b: Belief, evidence: readonly Evidence[]): void {
  for (const e of evidence)
    if (e.kind === "function" && e.outcome !== "works")
      b.graph.restsOn.get(e.id)?.forEach((i) => (b.failing[i] = 1));
  for (const e of evidence) addLikelihood(b, e, b.logLikelihood);
  settle(b);
}

type OfFunction = Extract<Evidence, { kind: "function" }>;

/** How a function answered, as the logarithm of its chance when these two parts are faulty. */
function answerOf(b: Belief, e: OfFunction, rests: readonly number[]): (i: number, j: number) => number {
  const mine = new Uint8Array(b.n);
  rests.forEach((i) => (mine[i] = 1));
  e.exempt?.forEach((i) => (mine[i] = 0));
  const none = Math.log(outcomeChance(b.graph, e.outcome, []));
  const alone = new Float64Array(b.n).fill(none);
  rests.forEach((i) => {
    if (mine[i]) alone[i] = Math.log(outcomeChance(b.graph, e.outcome, [i]));
  });
  const both = new Map<number, number>(); // by kinds: parts of a kind answer alike
  const kindNumber = new Map([...new Set(b.graph.kinds)].map((k, i) => [k, i]));
  return (i, j) => {
    if (!mine[i] || !mine[j] || i === j) return mine[i] ? alone[i]! : alone[j]!;
    const key = kindNumber.get(b.graph.kinds[i]!)! * 64 + kindNumber.get(b.graph.kinds[j]!)!;
    let v = both.get(key);
    if (v === undefined) both.set(key, (v = Math.log(outcomeChance(b.graph, e.outcome, [i, j]))));
    return v;
  };
}

function addLikelihood(b: Belief, e: Evidence, into: Float64Array): void {
  const { first, second, n } = b;
  if (e.kind === "function") {
    const rests = b.graph.restsOn.get(e.id);
    if (!rests) return;
    const answer = answerOf(b, e, rests);
    for (let h = 0; h < into.length; h++) into[h]! += answer(first[h]!, second[h]!);
    return;
  }
  const mine = new Uint8Array(n);
  e.about.forEach((i) => (mine[i] = 1));
  const yes = Math.log(Math.max(1e-6, e.kind === "check" ? e.ifFaulty : e.ifAll));
  const no = Math.log(Math.max(1e-6, e.kind === "check" ? e.ifSound : e.ifNot));
  for (let h = 0; h < into.length; h++) {
    const hit = e.kind === "check" ? mine[first[h]!] || mine[second[h]!] : isCured(b, mine, h);
    into[h]! += hit ? yes : no;
  }
}

/** Whether treating these parts cures what fails under hypothesis h: every fault behind it lies in them. */
export function isCured(b: Belief, treated: Uint8Array, h: number): boolean {
  const i = b.first[h]!;
  const j = b.second[h]!;
  return (
    (treated[i] === 1 || treated[j] === 1) &&
    (treated[i] === 1 || b.failing[i] === 0) &&
    (treated[j] === 1 || b.failing[j] === 0)
  );
}

function settle(b: Belief): void {
  let top = -Infinity;
  for (let h = 0; h < b.posterior.length; h++) top = Math.max(top, b.logPrior[h]! + b.logLikelihood[h]!);
  let sum = 0;
  for (let h = 0; h < b.posterior.length; h++)
    sum += b.posterior[h] = Math.exp(b.logPrior[h]! + b.logLikelihood[h]! - top);
  b.marginal.fill(0);
  for (let h = 0; h < b.posterior.length; h++) {
    const p = (b.posterior[h]! /= sum);
    b.marginal[b.first[h]!]! += p;
    if (b.second[h] !== b.first[h]) b.marginal[b.second[h]!]! += p;
  }
  b.live = Uint32Array.from(b.posterior.keys()).filter((h) => b.posterior[h]! > NEGLIGIBLE);
}

export type RankedCause = { node: string; probability: number };

/** The parts by how likely each is at fault, best first. */
export const rankCauses = (b: Belief): RankedCause[] =>
  b.graph.nodes
    .map((node, i) => ({ node: node.id, probability: b.marginal[i]! }))
    .sort((x, y) => y.probability - x.probability || x.node.localeCompare(y.node));

/** The most likely whole explanation, one part or two. */
export function bestExplanation(b: Belief): { nodes: string[]; probability: number } {
  let best = 0;
  for (let h = 1; h < b.posterior.length; h++) if (b.posterior[h]! > b.posterior[best]!) best = h;
  const ids = [...new Set([b.first[best]!, b.second[best]!])].map((i) => b.graph.nodes[i]!.id);
  return { nodes: ids, probability: b.posterior[best]! };
}

/**
 * How much each piece of evidence speaks for each of some parts: log of the likelihood ratio between "this
 * part is in it" and "this part sound". One row a part, one figure a piece of evidence.
 */
export function weightOfEvidence(
  b: Belief,
  evidence: readonly Evidence[],
  parts: readonly number[],
): number[][] {
  const prior = b.logPrior.map(Math.exp);
  const weights: number[][] = parts.map(() => []);
  for (const e of evidence) {
    const joint = new Float64Array(prior.length);
    addLikelihood(b, e, joint);
    for (let h = 0; h < joint.length; h++) joint[h] = prior[h]! * Math.exp(joint[h]!);
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
