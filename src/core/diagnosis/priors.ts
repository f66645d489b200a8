import { chanceOf, pooledCases, type Tally } from "../math/chances";
import type { NodeKind } from "../profile/wiring";

/**
 * The stated model of faults: starting odds by kind of part, how surely a fault of that kind shows, and by
 * which pattern. House guesses, in the order of measures.md "Reading causes from measures"; the shop's record
 * moves the odds (`withRecord`).
 */

/**
 * What was seen of a control or function. `works` is evidence too; what was not tested is none and is left
 * out.
 */
export const OUTCOMES = [
  "works",
  "dead",
  "intermittent",
  "offset",
  "scatter",
  "noise",
  "jumps",
  "dead-half",
  "short-reach",
  "misses",
  "rim-misses",
  "yields-to-force",
  "stuck",
  "bridged",
] as const;
export type Outcome = (typeof OUTCOMES)[number];

/**
 * Chance that a part of this kind is the fault in a unit that comes to the bench, before anything is known.
 */
export const KIND_ODDS: Record<NodeKind, number> = {
  contact: 0.02,
  switch: 0.02,
  sensor: 0.03,
  mechanism: 0.015,
  flex: 0.012,
  connector: 0.015,
  joint: 0.01,
  trace: 0.005,
  chip: 0.004,
  supply: 0.006,
  cell: 0.02,
  lead: 0.015,
  antenna: 0.012,
  motor: 0.012,
  transducer: 0.015,
  light: 0.008,
  port: 0.02,
  board: 0.003,
  cap: 0.008,
  post: 0.006,
  spring: 0.01,
  gear: 0.012,
  rocker: 0.006,
  frame: 0.005,
  shell: 0.006,
  latch: 0.02,
  magnet: 0.008,
  track: 0.03,
  dome: 0.02,
  membrane: 0.02,
  fuse: 0.006,
  "cell-contact": 0.015,
  plug: 0.012,
  socket: 0.015,
};

/** Chance that a faulty part makes what depends on it fail visibly: the rest works in spite of it. */
export const COVERAGE: Record<NodeKind, number> = {
  contact: 0.95,
  switch: 0.95,
  sensor: 0.95,
  mechanism: 0.93,
  flex: 0.9,
  connector: 0.92,
  joint: 0.94,
  trace: 0.94,
  chip: 0.9,
  supply: 0.95,
  cell: 0.95,
  lead: 0.95,
  antenna: 0.93,
  motor: 0.95,
  transducer: 0.95,
  light: 0.97,
  port: 0.95,
  board: 0.9,
  cap: 0.9,
  post: 0.95,
  spring: 0.93,
  gear: 0.95,
  rocker: 0.93,
  frame: 0.9,
  shell: 0.85,
  latch: 0.95,
  magnet: 0.95,
  track: 0.95,
  dome: 0.95,
  membrane: 0.95,
  fuse: 0.97,
  "cell-contact": 0.93,
  plug: 0.92,
  socket: 0.92,
};

/**
 * Chance that a control or function seems to fail though nothing in the graph is at fault: test noise and
 * causes outside it.
 */
export const LEAK = 0.02;

const even: Partial<Record<Outcome, number>> = { dead: 6, intermittent: 2 };
/** How a fault of each kind shows itself, in proportion; what is not named counts 0.05. */
const SHOWS: Record<NodeKind, Partial<Record<Outcome, number>>> = {
  contact: { misses: 5, "rim-misses": 3, "yields-to-force": 3, dead: 2, stuck: 1, bridged: 1 },
  switch: { misses: 4, dead: 4, stuck: 1, intermittent: 1 },
  sensor: { offset: 4, noise: 3, jumps: 4, "dead-half": 2, dead: 1, "short-reach": 0.5 },
  mechanism: { scatter: 5, "short-reach": 3, offset: 1.5, stuck: 1 },
  flex: { ...even, misses: 1, jumps: 0.5, "dead-half": 0.5 },
  connector: { ...even, intermittent: 4, misses: 1 },
  joint: { "dead-half": 4, jumps: 3, intermittent: 3, dead: 3, noise: 1, offset: 0.5 },
  trace: { ...even, bridged: 1 },
  chip: { ...even },
  supply: { ...even, noise: 1 },
  cell: { dead: 5, intermittent: 4 },
  lead: { ...even, intermittent: 4 },
  antenna: { intermittent: 6, dead: 3 },
  motor: { dead: 5, intermittent: 1 },
  transducer: { dead: 5, intermittent: 1 },
  light: { dead: 6 },
  port: { dead: 5, intermittent: 4 },
  board: { ...even },
  cap: { "short-reach": 4, scatter: 1, stuck: 1 },
  post: { offset: 3, "short-reach": 3, dead: 1, "dead-half": 1 },
  spring: { scatter: 6, offset: 2, stuck: 1, "short-reach": 0.3 },
  gear: { jumps: 4, "short-reach": 3, dead: 2, stuck: 1 },
  rocker: { "short-reach": 3, scatter: 1, stuck: 2, dead: 1 },
  frame: { offset: 4, "short-reach": 2, stuck: 2, scatter: 1 },
  shell: { stuck: 4, misses: 2, "short-reach": 1, "rim-misses": 1 },
  latch: { dead: 5, intermittent: 3 },
  magnet: { offset: 4, "short-reach": 4, dead: 1, noise: 0.5 },
  track: { offset: 3, noise: 3, jumps: 4, "dead-half": 2, dead: 1, "short-reach": 0.5 },
  dome: { misses: 5, "rim-misses": 3, "yields-to-force": 2, dead: 2, stuck: 1, bridged: 1 },
  membrane: { misses: 5, "rim-misses": 3, "yields-to-force": 3, dead: 2, stuck: 1, bridged: 1 },
  fuse: { dead: 6 },
  "cell-contact": { dead: 4, intermittent: 5 },
  plug: { ...even, intermittent: 4 },
  socket: { ...even, intermittent: 4, misses: 1 },
};
const LEAST_SHOW = 0.05;

