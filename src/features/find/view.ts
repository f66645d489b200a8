import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { answeredChecks } from "@/core/case/answered";
import { withCredit } from "@/core/case/credit";
import type { Fact } from "@/core/case/facts";
import { beliefOf, evidenceOfCase, movedBy, type SeenInCase, seenInCase } from "@/core/case/evidence";
import { type CaseOf, type Ended, type Standing, standingOf, takenOf } from "@/core/case/standing-facts";
import { type Complaint, readClaim } from "@/core/claim/lexicon";
import { type Advice, USUAL_ADVICE, advise } from "@/core/diagnosis/advise";
import type { Belief } from "@/core/diagnosis/belief";
import {
  bestExplanation,
  type Explanation,
  explanations,
  rankCauses,
  somethingElse,
  weightOfEvidence,
} from "@/core/diagnosis/explain";
import type { Piece } from "@/core/diagnosis/evidence";
import type { Graph } from "@/core/diagnosis/graph";
import {
  type Difference,
  type Halving,
  type HalvingStep,
  type StatePair,
  halvingNext,
} from "@/core/diagnosis/halving";
import { pointIsOff } from "@/core/diagnosis/places";
import { partsOfReading, type ReadFact } from "@/core/diagnosis/readings";
import type { Similar } from "@/core/diagnosis/similar";
import { type Cure, cureOf, secondTestDue, untestedChanges } from "@/core/diagnosis/tries";
import { caseOf, readCase, type Trail } from "@/features/case/file";
import { factWords } from "@/features/find/words/facts";
import { say } from "@/features/find/words/words";
import { basisWords } from "@/features/find/words/text";
import type { UnitView } from "@/features/units/view";
import { shopRecord } from "@/features/case/causes";
import { type Seen, healthyPoints } from "./seen";
import { similarTo } from "./similar";

export type Cause = {
  node: string;
  name: string;
  kind: string;
  probability: number;
  because: { what: string; weight: number }[];
};

/** What ended it, so that it counts no more. */
export type Over = { how: Ended["how"]; at: string } | null;

export type ObservationView = {
  id: string;
  kind: "function" | "check" | "place" | "point";
  target: string;
  outcome: string;
  value: number | null;
  note: string;
  by: string;
  at: string;
  /** what was done at it since: it was seen of what is not there any more */
  ended: Over;
};

export type TryView = {
  id: string;
  number: number;
  suspect: string;
  action: string;
  expects: string;
  what: string;
  outcome: "cured" | "better" | "same" | "worse" | null;
  undone: "came-back" | "stayed-away" | null;
  version: number;
  by: string;
  at: string;
  cure: Cure;
  /** of a cure, how much of it this try has earned; null where it is alone */
  share: number | null;
  secondTestDue: string | null;
};

export type FragmentView = {
  id: string;
  number: number;
  foundAt: string;
  what: string;
  matchedTo: string | null;
  explained: string;
  version: number;
  by: string;
};

export type HalvingView = {
  id: string;
  pair: StatePair;
  items: Difference[];
  steps: HalvingStep[];
  now: Halving;
  closed: boolean;
  version: number;
};

export type PointView = {
  id: string;
  value: number | null;
  healthy: number[];
  middle: number | null;
  off: boolean | null;
};

export type FindView = {
  complaints: Complaint[];
  seen: Seen[];
  causes: Cause[];
  best: Explanation;
  /** whole explanations, the likeliest first; they add up to 1 with all others */
  explanations: Explanation[];
  /** how likely it is that something which is no part of the wiring is in it */
  somethingElse: number;
  advice: Advice;
  observations: ObservationView[];
  /** what was read at the bench and says something of a part */
  readings: ReadView[];
  tries: TryView[];
  untested: number;
  fragments: FragmentView[];
  halvings: HalvingView[];
  points: PointView[];
  similar: Similar[];
  shopCases: number;
  /** open faults that one part explains, and the fault under which they would go */
  oneCause: {
    part: string;
    under: { id: string; number: number };
    faults: { id: string; number: number; version: number }[];
  } | null;
  /** the fact that came last, and the part that it moves most */
  newest: { words: string; moved: { part: string; without: number; with: number } | null } | null;
};

/** A reading at the bench, of one control where it was taken at one. */
export type ReadView = ReadFact & { id: string; subject: string; at: string; ended: Over; of: string };

const SHOWN_CAUSES = 8;
const SHOWN_EXPLANATIONS = 4;

/** Each point of the board as it was read last, beside healthy units and the profile. */
function asPoint(
  p: NonNullable<UnitView["profile"]["wiring"]>["points"][number],
  { observations }: Trail,
  healthy: ReadonlyMap<string, number[]>,
): PointView {
  const value = observations.filter((o) => o.kind === "point" && o.target === p.id).at(-1)?.value ?? null;
  const others = healthy.get(p.id) ?? [];
  const judged = pointIsOff(value ?? NaN, p.expects, others);
  return { id: p.id, value, healthy: others, middle: judged.middle, off: value === null ? null : judged.off };
}

