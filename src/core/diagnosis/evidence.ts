import type { Evidence } from "./belief";
import { type Check, evidenceOf } from "./checks";
import type { Graph } from "./graph";
import { halvingNext, type HalvingStep } from "./halving";
import {
  fragmentEvidence,
  PLACE_FINDINGS,
  placeEvidence,
  type PlaceFinding,
  treatmentEvidence,
} from "./places";
import type { Outcome } from "./priors";
import { readingEvidence, type ReadFact } from "./readings";
import type { Try } from "./tries";

/** From what was seen and done at a unit to evidence about its parts, each piece with what it rests on. */

/** `facts`: those of the case that it rests on, where it comes from one */
type Sourced = { facts?: readonly string[] };
/** `trust`: 0 to 1, where it is words and nothing that was measured */
export type SeenThing = Sourced & {
  id: string;
  outcome: Outcome;
  trust?: number;
  /** the axis of a stick at which it showed, and whether it stood still there */
  axis?: "x" | "y";
  steady?: boolean;
};
/** What somebody looked at: a check of the library, a place, or a reading at a test point. */
export type Observed = Sourced & {
  kind: "function" | "check" | "place" | "point";
  target: string;
  outcome: string;
};
export type Loose = Sourced & { number: number; matchedTo: string | null };
export type Search = Sourced & {
  items: readonly { id: string; node: string | null }[];
  steps: readonly HalvingStep[];
};
/** `share`: of a cure, how much of it the treatment has earned; all of it when left out. */
export type Treated = Sourced &
  Pick<Try, "number" | "suspect" | "outcome" | "undone"> & { share?: number | null };

/** What a piece of evidence rests on, for whoever says it in words. */
export type Basis =
  | { code: "seen"; id: string; outcome: Outcome; axis?: "x" | "y"; steady?: boolean }
  | { code: "stayed-away" }
  | { code: "check"; check: Check["kind"]; target: string; outcome: string }
  | { code: "place"; target: string; outcome: PlaceFinding }
  | { code: "reading"; point: string; outcome: "off" | "right" }
  | { code: "try"; number: number; suspect: string; outcome: NonNullable<Try["outcome"]> }
  | { code: "bench"; reading: ReadFact["kind"]; places: readonly string[]; verdict: ReadFact["verdict"] }
  | { code: "loose-piece"; number: number }
  | { code: "halved" }
  | { code: "told"; id: string; outcome: Outcome; words: string }
  | { code: "named"; id: string; words: string }
  | { code: "mate"; id: string; tag: string }
  | { code: "wet"; place: string }
  | { code: "fitted"; words: string }
  | { code: "history"; what: string }
  | { code: "intake"; sign: string };
export type Piece = { basis: Basis; evidence: Evidence; facts?: readonly string[] };

/**
 * A fault that comes and goes often stays away for a whole test; a sound part nearly always lets it pass.
 * House guesses.
 */
const STAYED_AWAY = { ifFaulty: 0.6, ifSound: 0.95 };
/** A search by halves that ended at a part seldom ends at a sound one. House guesses. */
const HALVED = { ifFaulty: 0.9, ifSound: 0.05 };

const isFinding = (outcome: string): outcome is PlaceFinding => Object.hasOwn(PLACE_FINDINGS, outcome);

export function evidenceFrom(
  graph: Graph,
  library: readonly Check[],
  from: {
    seen: readonly SeenThing[];
    observations: readonly Observed[];
    tries: readonly Treated[];
    loose: readonly Loose[];
    searches: readonly Search[];
    readings?: readonly (ReadFact & Sourced)[];
    /** functions that tell of the power itself */
    power?: readonly string[];
  },
): Piece[] {
  return [
    ...fromSeen(graph, from.seen, from.power ?? []),
    ...from.observations.flatMap((o) => sourced(o, fromObserved(graph, library, o))),
    ...from.tries.flatMap((t) => sourced(t, fromTry(graph, t))),
    ...from.loose.flatMap((l): Piece[] => {
      const part = l.matchedTo === null ? undefined : graph.index.get(l.matchedTo);
      if (part === undefined) return [];
      return sourced(l, [
        { basis: { code: "loose-piece", number: l.number }, evidence: fragmentEvidence(part) },
      ]);
    }),
    ...from.searches.flatMap((s) => sourced(s, fromSearch(graph, s))),
    ...(from.readings ?? []).flatMap((r): Piece[] => {
      const evidence = readingEvidence(graph, r);
      const { kind, places, verdict } = r;
      return evidence
        ? sourced(r, [{ basis: { code: "bench", reading: kind, places, verdict }, evidence }])
        : [];
    }),
  ];
}

