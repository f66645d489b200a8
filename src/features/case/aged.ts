import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import type { ReadingKind } from "@/core/bench/readings";
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
  measuredParts,
  partsOfReading,
  type ReadFact,
  READINGS_BEAR,
  readVerdict,
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
    () => db("attempt").where({ unit_id: unitId }).select("at", "suspect", "action"),
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

/** Where a reading is taken: at one control, at all triggers, or of the whole unit. */
function placesOf(kind: ReadingKind, reading: object, profile: ModelProfile): string[] {
  if ("controlId" in reading) return [String(reading.controlId)];
  if (kind === "trigger-drag") return profile.controls.filter((c) => c.kind === "trigger").map((c) => c.id);
  return [];
}

export const ageOf = (
  fact: { at: Date; parts: readonly number[]; finding: string },
  acts: readonly Act[],
) => {
  const act = endedBy(fact, acts);
  return act && { how: act.how, at: act.at.toISOString() };
};

/** A latest reading that is no pass, as the database gives it: the instant is text. */
export type UnsureReading = {
  kind: ReadingKind;
  subject: string;
  verdict: "fail" | "not-tested";
  at: string;
  control: string | null;
  figures: boolean;
};

/** Those of them that speak by themselves and still of what is in the unit. */
export async function stillUnsure(
  db: Knex,
  unit: { id: Id<"unit">; revision: string | null },
  profile: ModelProfile,
  unsure: readonly UnsureReading[],
): Promise<StandingReading[]> {
  const own = unsure.filter((r) => READINGS_BEAR[r.kind]);
  if (own.length === 0) return [];
  const graph = profile.wiring ? graphOf(profile.wiring, unit.revision) : null;
  const acts = graph ? await actsAt(db, unit.id, profile, graph) : [];
  return own.flatMap((r): StandingReading[] => {
    const verdict = readVerdict(r.verdict, r.figures);
    if (verdict === null || verdict === "pass") return [];
    const places = placesOf(r.kind, r.control === null ? {} : { controlId: r.control }, profile);
    const parts = graph ? measuredParts(graph, { kind: r.kind, places }) : [];
    const ended = endedBy({ at: new Date(r.at), parts, finding: MEASURED }, acts);
    return ended ? [] : [{ reading: r.kind, subject: r.subject, verdict }];
  });
}

/** The latest reading of each kind and subject that says something of a part, with its age. */
export async function readsAt(
  db: Knex,
  unitId: Id<"unit">,
  profile: ModelProfile,
  graph: Graph,
  acts: readonly Act[],
): Promise<ReadView[]> {
  const rows = await db("bench_reading")
    .where({ unit_id: unitId })
    .distinctOn("kind", "subject")
    .orderBy([{ column: "kind" }, { column: "subject" }, { column: "at", order: "desc" }])
    .select("id", "kind", "subject", "reading", "result", "verdict", "at");
  return rows.flatMap((r): ReadView[] => {
    const verdict = readVerdict(r.verdict, r.result.figures.length > 0);
    const places = placesOf(r.kind, r.reading, profile);
    const parts = partsOfReading(graph, { kind: r.kind, places });
    if (verdict === null || parts.length === 0) return [];
    const ended = ageOf(
      { at: r.at, parts: measuredParts(graph, { kind: r.kind, places }), finding: MEASURED },
      acts,
    );
    return [{ id: r.id, kind: r.kind, subject: r.subject, places, verdict, at: r.at.toISOString(), ended }];
  });
}