const asObservation = (
  o: Trail["observations"][number],
  ended: ObservationView["ended"],
): ObservationView => ({
  id: o.id,
  kind: o.kind,
  target: o.target,
  outcome: o.outcome,
  value: o.value,
  note: o.note,
  by: o.person,
  at: o.at.toISOString(),
  ended,
});

const asTry = (
  t: Trail["attempts"][number],
  retests: Parameters<typeof cureOf>[1],
  share: number | null,
): TryView => ({
  id: t.id,
  number: t.number,
  suspect: t.suspect,
  action: t.action,
  expects: t.expects,
  what: t.what,
  outcome: t.outcome,
  undone: t.undone,
  version: t.version,
  by: t.person,
  at: t.at.toISOString(),
  cure: cureOf(t, retests),
  share,
  secondTestDue: secondTestDue(t, retests)?.toISOString() ?? null,
});

const asFragment = (f: Trail["fragments"][number]): FragmentView => ({
  id: f.id,
  number: f.number,
  foundAt: f.found_at,
  what: f.what,
  matchedTo: f.matched_to,
  explained: f.explained,
  version: f.version,
  by: f.person,
});

const asHalving = ({ id, pair, items, steps, closed, version }: Trail["halvings"][number]): HalvingView => {
  const ids = items.map((x) => x.id);
  return { id, pair, items, steps, now: halvingNext(ids, steps), closed, version };
};

/**
 * Everything that the Find station shows about causes, worked out from the facts of the unit. Null when the model has
 * no wiring or nothing was seen yet.
 * @param wanted checks that are to be among the proposals, whatever they tell a minute
 */
export async function findView(
  db: Knex,
  view: UnitView,
  wanted: readonly string[] = [],
): Promise<FindView | null> {
  const { unit, profile } = view;
  const of = await caseOf(db, profile, unit.revision);
  if (!profile.wiring) return null;
  const { graph, library } = of;
  const [{ facts, trail: whole }, record, similar] = await Promise.all([
    readCase(db, { ...unit, receivedAt: new Date(unit.receivedAt) }, profile, of),
    shopRecord(db, of.model),
    similarTo(db, view),
  ]);
  const standing = standingOf(withCredit(facts, of, record), of);
  const seen = namedSeen(seenInCase(standing, of), of);
  const evidence = evidenceOfCase(standing, of);
  const b = beliefOf(evidence, of, record);
  const endOf = (id: string): Over => {
    const ended = standing.find((s) => s.fact.id === id)?.ended;
    return ended ? { how: ended.how, at: ended.at } : null;
  };
  const aged = whole.observations.map((o) => ({ o, ended: endOf(`observation ${o.id}`) }));
  // what was done at a part ended what was seen of the old one: it stays on the page, and counts for nothing
  const trail = { ...whole, observations: aged.filter((x) => x.ended === null).map((x) => x.o) };
  const { attempts, fragments, halvings } = trail;
  const nameOf = (id: string) =>
    graph.nodes[graph.index.get(id) ?? -1]?.name ?? of.things.find((x) => x.id === id)?.name ?? id;
  const readings = readingsIn(standing, of, nameOf);
  const wasOpened = view.mends.some((m) => m.opened) || whole.observations.some((o) => o.kind !== "function");
  const hasSigns =
    seen.some((s) => s.outcome !== "works") ||
    trail.observations.some((o) => o.kind !== "function") ||
    readings.some((r) => r.ended === null && r.verdict !== "pass") ||
    // words are a sign only as long as nothing was seen there
    evidence.some(
      ({ basis }) =>
        (basis.code === "told" || basis.code === "named") && seen.every((s) => s.id !== basis.id),
    );
  const retests = await retestsOf(db, unit.id);
  const healthy = await healthyPoints(db, profile.id, unit.revision, unit.id);
  return {
    complaints: readClaim(unit.claim, of.things, of.lexicon),
    seen,
    causes: hasSigns ? causesOf(b, graph, evidence, nameOf) : [],
    best: bestExplanation(b),
    explanations: hasSigns ? explanations(b, SHOWN_EXPLANATIONS) : [],
    somethingElse: somethingElse(b),
    advice: advise(b, library, {
      ...USUAL_ADVICE,
      isOpen: wasOpened,
      done: answeredChecks(standing, of),
      also: wanted,
    }),
    observations: aged.map((x) => asObservation(x.o, x.ended)),
    readings,
    tries: attempts.map((t) => asTry(t, retests, shareIn(standing, t.number))),
    untested: untestedChanges(attempts).length,
    fragments: fragments.map(asFragment),
    halvings: halvings.map(asHalving),
    points: profile.wiring.points.map((p) => asPoint(p, trail, healthy)),
    similar,
    shopCases: Object.values(record).reduce(
      (n, r) => n + [r.own, ...r.others].reduce((m, t) => m + t.faults, 0),
      0,
    ),
    newest: newestIn(standing, of, record, nameOf),
    oneCause: oneCauseOf(b, view),
  };
}

