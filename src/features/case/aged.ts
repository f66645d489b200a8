import "server-only";

import type { Knex } from "knex";

import type { Fact } from "@/core/case/facts";
import { seenBroken } from "@/core/case/seen-broken";
import { readingKindOf, standingOf } from "@/core/case/standing-facts";
import { READINGS_BEAR } from "@/core/diagnosis/readings";
import type { ModelProfile } from "@/core/profile/profile";
import type { SeenBroken } from "@/core/prove/seen-broken";
import type { StandingReading } from "@/core/prove/standing-reading";
import type { UnitRow } from "@/platform/db/tables";
import { caseOf, readCase } from "./file";

/** Where a reading was taken, as its step at the bench calls it. */
const subjectOf = (f: Extract<Fact, { kind: "reading" }>, controls: ModelProfile["controls"]): string =>
  f.side !== null && controls.some((c) => c.id === f.place) ? `${f.place}.${f.side}` : f.place;

export type Unsettled = { readings: StandingReading[]; broken: SeenBroken[] };

/**
 * What the facts leave unsettled: readings that speak by themselves, are no pass and still tell of what is in the unit,
 * the newest first; and parts that were seen broken and not made good.
 */
export async function stillUnsettled(db: Knex, unit: UnitRow, profile: ModelProfile): Promise<Unsettled> {
  const of = await caseOf(db, profile, unit.revision);
  const { facts } = await readCase(db, { ...unit, receivedAt: unit.received_at }, profile, of);
  const standing = standingOf(facts, of);
  const broken = seenBroken(standing, of);
  const readings = standing.toReversed().flatMap(({ fact, ended }): StandingReading[] => {
    if (fact.kind !== "reading" || ended || fact.verdict === "pass") return [];
    const kind = readingKindOf(fact);
    if (kind === null || !READINGS_BEAR[kind]) return [];
    return [{ reading: kind, subject: subjectOf(fact, profile.controls), verdict: fact.verdict }];
  });
  return { readings, broken };
}
