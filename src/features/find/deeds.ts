import "server-only";

import type { Knex } from "knex";

import { checkLibrary } from "@/core/diagnosis/checks";
import { graphOf } from "@/core/diagnosis/graph";
import { differencesOf, type Difference, halvingNext, type HalvingStep } from "@/core/diagnosis/halving";
import { PLACE_FINDINGS, pointIsOff } from "@/core/diagnosis/places";
import { OUTCOMES } from "@/core/diagnosis/priors";
import { nothing, overtaken, Refused, stamp } from "@/platform/deed/base";
import { seenInCase } from "@/core/case/evidence";
import { standingOf } from "@/core/case/standing-facts";
import { caseOf, readCase } from "@/features/case/file";
import { healthyPoints } from "./seen";
import { modelById } from "@/features/models/deeds";
import { deed, namedUnit, unitOf } from "@/platform/deed/declare";
import { nextNumber } from "@/features/case/workable";
import { saveValue } from "@/features/settings/settings";
import { say } from "@/features/find/words/words";

/**
 * What people write down on the way to the cause: observations, tries, loose pieces, searches by halves, the
 * lexicon.
 */

async function wiringOf(db: Knex, unit: { profile_id: string; revision: string | null }) {
  const { body } = await modelById(db, unit.profile_id);
  if (!body.wiring) throw new Refused({ code: "not-found", what: say("wiringOfThisModel") });
  return { body, wiring: body.wiring, graph: graphOf(body.wiring, unit.revision) };
}

export const observe = deed(
  "find.observe",
  { unit: namedUnit, workable: true },
  async ({ db, actor, note, unit }, input) => {
    const { wiring, graph, body } = await wiringOf(db, unit);
    let { outcome } = input;
    const unknown = new Refused({
      code: "not-found",
      what: input.kind === "point" ? say("testPoint") : input.kind,
    });
    if (input.kind === "function") {
      if (!graph.restsOn.has(input.target) || !(OUTCOMES as readonly string[]).includes(outcome))
        throw unknown;
    } else if (input.kind === "place") {
      if (!graph.index.has(input.target) || !(outcome in PLACE_FINDINGS)) throw unknown;
    } else if (input.kind === "check") {
      const check = checkLibrary(graph, wiring).find((c) => c.id === input.target);
      if (!check || !check.outcomes.some((o) => o.code === outcome)) throw unknown;
    } else {
      const point = wiring.points.find((p) => p.id === input.target);
      if (!point || input.value === null) throw unknown;
      const healthy = (await healthyPoints(db, body.id, unit.revision, unit.id)).get(point.id) ?? [];
      const { off } = pointIsOff(input.value, point.expects, healthy);
      const judged = () => {
        if (off === null) return "noted";
        if (off) return "off";
        return "right";
      };
      outcome = judged();
    }
    await db("observation").insert({
      unit_id: unit.id,
      kind: input.kind,
      target: input.target,
      outcome,
      value: input.value,
      note: input.note,
      ...stamp(db, actor),
    });
    note("observed", unit.id, { kind: input.kind, target: input.target, outcome });
    return nothing;
  },
);

export const withdrawObservation = deed(
  "find.withdraw",
  { unit: unitOf("observation", (i) => i.observationId, "observation"), workable: true },
  async ({ db, note }, { observationId }) => {
    const row = await db("observation").where({ id: observationId }).first();
    if (!row) throw new Refused({ code: "not-found", what: "observation" });
    await db("observation").where({ id: observationId }).update({ withdrawn: true });
    note("observation-withdrawn", row.unit_id, { kind: row.kind, target: row.target, outcome: row.outcome });
    return nothing;
  },
);

export const addTry = deed(
  "try.add",
  { unit: namedUnit, workable: true },
  async ({ db, actor, note, unit }, { unitId, suspect, action, expects, what }) => {
    const { graph } = await wiringOf(db, unit);
    if (!graph.index.has(suspect)) throw new Refused({ code: "not-found", what: "part" });
    const number = await nextNumber(db, "attempt", unitId);
    await db("attempt").insert({
      unit_id: unitId,
      number,
      suspect,
      action,
      expects,
      what,
      ...stamp(db, actor),
    });
    note("tried", unitId, { number, suspect, action });
    return nothing;
  },
);

export const settleTry = deed(
  "try.settle",
  { unit: unitOf("attempt", (i) => i.tryId, "try"), workable: true },
  async ({ db, note }, { tryId, version, outcome, undone }) => {
    const row = await db("attempt").where({ id: tryId }).first();
    if (!row) throw new Refused({ code: "not-found", what: "try" });
    const retest = await db("recording")
      .where({ unit_id: row.unit_id })
      .where("started_at", ">", row.at)
      .orderBy("started_at", "desc")
      .first("id");
    const changed = await db("attempt")
      .where({ id: tryId, version })
      .update({ outcome, undone, retest_id: retest?.id ?? null, version: version + 1 });
    if (changed !== 1) throw overtaken();
    note("try-settled", row.unit_id, { number: row.number, outcome, undone });
    return nothing;
  },
);

