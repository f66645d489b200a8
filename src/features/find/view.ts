import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { type Complaint, readClaim } from "@/core/claim/lexicon";
import { type Advice, USUAL_ADVICE, advise } from "@/core/diagnosis/advise";
import {
  type Belief,
  bestExplanation,
  learn,
  rankCauses,
  startBelief,
  weightOfEvidence,
} from "@/core/diagnosis/belief";
import { type Check, checkLibrary } from "@/core/diagnosis/checks";
import { type Piece, evidenceFrom } from "@/core/diagnosis/evidence";
import { type Graph, graphOf } from "@/core/diagnosis/graph";
import {
  type Difference,
  type Halving,
  type HalvingStep,
  type StatePair,
  halvingNext,
} from "@/core/diagnosis/halving";
import { pointIsOff } from "@/core/diagnosis/places";
import { type Act, MEASURED, type Treatment } from "@/core/case/ageing";
import { type Similar, similarCases } from "@/core/diagnosis/similar";
import { type Cure, cureOf, secondTestDue, spentTreatments, untestedChanges } from "@/core/diagnosis/tries";
import { thingsOf } from "@/core/profile/profile";
import { actsAt, ageOf, type ReadView, readsAt } from "@/features/case/aged";
import { basisWords } from "@/features/find/words/text";
import { loadLexicon } from "@/features/settings/lexicon";
import type { UnitView } from "@/features/units/view";
import { computed, rowsOf } from "@/platform/db/joined";
import { type Seen, healthyPoints, seenOf, shopRecord } from "./seen";

export type Cause = {
  node: string;
  name: string;
  kind: string;
  probability: number;
  because: { what: string; weight: number }[];
};

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
  ended: { how: Treatment; at: string } | null;
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
  best: { nodes: string[]; probability: number };
  advice: Advice;
  observations: ObservationView[];
  /** what was read at the bench and says something of a part */
  readings: (ReadView & { of: string })[];
  tries: TryView[];
  untested: number;
  fragments: FragmentView[];
  halvings: HalvingView[];
  points: PointView[];
  similar: Similar[];
  shopCases: number;
};

const SHOWN_CAUSES = 8;

/** What was written down on the way to the cause, with who wrote it. */
async function readTrail(db: Knex, unitId: Id<"unit">) {
  const by = (table: "observation" | "attempt" | "fragment" | "halving") =>
    db(`${table} as t`).join("person as p", "p.id", "t.by").where("t.unit_id", unitId).orderBy("t.at");
  const [observations, attempts, fragments, halvings] = await Promise.all([
    rowsOf(
      by("observation").where({ withdrawn: false }),
      { t: "observation", p: "person" },
      "t.*",
      "p.name as person",
    ),
    rowsOf(by("attempt"), { t: "attempt", p: "person" }, "t.*", "p.name as person"),
    rowsOf(by("fragment"), { t: "fragment", p: "person" }, "t.*", "p.name as person"),
    rowsOf(by("halving"), { t: "halving", p: "person" }, "t.*", "p.name as person"),
  ]);
  return { observations, attempts, fragments, halvings };
}
type Trail = Awaited<ReturnType<typeof readTrail>>;

/** Checks that need not be proposed: answered already, or spent by a try. */
function doneChecks({ observations, attempts }: Trail, seen: readonly Seen[]): Set<string> {
  const answered = observations.flatMap((o) => {
    if (o.kind === "check") return [o.target];
    if (o.kind === "point") return [`measure.${o.target}`, `compare.${o.target}`];
    if (o.kind === "place") return [`look.${o.target}`];
    return [];
  });
  const spent = spentTreatments(
    attempts,
    observations.map((o) => o.at),
  ).flatMap((s) =>
    s.action === "reseat" ? [`reseat.${s.suspect}`] : [`swap-twin.${s.suspect}`, `swap-donor.${s.suspect}`],
  );
  return new Set([...answered, ...seen.map((s) => `test.${s.id}`), ...spent]);
}

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

