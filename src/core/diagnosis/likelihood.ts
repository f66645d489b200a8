import type { Graph } from "./graph";
import {
  axisShare,
  LEAK,
  LEAK_SHOWS,
  type Outcome,
  OUTSIDE_COVERAGE,
  type ShownAxis,
  showsAs,
  steadyShare,
} from "./priors";

/** How a control or function answers when some parts are faulty: a noisy or, with how each kind of part shows. */

/**
 * Something seen: of a control or function, or the outcome of a check as its chances under "these parts are
 * faulty" or not.
 */
export type Evidence =
  | {
      kind: "function";
      id: string;
      outcome: Outcome;
      /** the axis of a stick at which it showed, and whether it stood still there */
      axis?: ShownAxis;
      steady?: boolean;
      /** parts whose fault says nothing here: it comes and goes, and this was seen while it stayed away */
      exempt?: readonly number[];
      /** how far it is to be believed, 0 to 1 and 1 when left out: words are not a measurement */
      trust?: number;
    }
  | {
      kind: "check";
      /** the parts it is about: the chance of what was seen if any of them is at fault, and if none is */
      about: readonly number[];
      ifFaulty: number;
      ifSound: number;
      /** it is no look at a part but a reason to expect its fault: nothing can hide from it */
      leaning?: true;
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
export type OfFunction = Extract<Evidence, { kind: "function" }>;
export type Said = Pick<OfFunction, "outcome" | "axis" | "steady">;

const AXES = 3;
/** Chance of what was shown, beyond its pattern, when no part of the graph is behind it. */
const aside = (e: Said): number => (e.axis ? 1 / AXES : 1) * (e.steady === undefined ? 1 : 0.5);

/** How surely a fault of a part shows, and how surely as this. */
export type Shown = { covers: number; shows: number };
export function shownBy(graph: Graph, part: number, e: Said, all?: Patterns): Shown {
  const kind = graph.kinds[part]!;
  const covers = graph.covers[part]!;
  if (e.outcome === "works") return { covers, shows: 0 };
  const axis = e.axis ? axisShare(kind, graph.nodes[part]!.axis ?? null, e.axis) : 1;
  const steady = steadyShare(kind, e.steady);
  return { covers, shows: covers * shareOf(showsAs(kind, e.outcome), e.outcome, all) * axis * steady };
}

/** How often each pattern was seen behind which a part may be. */
export type Patterns = ReadonlyMap<Outcome, number>;
/** One fault shows mostly alike wherever it shows: so often as it did elsewhere, and else as its kind does. */
const ALIKE = 0.75;
/**
 * The share of a pattern in all that a part may have shown: the first of its like as its kind does, each further one
 * mostly alike, a second pattern seldom; spread evenly over all, so that the order does not matter.
 */
function shareOf(share: number, outcome: Outcome, all: Patterns | undefined): number {
  const mine = all?.get(outcome) ?? 1;
  const count = all ? [...all.values()].reduce((s, n) => s + n, 0) : 1;
  if (count <= 1) return share;
  const alike = share * (ALIKE + (1 - ALIKE) * share) ** (mine - 1);
  return alike ** (1 / mine) * (1 - ALIKE) ** ((all!.size - 1) / count);
}
/** The same for what lies outside the graph: it shows in any way, at its one place. */
export const shownOutside = (e: Said): Shown => ({
  covers: OUTSIDE_COVERAGE,
  shows: e.outcome === "works" ? 0 : OUTSIDE_COVERAGE * LEAK_SHOWS * aside(e),
});

/** P(this | the faults behind it, each with how it shows). */
export function chanceOf(e: Said, behind: readonly Shown[]): number {
  let works = 1 - LEAK;
  let weight = LEAK;
  let shows = LEAK * LEAK_SHOWS * aside(e);
  for (const s of behind) {
    works *= 1 - s.covers;
    weight += s.covers;
    shows += s.shows;
  }
  return e.outcome === "works" ? works : ((1 - works) * shows) / weight;
}

/** P(outcome of a function | the faulty parts that it rests on). */
export const outcomeChance = (graph: Graph, outcome: Outcome, faulty: readonly number[]): number =>
  chanceOf(
    { outcome },
    faulty.map((i) => shownBy(graph, i, { outcome })),
  );

/** What is not to be believed says any pattern as well as another. */
export const trusted = (chance: number, e: OfFunction): number => {
  const trust = e.trust ?? 1;
  return trust === 1 ? chance : trust * chance + (1 - trust) * LEAK_SHOWS * aside(e);
};