export const addFragment = deed(
  "fragment.add",
  { unit: namedUnit, workable: true },
  async ({ db, actor, note }, { unitId, foundAt, what }) => {
    const number = await nextNumber(db, "fragment", unitId);
    await db("fragment").insert({ unit_id: unitId, number, found_at: foundAt, what, ...stamp(db, actor) });
    note("fragment-found", unitId, { number, what });
    return nothing;
  },
);

export const matchFragment = deed(
  "fragment.match",
  { unit: unitOf("fragment", (i) => i.fragmentId, say("loosePiece")), workable: true },
  async ({ db, note, unit }, { fragmentId, version, matchedTo, explained }) => {
    const row = await db("fragment").where({ id: fragmentId }).first();
    if (!row) throw new Refused({ code: "not-found", what: say("loosePiece") });
    if (matchedTo !== null) {
      const { graph } = await wiringOf(db, unit);
      if (!graph.index.has(matchedTo)) throw new Refused({ code: "not-found", what: "part" });
    }
    const changed = await db("fragment")
      .where({ id: fragmentId, version })
      .update({ matched_to: matchedTo, explained, version: version + 1 });
    if (changed !== 1) throw overtaken();
    note("fragment-matched", row.unit_id, { number: row.number, matchedTo, explained });
    return nothing;
  },
);

export const startHalving = deed(
  "halving.start",
  { unit: namedUnit, workable: true },
  async ({ db, actor, note, unit }, { unitId, pair }) => {
    if (await db("halving").where({ unit_id: unitId, closed: false }).first("id"))
      throw new Refused({ code: "already", what: "search" });
    const { body, graph } = await wiringOf(db, unit);
    const of = await caseOf(db, body, unit.revision);
    const { facts } = await readCase(db, { ...unit, receivedAt: unit.received_at }, body, of);
    const touched: string[] = await db("attempt").where({ unit_id: unitId }).pluck("suspect");
    const relevant = new Set(
      seenInCase(standingOf(facts, of), of)
        .filter((s) => s.outcome !== "works")
        .flatMap((s) => (graph.restsOn.get(s.id) ?? []).map((i) => graph.nodes[i]!.id)),
    );
    const items = differencesOf(body.wiring, pair, relevant, touched);
    await db("halving").insert({
      unit_id: unitId,
      pair,
      items: JSON.stringify(items),
      steps: "[]",
      ...stamp(db, actor),
    });
    note("search-started", unitId, { pair, items: items.length });
    return nothing;
  },
);

export const stepHalving = deed(
  "halving.step",
  { unit: unitOf("halving", (i) => i.halvingId, "search"), workable: true },
  async ({ db, actor, note }, { halvingId, version, result }) => {
    const row = await db("halving").where({ id: halvingId }).first();
    if (!row) throw new Refused({ code: "not-found", what: "search" });
    const items = row.items as Difference[];
    const steps = row.steps as HalvingStep[];
    const now = halvingNext(
      items.map((x) => x.id),
      steps,
    );
    const next =
      result !== "give-up" && now.state === "ask" ? [...steps, { switched: now.switch, result }] : steps;
    const closed =
      result === "give-up" ||
      halvingNext(
        items.map((x) => x.id),
        next,
      ).state !== "ask";
    const changed = await db("halving")
      .where({ id: halvingId, version })
      .update({
        steps: JSON.stringify(next),
        closed,
        ended_at: closed ? (actor.at ?? new Date()) : null,
        version: version + 1,
      });
    if (changed !== 1) throw overtaken();
    note("search-step", row.unit_id, { result, step: next.length });
    return nothing;
  },
);

export const addHalvingItem = deed(
  "halving.add-item",
  { unit: unitOf("halving", (i) => i.halvingId, "search"), workable: true },
  async ({ db, note, unit }, { halvingId, version, what, node }) => {
    const row = await db("halving").where({ id: halvingId }).first();
    if (!row) throw new Refused({ code: "not-found", what: "search" });
    if (row.closed) throw new Refused({ code: "already", what: say("endOfTheSearch") });
    const { graph } = await wiringOf(db, unit);
    if (node !== null && !graph.index.has(node)) throw new Refused({ code: "not-found", what: "part" });
    if (row.items.some((x) => (node === null ? x.what === what : x.node === node)))
      throw new Refused({ code: "already", what: say("thingThatDiffers") });
    const items: Difference[] = [...row.items, { id: node ?? `hand.${row.items.length + 1}`, what, node }];
    const changed = await db("halving")
      .where({ id: halvingId, version })
      .update({ items: JSON.stringify(items), version: version + 1 });
    if (changed !== 1) throw overtaken();
    note("search-item", row.unit_id, { what });
    return nothing;
  },
);

export const saveLexicon = deed("lexicon.save", {}, async ({ db, note }, { version, lexicon }) => {
  await saveValue(db, "lexicon", version, lexicon);
  note("lexicon-saved", null, { entries: lexicon.length });
  return nothing;
});

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [
  addFragment,
  addHalvingItem,
  addTry,
  matchFragment,
  observe,
  saveLexicon,
  settleTry,
  startHalving,
  stepHalving,
  withdrawObservation,
] as const;
