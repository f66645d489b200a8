import type { ReadingKind } from "../bench/readings";
import { type BenchResult, isTooClose } from "../bench/result";
import type { NodeKind } from "../profile/wiring";
import type { Evidence } from "./belief";
import type { Graph } from "./graph";

/**
 * What a reading at the bench says of the parts behind it. Readings that answer a function (a watched link, a
 * motor, a tone, a latch) speak through that answer; these speak by themselves.
 */

type Chances = { ifFaulty: number; ifSound: number };
/** `measures`: what it is a reading of; `also`: what may be behind what it shows. */
type Bearing = {
  measures: readonly [NodeKind, ...NodeKind[]];
  also: readonly NodeKind[];
  fail: Chances;
  pass: Chances;
};

/** House guesses. A pass clears what it measured, a fail accuses it. */
export const READINGS_BEAR: Partial<Record<ReadingKind, Bearing>> = {
  supply: {
    measures: ["cell"],
    also: ["cell-contact", "plug"],
    fail: { ifFaulty: 0.7, ifSound: 0.04 },
    pass: { ifFaulty: 0.08, ifSound: 0.96 },
  },
  "charge-log": {
    measures: ["cell"],
    also: ["port"],
    fail: { ifFaulty: 0.8, ifSound: 0.02 },
    pass: { ifFaulty: 0.12, ifSound: 0.95 },
  },
  "discharge-log": {
    measures: ["cell"],
    also: [],
    fail: { ifFaulty: 0.85, ifSound: 0.03 },
    pass: { ifFaulty: 0.1, ifSound: 0.95 },
  },
  "contact-sensor": {
    measures: ["track"],
    also: ["sensor", "joint"],
    fail: { ifFaulty: 0.8, ifSound: 0.03 },
    pass: { ifFaulty: 0.2, ifSound: 0.95 },
  },
  feel: {
    measures: ["mechanism", "spring", "rocker"],
    also: ["gear", "post"],
    fail: { ifFaulty: 0.7, ifSound: 0.05 },
    pass: { ifFaulty: 0.3, ifSound: 0.93 },
  },
  "trigger-drag": {
    measures: ["rocker", "gear", "mechanism"],
    also: ["spring"],
    fail: { ifFaulty: 0.6, ifSound: 0.05 },
    pass: { ifFaulty: 0.4, ifSound: 0.93 },
  },
  latch: {
    measures: ["latch"],
    also: ["shell"],
    fail: { ifFaulty: 0.75, ifSound: 0.04 },
    pass: { ifFaulty: 0.2, ifSound: 0.95 },
  },
};
export const kindsOfReading = ({ measures, also }: Bearing): readonly NodeKind[] => [...measures, ...also];
/** Too close to its limit to tell, or unclear otherwise: a hint of a fault. */
const DOUBTFUL: Chances = { ifFaulty: 0.4, ifSound: 0.2 };
const UNCLEAR: readonly string[] = ["leg-open-once", "load-raised-voltage"];

export type ReadVerdict = "pass" | "fail" | "doubtful";
/** Where a reading was taken, and at which axis or half of it, so far as it was at one. */
export type TakenAt = {
  kind: ReadingKind;
  /** the controls it was taken at; none for what is measured of the whole unit */
  places: readonly string[];
  side: string | null;
};
export type ReadFact = TakenAt & { verdict: ReadVerdict };

type Thing = { id: string; kind: string };

/** From a reading's subject (`stick.left`, `stick.left.x`, `triggers`, `main`, a half) to where it was taken. */
export function takenAt(r: { kind: ReadingKind; subject: string }, controls: readonly Thing[]): TakenAt {
  const { kind, subject } = r;
  if (kind === "trigger-drag")
    return { kind, places: controls.filter((c) => c.kind === "trigger").map((c) => c.id), side: null };
  const [, control, axis] = /^(.+?)(?:\.([xy]))?$/.exec(subject)!;
  if (controls.some((c) => c.id === control)) return { kind, places: [control!], side: axis ?? null };
  return { kind, places: [], side: subject === "main" ? null : subject };
}

/**
 * The parts that a reading is about: of the kinds that it bears on, at its axis or half where some are of one.
 * A supply without cells is what the supply needs. None where the wiring has none.
 */
export function partsOfReading(graph: Graph, r: TakenAt): number[] {
  const bears = READINGS_BEAR[r.kind];
  if (!bears) return [];
  const there = r.places.length
    ? new Set(r.places.flatMap((p) => graph.restsOn.get(p) ?? []))
    : new Set(graph.kinds.keys());
  const of = (kinds: readonly NodeKind[]) => [...there].filter((i) => kinds.includes(graph.kinds[i]!));
  const own = of(kindsOfReading(bears));
  const all =
    of(bears.measures).length > 0 || r.kind !== "supply"
      ? own
      : [...new Set(of(["supply"]).flatMap((i) => graph.upstream[i]!))];
  const aside = all.filter(
    (i) => r.side !== null && (graph.nodes[i]!.axis === r.side || graph.nodes[i]!.id.endsWith(`.${r.side}`)),
  );
  return (aside.length > 0 ? aside : all).sort((a, b) => a - b);
}

/** The parts that it measures: a new one of these is another reading. */
export const measuredParts = (graph: Graph, r: TakenAt): number[] =>
  partsOfReading(graph, r).filter((i) => READINGS_BEAR[r.kind]!.measures.includes(graph.kinds[i]!));

/** What it tells of them; null where it bears on nothing here. */
export function readingEvidence(graph: Graph, r: ReadFact): Evidence | null {
  const bears = READINGS_BEAR[r.kind];
  const about = partsOfReading(graph, r);
  if (!bears || about.length === 0) return null;
  const chances = r.verdict === "doubtful" ? DOUBTFUL : bears[r.verdict];
  return { kind: "check", about, ...chances };
}

/**
 * What a reading tells: doubtful when it lay too close to a limit or was unclear; null when it was not brought
 * to its end, which tells nothing.
 */
export function readVerdict({ verdict, figures, findings }: BenchResult): ReadVerdict | null {
  if (verdict !== "not-tested") return verdict;
  return figures.some(isTooClose) || findings.some((f) => UNCLEAR.includes(f.code)) ? "doubtful" : null;
}

/**
 * Of each kind and subject the newest reading that tells something: one that was broken off takes nothing back
 * of what was read before it.
 * @param readings newest first
 */
export function latestTelling<R extends { kind: ReadingKind; subject: string; result: BenchResult }>(
  readings: readonly R[],
): (R & { told: ReadVerdict })[] {
  const latest = new Map<string, R & { told: ReadVerdict }>();
  for (const r of readings) {
    const told = readVerdict(r.result);
    const key = `${r.kind} ${r.subject}`;
    if (told !== null && !latest.has(key)) latest.set(key, { ...r, told });
  }
  return [...latest.values()];
}

const ANSWERS: Partial<Record<ReadingKind, readonly string[]>> = {
  "charge-log": ["charging", "power-on", "port"],
  supply: ["power-on", "charging"],
  "discharge-log": ["power-on", "charging"],
};

/** The control or function at which a fault found by a reading is named; null where the model has none for it. */
export function placeOfReading(
  r: { kind: ReadingKind; subject: string },
  profile: { controls: readonly Thing[]; functions: readonly Thing[] },
): string | null {
  const [control] = takenAt(r, profile.controls).places;
  if (control) return control;
  if (profile.functions.some((f) => f.id === r.subject)) return r.subject;
  for (const kind of ANSWERS[r.kind] ?? []) {
    const at = profile.functions.find((f) => f.kind === kind);
    if (at) return at.id;
  }
  return null;
}
