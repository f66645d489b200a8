import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import type { ReadingKind } from "@/core/bench/readings";
import type { BenchResult } from "@/core/bench/result";
import {
  type Act,
  actOfMend,
  actOfSpare,
  actOfTry,
  endedBy,
  MEASURED,
  type Treatment,
} from "@/core/case/ageing";
import { type Graph, graphOf } from "@/core/diagnosis/graph";
import {
  latestTelling,
  measuredParts,
  partsOfReading,
  type ReadFact,
  READINGS_BEAR,
  takenAt,
} from "@/core/diagnosis/readings";
import type { ModelProfile } from "@/core/profile/profile";
import type { StandingReading } from "@/core/prove/standing-reading";
import { loadRoutes } from "@/features/routes/deeds";
import { together } from "@/platform/deed/base";
import { rowsOf } from "@/platform/db/joined";

/** What was done at the parts of a unit, and which of the readings at its bench still stand after it. */

/** Mends, fitted spares and tries, as far as it is known which parts they changed. */
export async function actsAt(
  db: Knex,
  unitId: Id<"unit">,
  profile: ModelProfile,
  graph: Graph,
): Promise<Act[]> {
  const [mends, spares, tries, { value: routes }] = await together(
    db,
    () =>
      rowsOf(
        db("mend as m").join("fault as f", "f.id", "m.fault_id").where("m.unit_id", unitId),
        { m: "mend", f: "fault" },
        "m.at",
        "m.route",
        "f.place",
      ),
    () => db("fitted").where({ unit_id: unitId }).select("at", "slot"),
    // what was undone again left the part as it was
    () => db("attempt").where({ unit_id: unitId, undone: null }).select("at", "suspect", "action"),
    () => loadRoutes(db),
  );
  return [
    ...mends.map((m) =>
      actOfMend(graph, { at: m.at, place: m.place, route: routes.find((r) => r.id === m.route) ?? null }),
    ),
    ...spares.map(({ at, slot }) => {
      const into = profile.slots?.find((s) => s.id === slot);
      return into ? actOfSpare(graph, { at, kind: into.kind, serves: into.serves }) : null;
    }),
    ...tries.map((t) => actOfTry(graph, t)),
  ].filter((a) => a !== null);
}

export type ReadView = ReadFact & {
  id: string;
  subject: string;
  at: string;
  /** what was done since at what it measured: it speaks of another part now */
  ended: { how: Treatment; at: string } | null;
};

export const ageOf = (
  fact: { at: Date; parts: readonly number[]; finding: string },
  acts: readonly Act[],
) => {
  const act = endedBy(fact, acts);
  return act && { how: act.how, at: act.at.toISOString() };
};

/** A reading that is no pass and that no later one passed, as the database gives it: the instant is text. */
export type UnsureReading = { kind: ReadingKind; subject: string; at: string; result: BenchResult };

/** Those that speak by themselves and still of what is in the unit; `unsure`: newest first. */
export async function stillUnsure(
  db: Knex,
  unit: { id: Id<"unit">; revision: string | null },
  profile: ModelProfile,
  unsure: readonly UnsureReading[],
): Promise<StandingReading[]> {
  const own = latestTelling(unsure.filter((r) => READINGS_BEAR[r.kind]));
  if (own.length === 0) return [];
  const graph = profile.wiring ? graphOf(profile.wiring, unit.revision) : null;
  const acts = graph ? await actsAt(db, unit.id, profile, graph) : [];
  return own.flatMap((r): StandingReading[] => {
    if (r.told === "pass") return [];
    const parts = graph ? measuredParts(graph, takenAt(r, profile.controls)) : [];
    const ended = endedBy({ at: new Date(r.at), parts, finding: MEASURED }, acts);
    return ended ? [] : [{ reading: r.kind, subject: r.subject, verdict: r.told }];
  });
}

/** The latest telling reading of each kind and subject that bears on a part, with its age. */
export async function readsAt(
  db: Knex,
  unitId: Id<"unit">,
  profile: ModelProfile,
  graph: Graph,
  acts: readonly Act[],
): Promise<ReadView[]> {
  const rows = await db("bench_reading")
    .where({ unit_id: unitId })
    .orderBy("at", "desc")
    .select("id", "kind", "subject", "result", "at");
  return latestTelling(rows).flatMap(({ id, kind, subject, at, told }): ReadView[] => {
    const taken = takenAt({ kind, subject }, profile.controls);
    if (partsOfReading(graph, taken).length === 0) return [];
    const ended = ageOf({ at, parts: measuredParts(graph, taken), finding: MEASURED }, acts);
    return [{ ...taken, id, subject, verdict: told, at: at.toISOString(), ended }];
  });
}
