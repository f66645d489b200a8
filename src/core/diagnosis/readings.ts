import type { ReadingKind } from "../bench/readings";
import type { NodeKind } from "../profile/wiring";
import type { Evidence } from "./belief";
import type { Graph } from "./graph";

/**
 * What a reading at the bench says of the parts behind it. Readings that answer a function (a watched link, a
 * motor, a tone, a latch) speak through that answer; these speak by themselves.
 */

type Chances = { ifFaulty: number; ifSound: number };
/** `kinds`: the first is what it measures; the others may be behind what it shows. */
type Bearing = { kinds: readonly [NodeKind, ...NodeKind[]]; fail: Chances; pass: Chances };

/** House guesses. A pass clears what it measured, a fail accuses it. */
export const READINGS_BEAR: Partial<Record<ReadingKind, Bearing>> = {
  supply: {
    kinds: ["cell"],
    fail: { ifFaulty: 0.7, ifSound: 0.04 },
    pass: { ifFaulty: 0.3, ifSound: 0.96 },
  },
  "charge-log": {
    kinds: ["cell", "port"],
    fail: { ifFaulty: 0.75, ifSound: 0.03 },
    pass: { ifFaulty: 0.12, ifSound: 0.95 },
  },
  "discharge-log": {
    kinds: ["cell"],
    fail: { ifFaulty: 0.85, ifSound: 0.03 },
    pass: { ifFaulty: 0.1, ifSound: 0.95 },
  },
  "contact-sensor": {
    kinds: ["sensor", "joint"],
    fail: { ifFaulty: 0.8, ifSound: 0.03 },
    pass: { ifFaulty: 0.2, ifSound: 0.95 },
  },
  feel: {
    kinds: ["mechanism"],
    fail: { ifFaulty: 0.7, ifSound: 0.05 },
    pass: { ifFaulty: 0.3, ifSound: 0.93 },
  },
  "trigger-drag": {
    kinds: ["mechanism"],
    fail: { ifFaulty: 0.6, ifSound: 0.05 },
    pass: { ifFaulty: 0.4, ifSound: 0.93 },
  },
};
/** Too close to its limit to tell, or unclear otherwise: a hint of a fault. */
const DOUBTFUL: Chances = { ifFaulty: 0.4, ifSound: 0.2 };

export type ReadVerdict = "pass" | "fail" | "doubtful";
export type ReadFact = {
  kind: ReadingKind;
  /** the controls it was taken at; none for what is measured of the whole unit */
  places: readonly string[];
  verdict: ReadVerdict;
};

/** The parts that a reading is about; none where the wiring has none of their kind. */
export function partsOfReading(graph: Graph, r: Pick<ReadFact, "kind" | "places">): number[] {
  const bears = READINGS_BEAR[r.kind];
  if (!bears) return [];
  const all = r.places.length
    ? [...new Set(r.places.flatMap((p) => graph.restsOn.get(p) ?? []))]
    : graph.kinds.map((_, i) => i);
  return all.filter((i) => bears.kinds.includes(graph.kinds[i]!)).sort((a, b) => a - b);
}

/** The parts that it measures: a new one of these is another reading. */
export const measuredParts = (graph: Graph, r: Pick<ReadFact, "kind" | "places">): number[] =>
  partsOfReading(graph, r).filter((i) => graph.kinds[i] === READINGS_BEAR[r.kind]!.kinds[0]);

/** What it tells of them; null where it bears on nothing here. */
export function readingEvidence(graph: Graph, r: ReadFact): Evidence | null {
  const bears = READINGS_BEAR[r.kind];
  const about = partsOfReading(graph, r);
  if (!bears || about.length === 0) return null;
  const chances = r.verdict === "doubtful" ? DOUBTFUL : bears[r.verdict];
  return { kind: "check", about, ...chances };
}

/** A stored verdict, where not tested but with figures means that it lay too close to tell. */
export const readVerdict = (
  stored: "pass" | "fail" | "not-tested",
  hasFigures: boolean,
): ReadVerdict | null => {
  if (stored !== "not-tested") return stored;
  return hasFigures ? "doubtful" : null;
};

type Taken = { kind: ReadingKind; subject: string };
const ANSWERS: Partial<Record<ReadingKind, readonly string[]>> = {
  "charge-log": ["charging", "power-on", "port"],
  supply: ["power-on", "charging"],
  "discharge-log": ["power-on", "charging"],
};

/** The control or function at which a fault found by a reading is named; null where the model has none for it. */
export function placeOfReading(
  r: Taken,
  profile: {
    controls: readonly { id: string; kind: string }[];
    functions: readonly { id: string; kind: string }[];
  },
): string | null {
  const own = r.subject.replace(/\.[xy]$/, "");
  if (profile.controls.some((c) => c.id === own) || profile.functions.some((f) => f.id === own)) return own;
  if (r.kind === "trigger-drag") return profile.controls.find((c) => c.kind === "trigger")?.id ?? null;
  for (const kind of ANSWERS[r.kind] ?? []) {
    const at = profile.functions.find((f) => f.kind === kind);
    if (at) return at.id;
  }
  return null;
}