const PATTERNS = OUTCOMES.filter((o) => o !== "works");
const shares = new Map<NodeKind, Record<Outcome, number>>();
/** P(outcome | a fault of this kind shows), over everything but "works". */
export function showsAs(kind: NodeKind, outcome: Outcome): number {
  let table = shares.get(kind);
  if (!table) {
    const weight = (o: Outcome) => SHOWS[kind][o] ?? LEAST_SHOW;
    const all = PATTERNS.reduce((s, o) => s + weight(o), 0);
    table = Object.fromEntries(PATTERNS.map((o) => [o, weight(o) / all])) as Record<Outcome, number>;
    shares.set(kind, table);
  }
  return table[outcome];
}
export const LEAK_SHOWS = 1 / PATTERNS.length;

/** The axis of a stick at which something showed; both where it was alike at both. */
export type ShownAxis = "x" | "y" | "both";

/** How a part of one axis shows at the axes, and a part of none; house guesses. */
const OWN_AXIS = { own: 0.9, other: 0.04, both: 0.06 };
const BOTH: Partial<Record<NodeKind, number>> = {
  post: 0.2,
  frame: 0.2,
  magnet: 0.2,
  track: 0.2,
  sensor: 0.2,
  spring: 0.4,
  cap: 0.4,
  mechanism: 0.4,
  gear: 0.4,
  rocker: 0.4,
};
const BOTH_ELSE = 0.8;
/** P(the axis at which it showed | a fault of this kind of part, of that axis or none). */
export function axisShare(kind: NodeKind, own: "x" | "y" | null, shown: ShownAxis): number {
  if (own !== null) {
    if (shown === "both") return OWN_AXIS.both;
    return shown === own ? OWN_AXIS.own : OWN_AXIS.other;
  }
  const both = BOTH[kind] ?? BOTH_ELSE;
  return shown === "both" ? both : (1 - both) / 2;
}

/** P(it stands still where it rests, with little noise and scatter | a fault of this kind that rests off centre). */
const STEADY: Partial<Record<NodeKind, number>> = {
  track: 0.45,
  sensor: 0.75,
  magnet: 0.85,
  post: 0.92,
  frame: 0.92,
  mechanism: 0.6,
  spring: 0.3,
  joint: 0.3,
};
const STEADY_ELSE = 0.5;
export function steadyShare(kind: NodeKind, steady: boolean | undefined): number {
  if (steady === undefined) return 1;
  const p = STEADY[kind] ?? STEADY_ELSE;
  return steady ? p : 1 - p;
}

/**
 * What the plain model leaves out, as house guesses: how much of all causes lies outside the graph, and how surely
 * such a one shows; how often a fault hides from looks, and what they then still tell; the odds that one certain
 * connection is missing in the wiring; and by how much more often than by chance several parts are at fault (as
 * logarithms, for two and for three).
 */
export const OUTSIDE_SHARE = 0.08;
export const OUTSIDE_COVERAGE = 0.9;
export const HIDDEN = 0.12;
export const HIDDEN_TELLS = 0.15;
export const EDGE_MISSING = 0.004;
export const MORE_FAULTS: readonly [number, number] = [Math.log(1.2), Math.log(4)];

/**
 * How often parts of a kind were found at fault in this shop's closed cases, of how many that were there: on this
 * model, and on each other one.
 */
export type PartTally = { faults: number; parts: number };
export type ShowTally = { shown: number; hidden: number };
export type ShopRecord = Partial<
  Record<
    NodeKind,
    {
      own: PartTally;
      others: readonly PartTally[];
      /** of what rests on parts that were found at fault: how much of it failed, and how much worked in spite of it */
      showed?: { own: ShowTally; others: readonly ShowTally[] };
    }
  >
>;

/** The house guess weighs as much as this many parts that were seen. */
const PRIOR_PARTS = 40;
const found = (t: PartTally): Tally => ({ yes: t.faults, no: Math.max(0, t.parts - t.faults) });
const sumOf = (all: readonly Tally[]): Tally =>
  all.reduce((s, t) => ({ yes: s.yes + t.yes, no: s.no + t.no }), { yes: 0, no: 0 });

/**
 * Odds of one part of a kind: the house guess, what other models showed (worth so many of this one's as the models'
 * own agreement makes them), and this model's own record in full.
 */
export function oddsOf(kind: NodeKind, record: ShopRecord): number {
  const seen = record[kind];
  if (!seen) return KIND_ODDS[kind];
  const others = seen.others.map(found);
  const own = found(seen.own);
  const stated = { mean: KIND_ODDS[kind], cases: PRIOR_PARTS };
  return chanceOf(stated, own, sumOf(others), pooledCases([own, ...others])).mean;
}

/** The stated coverage weighs as much as this many controls that were tested over a faulty part. */
const COVER_CASES = 20;
const showed = (t: ShowTally): Tally => ({ yes: t.shown, no: t.hidden });
/** How surely a fault of a kind shows: stated, and moved by what this model and others showed. */
export function coverageOf(kind: NodeKind, record: ShopRecord): number {
  const seen = record[kind]?.showed;
  if (!seen) return COVERAGE[kind];
  const others = seen.others.map(showed);
  return chanceOf(
    { mean: COVERAGE[kind], cases: COVER_CASES },
    showed(seen.own),
    sumOf(others),
    pooledCases([showed(seen.own), ...others]),
  ).mean;
}