const namedSeen = (seen: readonly SeenInCase[], of: CaseOf): Seen[] =>
  seen.map(({ id, outcome, from }) => ({
    id,
    outcome,
    from,
    name: of.things.find((t) => t.id === id)?.name ?? id,
  }));

/** What the bench read of parts here; an older reading of the same is no line of its own. */
const readingsIn = (standing: readonly Standing[], of: CaseOf, nameOf: (id: string) => string): ReadView[] =>
  standing.flatMap(({ fact, ended }): ReadView[] => {
    if (fact.kind !== "reading" || ended?.how === "answered-again") return [];
    const taken = takenOf(fact, of);
    if (!taken || partsOfReading(of.graph, taken).length === 0) return [];
    const name = taken.places.length === 1 ? nameOf(taken.places[0]!) : "";
    return [{ ...taken, id: fact.id, subject: fact.place, at: fact.at, ended, of: name }];
  });

const LEAST_SHARED = 0.5;
/** The likeliest part, where it is likely and lies behind several open faults: they are most likely one. */
function oneCauseOf(b: Belief, view: UnitView): FindView["oneCause"] {
  const [likeliest] = rankCauses(b);
  const part = b.graph.index.get(likeliest?.node ?? "");
  if (!likeliest || likeliest.probability < LEAST_SHARED || part === undefined) return null;
  const [first, ...others] = view.faults.filter(
    (f) => f.status === "open" && b.graph.restsOn.get(f.place)?.includes(part),
  );
  if (!first || others.length === 0) return null;
  return {
    part: b.graph.nodes[part]!.name,
    under: { id: first.id, number: first.number },
    faults: others.map(({ id, number, version }) => ({ id, number, version })),
  };
}

const recordingOf = (f: Fact): string | null =>
  f.kind === "measure" || f.kind === "works" ? f.recording : null;

/** What came last and counts, and what it changed: a new fact is never taken in silence. */
function newestIn(
  standing: readonly Standing[],
  of: CaseOf,
  record: Parameters<typeof movedBy>[3],
  nameOf: (id: string) => string,
): FindView["newest"] {
  const counts = standing.flatMap(({ fact, ended }) =>
    ended !== null || (fact.kind === "measure" && fact.grade === "untested") ? [] : [fact],
  );
  const last = counts.at(-1);
  if (!last) return null;
  // a recording is one piece of news: its worst failure speaks for it
  const group = counts.filter(
    (f) => f.id === last.id || (recordingOf(f) !== null && recordingOf(f) === recordingOf(last)),
  );
  const said = group.find((f) => f.kind === "measure" && f.grade === "fail") ?? last;
  const moved = movedBy(standing, [{ id: last.id, facts: group.map((f) => f.id) }], of, record).get(last.id);
  return {
    words:
      said.kind === "works"
        ? say("oneTestFoundGood", { controls: group.filter((f) => f.kind === "works").length })
        : factWords(said, nameOf, new Set(of.things.map((t) => t.id))),
    moved: moved ? { part: nameOf(moved.node), without: moved.without, with: moved.with } : null,
  };
}

const shareIn = (standing: readonly Standing[], number: number): number | null => {
  const fact = standing.find((s) => s.fact.id === `try ${number}`)?.fact;
  return fact?.kind === "tried" ? fact.share : null;
};

const SHOWN_REASONS = 4;

function causesOf(
  b: Belief,
  graph: Graph,
  pieces: readonly Piece[],
  nameOf: (id: string) => string,
): Cause[] {
  const causes = rankCauses(b)
    .slice(0, SHOWN_CAUSES)
    .filter((c, i) => c.probability > 0.01 || i < 3);
  const weights = weightOfEvidence(
    b,
    pieces.map((p) => p.evidence),
    causes.map((c) => graph.index.get(c.node)!),
  );
  return causes.map((c, i) => {
    const node = graph.nodes[graph.index.get(c.node)!]!;
    const because = pieces
      .map((p, k) => ({ what: basisWords(p.basis, nameOf), weight: weights[i]![k]! }))
      .filter((r) => Math.abs(r.weight) > 0.2)
      .sort((x, y) => Math.abs(y.weight) - Math.abs(x.weight))
      .slice(0, SHOWN_REASONS);
    return { node: c.node, name: node.name, kind: node.kind, probability: c.probability, because };
  });
}

async function retestsOf(db: Knex, unitId: Id<"unit">): Promise<{ at: Date; works: boolean }[]> {
  const rows = await db("recording")
    .where({ unit_id: unitId })
    .whereNot("purpose", "quick")
    .orderBy("started_at")
    .select("started_at", "grade");
  return rows.map((r) => ({ at: r.started_at, works: r.grade !== "fail" }));
}
