import "server-only";

import type { Knex } from "knex";

import { type Fact, inOrder } from "@/core/case/facts";
import type { CaseOf } from "@/core/case/standing-facts";
import { readAgainst } from "@/core/casefile/known";
import { type ModelProfile } from "@/core/profile/profile";
import { loadLexicon } from "@/features/settings/lexicon";
import { together } from "@/platform/deed/base";
import { doneFacts } from "./done-facts";
import { agreedFacts, besideFacts, doorFacts, namedFacts, type OfUnit } from "./door-facts";
import { mateFacts } from "./mates";
import { benchFacts, readAnswers, readBench, readRecordings, recordingFacts } from "./test-facts";
import { readTrail, type Trail, trailFacts } from "./trail-facts";

/**
 * The case of one unit: every dated fact that any station, the intake and the claim have written down, read from where
 * each is kept. Nothing is kept twice, so that what was stored before there were cases reads the same.
 */

/** What the facts of a unit are read against, in the shop's own words. */
export async function caseOf(db: Knex, profile: ModelProfile, revision: string | null): Promise<CaseOf> {
  const { lexicon } = await loadLexicon(db);
  return readAgainst(profile, revision, lexicon);
}

/** Every fact of a unit, in its order. */
export async function readCase(
  db: Knex,
  unit: OfUnit,
  profile: ModelProfile,
  of: CaseOf,
): Promise<{ facts: Fact[]; trail: Trail }> {
  const [tests, answers, bench, trail, done, agreed, beside, named, mates] = await together(
    db,
    () => readRecordings(db, unit.id),
    () => readAnswers(db, unit.id),
    () => readBench(db, unit.id),
    () => readTrail(db, unit.id),
    () => doneFacts(db, unit.id, profile, of.graph),
    () => agreedFacts(db, unit.id),
    () => besideFacts(db, unit.id),
    () => namedFacts(db, unit.id, of),
    () => mateFacts(db, unit, profile),
  );
  const controls = of.things.filter((t) => t.kind !== "function").map((t) => t.id);
  const lastMend = done.map((f) => f.at).reduce((a, b) => (b > a ? b : a), "");
  const facts = [
    ...doorFacts(unit, profile),
    ...recordingFacts(tests, controls, lastMend),
    ...answers.map((c): Fact => ({
      id: `check ${c.id}`,
      at: c.at.toISOString(),
      who: c.who,
      kind: "function",
      place: c.function_id,
      outcome: c.result === "not-fitted" ? "not-tested" : c.result,
      pattern: null,
      hand: null,
      words: "",
    })),
    ...benchFacts(bench, profile.controls),
    ...trailFacts(trail, of.library),
    ...done,
    ...agreed,
    ...beside,
    ...named,
    ...mates,
  ];
  return { facts: inOrder(facts), trail };
}

export type { Trail };
