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
  mechanism: { scatter: 6, "short-reach": 3, offset: 1, stuck: 1 },
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

/** How often each kind of part was found at fault in this shop's closed cases, of how many looked at. */
export type ShopRecord = Partial<Record<NodeKind, { faults: number; cases: number }>>;

const PRIOR_CASES = 40; // the house guess weighs as much as this many of the shop's own cases

/** Odds of a kind: the house guess and the shop's record as one Beta posterior mean. */
export const oddsOf = (kind: NodeKind, record: ShopRecord): number => {
  const own = record[kind] ?? { faults: 0, cases: 0 };
  return (KIND_ODDS[kind] * PRIOR_CASES + own.faults) / (PRIOR_CASES + own.cases);
};
