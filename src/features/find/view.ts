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
import { checkLibrary } from "@/core/diagnosis/checks";
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
import { type Similar, similarCases } from "@/core/diagnosis/similar";
import {
  type Cure,
  type Try,
  cureOf,
  secondTestDue,
  spentTreatments,
  untestedChanges,
} from "@/core/diagnosis/tries";
import { thingsOf } from "@/core/profile/profile";
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
  tries: TryView[];
  untested: number;
  fragments: FragmentView[];
  halvings: HalvingView[];
  points: PointView[];
  similar: Similar[];
  shopCases: number;
};

const SHOWN_CAUSES = 8;

/** Everything that the Find station shows about causes. Null when the model has no wiring or nothing was seen yet. */
export async function findView(db: Knex, view: UnitView): Promise<FindView | null> {
  const { unit, profile } = view;
  if (!profile.wiring) return null;
  const graph = graphOf(profile.wiring, unit.revision);
  const named = thingsOf(profile, unit.revision);
  const by = (table: "observation" | "attempt" | "fragment" | "halving") =>
    db(`${table} as t`).join("person as p", "p.id", "t.by").where("t.unit_id", unit.id).orderBy("t.at");
  const [seen, observations, attempts, fragments, halvings, record, { lexicon }, similar] = await Promise.all(
    [
      seenOf(db, unit.id, profile, unit.revision),
      rowsOf(
        by("observation").where({ withdrawn: false }),
        { t: "observation", p: "person" },
        "t.*",
        "p.name as person",
      ),
      rowsOf(by("attempt"), { t: "attempt", p: "person" }, "t.*", "p.name as person"),
      rowsOf(by("fragment"), { t: "fragment", p: "person" }, "t.*", "p.name as person"),
      rowsOf(by("halving"), { t: "halving", p: "person" }, "t.*", "p.name as person"),
      shopRecord(db),
      loadLexicon(db),
      similarTo(db, view),
    ],
  );
  const library = checkLibrary(graph, profile.wiring);
  const b = startBelief(graph, record);
  const evidence = evidenceFrom(graph, library, {
    seen,
    observations,
    tries: attempts,
    loose: fragments.map((x) => ({ number: x.number, matchedTo: x.matched_to })),
    searches: halvings,
  });
  const nameOf = (id: string) =>
    graph.nodes[graph.index.get(id) ?? -1]?.name ?? seen.find((s) => s.id === id)?.name ?? id;
  learn(
    b,
    evidence.map((e) => e.evidence),
  );
  const tries: Try[] = attempts;
  const spent = spentTreatments(
    tries,
    observations.map((o) => o.at),
  );
  const done = new Set<string>([
    ...observations.flatMap((o) => {
      if (o.kind === "check") return [o.target];
      if (o.kind === "point") return [`measure.${o.target}`, `compare.${o.target}`];
      if (o.kind === "place") return [`look.${o.target}`];
      return [];
    }),
    ...seen.map((s) => `test.${s.id}`),
    ...spent.flatMap((s) =>
      s.action === "reseat" ? [`reseat.${s.suspect}`] : [`swap-twin.${s.suspect}`, `swap-donor.${s.suspect}`],
    ),
  ]);
  const isOpen = view.mends.some((m) => m.opened) || observations.some((o) => o.kind !== "function");
  const failing = seen.filter((s) => s.outcome !== "works");
  const retests = await retestsOf(db, unit.id);
  const healthy = await healthyPoints(db, profile.id, unit.revision, unit.id);
  const points = profile.wiring.points.map((p): PointView => {
    const value = observations.filter((o) => o.kind === "point" && o.target === p.id).at(-1)?.value ?? null;
    const judged = pointIsOff(value ?? NaN, p.expects, healthy.get(p.id) ?? []);
    return {
      id: p.id,
      value,
      healthy: healthy.get(p.id) ?? [],
      middle: judged.middle,
      off: value === null ? null : judged.off,
    };
  });
  return {
    complaints: readClaim(unit.claim, named, lexicon),
    seen,
    causes:
      failing.length || observations.some((o) => o.kind !== "function")
        ? causesOf(b, graph, evidence, nameOf)
        : [],
    best: bestExplanation(b),
    advice: advise(b, library, { ...USUAL_ADVICE, isOpen, done }),
    observations: observations.map(({ id, kind, target, outcome, value, note, person, at }) => ({
      id,
      kind,
      target,
      outcome,
      value,
      note,
      by: person,
      at: at.toISOString(),
    })),
    tries: attempts.map(
      ({ id, number, suspect, action, expects, what, outcome, undone, version, person, at }, i) => ({
        id,
        number,
        suspect,
        action,
        expects,
        what,
        outcome,
        undone,
        version,
        by: person,
        at: at.toISOString(),
        cure: cureOf(tries[i]!, retests),
        secondTestDue: secondTestDue(tries[i]!, retests)?.toISOString() ?? null,
      }),
    ),
    untested: untestedChanges(tries).length,
    fragments: fragments.map((f) => ({
      id: f.id,
      number: f.number,
      foundAt: f.found_at,
      what: f.what,
      matchedTo: f.matched_to,
      explained: f.explained,
      version: f.version,
      by: f.person,
    })),
    halvings: halvings.map(({ id, pair, items, steps, closed, version }) => ({
      id,
      pair,
      items,
      steps,
      now: halvingNext(
        items.map((x) => x.id),
        steps,
      ),
      closed,
      version,
    })),
    points,
    similar,
    shopCases: Object.values(record).reduce((n, r) => n + (r?.faults ?? 0), 0),
  };
}

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
