import "server-only";

import { createHash, randomUUID } from "node:crypto";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { type Check, checkLibrary } from "@/core/diagnosis/checks";
import { graphOf } from "@/core/diagnosis/graph";
import { seeded } from "@/core/math/random";
import { type Hidden, simulatedFaults } from "@/core/practice/hidden";
import { checkShows, mendCures } from "@/core/practice/inside";
import type { ControllerFaults } from "@/core/simulate/faults";
import { unitById } from "@/features/case/facts";
import { doDeed } from "@/features/deeds";
import { modelById } from "@/features/models/deeds";
import { loadRoutes } from "@/features/routes/deeds";
import { practiceDatabase } from "@/platform/db/connection";
import { type Actor, Refused } from "@/platform/deed/base";

/** The inside of a practice unit: what a check shows of it, and what its mends have taken away. */

/** A number from 0 to below 2^31 that stays the same for the same words. */
export const seedOf = (words: string): number =>
  createHash("sha256").update(words).digest().readUInt32BE(0) >>> 1;
const drawFor = (words: string): number => seeded(seedOf(words)).next();

/** The hidden faults that no mend has taken away so far. */
async function stillHidden(db: Knex, unitId: Id<"unit">, hidden: readonly Hidden[]): Promise<Hidden[]> {
  const unit = await unitById(db, unitId);
  const { body } = await modelById(db, unit.profile_id);
  const graph = body.wiring ? graphOf(body.wiring, unit.revision) : null;
  const { value: routes } = await loadRoutes(db);
  const mends: { id: string; route: string; place: string }[] = await db("mend as m")
    .join("fault as f", "f.id", "m.fault_id")
    .where("m.unit_id", unitId)
    .whereNotNull("m.route")
    .select("m.id", "m.route", "f.place");
  return hidden.filter(
    (h) =>
      !mends.some((m) => {
        const route = routes.find((r) => r.id === m.route);
        return route && mendCures(body, graph, h, { route, place: m.place }, drawFor(`mend ${m.id}`));
      }),
  );
}

/** How the simulated controller of a practice unit is, after what was done to it; null for any other unit. */
export async function practiceFaults(db: Knex, unitId: Id<"unit">): Promise<ControllerFaults | null> {
  const row = await db("exercise").where({ unit_id: unitId, ended_at: null }).first("hidden");
  if (!row) return null;
  const profile = await modelById(db, (await unitById(db, unitId)).profile_id);
  return simulatedFaults(profile.body, await stillHidden(db, unitId, row.hidden));
}

/** What a meter reads at a point: near what is expected, or far from it where the part behind is broken. */
const readAt = (point: { expects: number | null }, isOff: boolean, draw: number): number => {
  const expects = point.expects ?? 1;
  const near = expects * (0.98 + 0.04 * draw);
  return Math.round((isOff ? near * 0.4 : near) * 1000) / 1000;
};

/** Does a check on a practice unit: its truth answers, and the answer is written down as a hand would. */
export async function lookInside(actor: Actor, unitId: Id<"unit">, checkId: string): Promise<string> {
  const db = practiceDatabase();
  const row = await db("exercise")
    .where({ unit_id: unitId, person_id: actor.id, ended_at: null })
    .first("hidden");
  if (!row) throw new Refused({ code: "not-found", what: "exercise" });
  const unit = await unitById(db, unitId);
  const { wiring } = (await modelById(db, unit.profile_id)).body;
  const graph = wiring && graphOf(wiring, unit.revision);
  const check = graph && checkLibrary(graph, wiring).find((c) => c.id === checkId);
  if (!check) throw new Refused({ code: "not-found", what: "check" });
  const hidden = await stillHidden(db, unitId, row.hidden);
  const broken = hidden.flatMap((h) => h.part ?? []);
  const draw = drawFor(`${unitId} ${checkId} ${hidden.length}`);
  const point = wiring.points.find((p) => p.id === check.target);
  const outcome = check.kind === "test" ? testedAs(check, hidden) : checkShows(check, graph, broken, draw);
  const isOff = check.about.some((i) => broken.includes(graph.nodes[i]!.id));
  const kindOf = () => (check.kind === "test" ? ("function" as const) : ("check" as const));
  const reply = await doDeed(db, actor, "find.observe", randomUUID(), {
    unitId,
    kind: point ? "point" : kindOf(),
    target: check.kind === "test" || point ? check.target : check.id,
    outcome: point ? "read" : outcome,
    value: point ? readAt(point, isOff, draw) : null,
    note: "",
  });
  if (!reply.ok) throw new Refused(reply.problem);
  return outcome;
}

/** What is hidden fails at its own control, and nothing else does. */
const testedAs = (check: Check, hidden: readonly Hidden[]): string =>
  hidden.some((h) => h.place === check.target) ? "dead" : "works";