/** The parts that an observation is about, and what was found there, so that what was done since can end it. */
function ageOfObservation(
  o: Trail["observations"][number],
  graph: Graph,
  library: readonly Check[],
  acts: readonly Act[],
): ObservationView["ended"] {
  if (o.kind === "function") return null; // of the whole path: what it is now a new test says
  if (o.kind === "place") {
    const part = graph.index.get(o.target);
    return part === undefined ? null : ageOf({ at: o.at, parts: [part], finding: o.outcome }, acts);
  }
  const about =
    o.kind === "point" ? graph.showsAt.get(o.target) : library.find((c) => c.id === o.target)?.about;
  return ageOf({ at: o.at, parts: about ?? [], finding: MEASURED }, acts);
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

const asTry = (t: Trail["attempts"][number], retests: Parameters<typeof cureOf>[1]): TryView => ({
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
 * Everything that the Find station shows about causes. Null when the model has no wiring or nothing was seen
 * yet.
 */
export async function findView(db: Knex, view: UnitView): Promise<FindView | null> {
  const { unit, profile } = view;
  if (!profile.wiring) return null;
  const graph = graphOf(profile.wiring, unit.revision);
  const named = thingsOf(profile, unit.revision);
  const [seen, trail, record, { lexicon }, similar] = await Promise.all([
    seenOf(db, unit.id, profile, unit.revision),
    readTrail(db, unit.id),
    shopRecord(db),
    loadLexicon(db),
    similarTo(db, view),
  ]);
  const { attempts, fragments, halvings } = trail;
  const library = checkLibrary(graph, profile.wiring);
  const acts = await actsAt(db, unit.id, profile, graph);
  const readings = await readsAt(db, unit.id, profile, graph, acts);
  const aged = trail.observations.map((o) => ({ o, ended: ageOfObservation(o, graph, library, acts) }));
  // what was done at a part ended what was seen of the old one: it stays on the page, and counts for nothing
  const observations = aged.filter((x) => x.ended === null).map((x) => x.o);
  const b = startBelief(graph, record);
  const evidence = evidenceFrom(graph, library, {
    seen,
    observations,
    tries: attempts,
    loose: fragments.map((x) => ({ number: x.number, matchedTo: x.matched_to })),
    searches: halvings,
    readings: readings.filter((r) => r.ended === null),
    power: powerOf(profile),
  });
  learn(
    b,
    evidence.map((e) => e.evidence),
  );
  const nameOf = (id: string) =>
    graph.nodes[graph.index.get(id) ?? -1]?.name ?? named.find((x) => x.id === id)?.name ?? id;
  const wasOpened = view.mends.some((m) => m.opened) || trail.observations.some((o) => o.kind !== "function");
  const hasSigns =
    seen.some((s) => s.outcome !== "works") ||
    observations.some((o) => o.kind !== "function") ||
    readings.some((r) => r.ended === null && r.verdict !== "pass");
  const retests = await retestsOf(db, unit.id);
  const healthy = await healthyPoints(db, profile.id, unit.revision, unit.id);
  return {
    complaints: readClaim(unit.claim, named, lexicon),
    seen,
    causes: hasSigns ? causesOf(b, graph, evidence, nameOf) : [],
    best: bestExplanation(b),
    advice: advise(b, library, {
      ...USUAL_ADVICE,
      isOpen: wasOpened,
      done: doneChecks({ ...trail, observations }, seen),
    }),
    observations: aged.map((x) => asObservation(x.o, x.ended)),
    readings: readings.map((r) => ({ ...r, of: r.places.length === 1 ? nameOf(r.places[0]!) : "" })),
    tries: attempts.map((t) => asTry(t, retests)),
    untested: untestedChanges(attempts).length,
    fragments: fragments.map(asFragment),
    halvings: halvings.map(asHalving),
    points: profile.wiring.points.map((p) => asPoint(p, { ...trail, observations }, healthy)),
    similar,
    shopCases: Object.values(record).reduce((n, r) => n + (r?.faults ?? 0), 0),
  };
}

/** Functions that tell of the power itself. */
const powerOf = (profile: UnitView["profile"]): string[] =>
  profile.functions.filter((f) => f.kind === "power-on" || f.kind === "charging").map((f) => f.id);

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

const SIMILAR_LOOKED_AT = 120;

/** Earlier units with mended faults, by their symptoms. */
async function similarTo(db: Knex, view: UnitView): Promise<Similar[]> {
  const pairs = view.faults.flatMap(({ place, measure }) => (measure === null ? [] : [[place, measure]]));
  if (pairs.length === 0) return [];
  const symptoms = pairs.map(([place, measure]) => `${place}:${measure}`);
  // the latest units that share a symptom; units that share none are not alike
  const ids: string[] = await db("fault")
    .where({ status: "mended" })
    .whereNot({ unit_id: view.unit.id })
    .whereIn(["place", "measure"], pairs)
    .orderBy("at", "desc")
    .limit(SIMILAR_LOOKED_AT)
    .pluck("unit_id");
  const rows = await rowsOf(
    db("fault as f")
      .join("unit as u", "u.id", "f.unit_id")
      .join("model_profile as m", "m.id", "u.profile_id")
      .join("mend as w", "w.unit_id", "u.id")
      .whereIn("u.id", [...new Set(ids)])
      .where("f.status", "mended")
      .whereNotNull("f.measure")
      .groupBy("u.tag", "m.key")
      .orderBy("u.tag", "desc"),
    { f: "fault", w: "mend", m: "model_profile", u: "unit" },
    "u.tag",
    "m.key",
    computed<{ symptoms: string[] }>(db.raw("array_agg(distinct f.place || ':' || f.measure) as symptoms")),
    computed<{ cured: string }>(db.raw("string_agg(distinct w.what, '; ') as cured")),
  );
  return similarCases(
    symptoms,
    view.profile.id,
    rows.map((r) => ({ tag: r.tag, model: r.key, symptoms: r.symptoms, cured: r.cured })),
  );
}
