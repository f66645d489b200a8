import "server-only";

import type { Knex } from "knex";

import { MOST_CHANGES, type QuestionBody } from "@/contract/question";
import type { Intake } from "@/contract/intake";
import type { Id } from "@/core/base/ids";
import { type AnswerView, questionsOf, type QuestionView } from "@/features/case/asked";
import { photoBytes } from "@/features/intake/photos";
import { type PaperView, standingBill } from "@/features/papers/view";
import { TOKEN } from "@/features/questions/deeds";
import { rowOf } from "@/platform/db/joined";

/** The customer's page by its unguessable address: what they said, what was found and shown, and their bill. */

export type PublicQuestion = {
  tag: string;
  model: string;
  /** in their own words, as they brought it in */
  claim: string;
  pictures: { id: string; caption: string }[];
  /** what they owe, once it was written */
  bill: { number: number; sumMinor: number } | null;
  /** how they use it, as far as they said */
  use: Intake["use"];
  body: QuestionBody;
  expiresAt: string;
  state: QuestionView["state"] | "closed";
  answers: AnswerView[];
  /** whether this page may still change what was answered */
  mayChange: boolean;
};

/** What the customer's page shows. Looking changes nothing: mail scanners look too. */
export async function questionByToken(db: Knex, token: string): Promise<PublicQuestion | null> {
  if (!TOKEN.test(token)) return null;
  const row = await rowOf(
    db("question")
      .join("unit", "unit.id", "question.unit_id")
      .join("model_profile as m", "m.id", "unit.profile_id")
      .where({ token }),
    { question: "question", m: "model_profile", unit: "unit" },
    "question.id",
    "question.unit_id",
    "unit.tag",
    "unit.claim",
    "unit.intake",
    "m.name as model",
    "unit.ending",
  );
  if (!row) return null;
  const question = (await questionsOf(db, row.unit_id)).find((q) => q.id === row.id)!;
  const state = row.ending !== null ? "closed" : question.state;
  // what was taken back offers nothing any more
  const gone = question.state === "withdrawn";
  const given = new Set(question.answers.filter((a) => a.cameBy === "page").map((a) => a.at)).size;
  return {
    tag: row.tag,
    model: row.model,
    claim: gone ? "" : row.claim,
    use: row.intake.use,
    pictures: gone
      ? []
      : await db("photo")
          .where({ unit_id: row.unit_id, removed: false })
          .whereIn("id", question.body.photos)
          .orderBy("at")
          .select("id", "caption"),
    bill: gone ? null : await billOfUnit(db, row.unit_id),
    body: gone ? { v: 1, findings: "", photos: [], refresh: [], faults: [] } : question.body,
    expiresAt: question.expiresAt,
    state,
    answers: gone ? [] : question.answers,
    mayChange: given <= MOST_CHANGES,
  };
}

/** The bill that stands of a unit, as the customer sees it. */
async function billOfUnit(db: Knex, unitId: Id<"unit">): Promise<PublicQuestion["bill"]> {
  const paper = await standingBill(db, unitId);
  return paper && { number: paper.number, sumMinor: paper.body.sumMinor };
}

/** The bill behind a customer's page, to be printed; null where there is none, or the question was taken back. */
export async function billByToken(db: Knex, token: string): Promise<PaperView | null> {
  const row = await askedBy(db, token);
  return row && standingBill(db, row.unit_id);
}

/** A photograph that a customer's page shows, and no other. */
export async function pictureByToken(db: Knex, token: string, id: string): Promise<Buffer | null> {
  const row = await askedBy(db, token);
  return row?.body.photos.some((p) => p === id) ? photoBytes(db, id, false) : null;
}

async function askedBy(db: Knex, token: string) {
  if (!TOKEN.test(token)) return null;
  return (await db("question").where({ token, withdrawn_at: null }).first("unit_id", "body")) ?? null;
}