const sourced = ({ facts }: Sourced, pieces: readonly Piece[]): Piece[] =>
  pieces.map((p) => (facts ? { ...p, facts } : p));

function fromTry(graph: Graph, { number, suspect, outcome, undone, share }: Treated): Piece[] {
  const part = graph.index.get(suspect);
  if (part === undefined || outcome === null || undone === "stayed-away") return [];
  const evidence = treatmentEvidence(part, outcome, share ?? 1);
  return [{ basis: { code: "try", number, suspect, outcome }, evidence }];
}

/**
 * Whether the cells say nothing of what was seen: a tired one still carries what is tried for a minute, and while
 * anything works the unit has its power, so that what is dead has another cause.
 */
function isPowered(graph: Graph, seen: readonly SeenThing[], power: readonly string[]) {
  const cells = graph.kinds.flatMap((k, i) => (k === "cell" ? [i] : []));
  const restsOnCells = (id: string) => cells.some((c) => graph.restsOn.get(id)?.includes(c));
  const alive = seen.some((s) => s.outcome === "works" && !power.includes(s.id) && restsOnCells(s.id));
  return ({ id, outcome }: SeenThing): number[] =>
    outcome === "works" || (alive && !power.includes(id)) ? cells : [];
}

function fromSeen(graph: Graph, seen: readonly SeenThing[], power: readonly string[]): Piece[] {
  // while something comes and goes, working says little against the parts that it rests on: the fault may
  // have stayed away
  const fickle = new Set(
    seen.filter((s) => s.outcome === "intermittent").flatMap((s) => graph.restsOn.get(s.id) ?? []),
  );
  const spared = isPowered(graph, seen, power);
  const pieces = seen
    .filter((s) => graph.restsOn.has(s.id))
    .map(({ id, outcome, trust, facts, axis, steady }): Piece => {
      const silent = [...new Set([...(outcome === "works" ? fickle : []), ...spared({ id, outcome })])];
      const evidence: Evidence = {
        kind: "function",
        id,
        outcome,
        ...(silent.length > 0 ? { exempt: silent } : {}),
        ...(trust === undefined ? {} : { trust }),
        ...(axis === undefined ? {} : { axis }),
        ...(steady === undefined ? {} : { steady }),
      };
      const basis: Basis = {
        code: "seen",
        id,
        outcome,
        ...(axis === undefined ? {} : { axis }),
        ...(steady === undefined ? {} : { steady }),
      };
      return { basis, evidence, ...(facts ? { facts } : {}) };
    });
  const about = [...fickle].filter((i) =>
    seen.some((s) => s.outcome === "works" && graph.restsOn.get(s.id)?.includes(i)),
  );
  if (about.length === 0) return pieces;
  return [...pieces, { basis: { code: "stayed-away" }, evidence: { kind: "check", about, ...STAYED_AWAY } }];
}

function fromObserved(graph: Graph, library: readonly Check[], { kind, target, outcome }: Observed): Piece[] {
  if (kind === "check") {
    const check = library.find((c) => c.id === target);
    if (!check) return [];
    const basis: Basis = { code: "check", check: check.kind, target: check.target, outcome };
    return [{ basis, evidence: evidenceOf(check, outcome) }];
  }
  if (kind === "place") {
    const part = graph.index.get(target);
    if (part === undefined || !isFinding(outcome)) return [];
    return [{ basis: { code: "place", target, outcome }, evidence: placeEvidence(part, outcome) }];
  }
  if (kind === "point" && (outcome === "off" || outcome === "right")) {
    const check = library.find((c) => c.target === target && (c.kind === "measure" || c.kind === "compare"));
    if (!check || !graph.showsAt.has(target)) return [];
    return [{ basis: { code: "reading", point: target, outcome }, evidence: evidenceOf(check, outcome) }];
  }
  return [];
}

function fromSearch(graph: Graph, { items, steps }: Search): Piece[] {
  const now = halvingNext(
    items.map((x) => x.id),
    steps,
  );
  const found = now.state === "found" ? items.find((x) => x.id === now.item)?.node : null;
  const part = found ? graph.index.get(found) : undefined;
  if (part === undefined || steps.length === 0) return [];
  return [{ basis: { code: "halved" }, evidence: { kind: "check", about: [part], ...HALVED } }];
}
