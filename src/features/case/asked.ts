import "server-only";

import type { Knex } from "knex";

import { type LikePart, NO, type QuestionBody } from "@/contract/question";
import { rowsOf } from "@/platform/db/joined";
import type { QuestionRow } from "@/platform/db/tables";
import { rowsBy } from "@/platform/db/batched";
import type { Id } from "@/core/base/ids";

/** What customers were asked, and how each fault stands. */

export type AnswerView = {
  faultId: Id<"fault">;
  choice: string;
  words: string;
  name: string;
  cameBy: "page" | "told";
  wording: string;
  /** the like part that was wanted with it */
  like: LikePart | null;
  /** what a full refresh takes in, where that was wanted; of the first fault that was agreed to */
  refresh: LikePart[];
  at: string;
};
export type QuestionView = {
  id: string;
  number: number;
  token: string;
  body: QuestionBody;
  sentAt: string;
  expiresAt: string;
  state: "waiting" | "answered" | "expired" | "withdrawn";
  answers: AnswerView[];
  /** when they were reminded, oldest first */
  reminded: string[];
  by: string;
};
export const stateOf = (
  row: Pick<QuestionRow, "withdrawn_at" | "expires_at">,
  answered: boolean,
): QuestionView["state"] => {
  if (row.withdrawn_at) return "withdrawn";
  if (answered) return "answered";
  if (row.expires_at.getTime() < Date.now()) return "expired";
  return "waiting";
};

const answersBy = rowsBy((db, questionIds) =>
  rowsOf(
    db("answer as a").whereIn("a.question_id", questionIds).orderBy("a.id"),
    { a: "answer" },
    "a.*",
    "a.question_id as of",
  ),
);
/** The answers of questions, oldest first. */
export const answersOf = async (db: Knex, questionIds: readonly Id<"question">[]) =>
  (await Promise.all(questionIds.map((id) => answersBy(db, id)))).flat();

const questionsBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("question as q")
      .join("person as p", "p.id", "q.by")
      .whereIn("q.unit_id", unitIds)
      .orderBy("q.number", "desc"),
    { q: "question", p: "person" },
    "q.*",
    "q.unit_id as of",
    "p.name as person",
  ),
);

/** When the customers of units were reminded, oldest first, by question. */
export async function remindersOf(db: Knex, unitIds: readonly Id<"unit">[]): Promise<Map<string, string[]>> {
  const rows = await db("event")
    .whereIn("unit_id", unitIds)
    .where({ kind: "question-reminded" })
    .orderBy("id")
    .select("body", "at");
  const by = new Map<string, string[]>();
  for (const { body, at } of rows) {
    const id = String(body.question);
    by.set(id, [...(by.get(id) ?? []), at.toISOString()]);
  }
  return by;
}

export async function questionsOf(db: Knex, unitId: Id<"unit">): Promise<QuestionView[]> {
  const rows = await questionsBy(db, unitId);
  const answers = await answersOf(
    db,
    rows.map((r) => r.id),
  );
  const reminded = rows.length > 0 ? await remindersOf(db, [unitId]) : new Map<string, string[]>();
  return rows.map((r) => {
    const mine = answers.filter((a) => a.question_id === r.id);
    return {
      id: r.id,
      number: r.number,
      token: r.token,
      body: r.body,
      sentAt: r.at.toISOString(),
      expiresAt: r.expires_at.toISOString(),
      state: stateOf(r, mine.length > 0),
      by: r.person,
      reminded: reminded.get(r.id) ?? [],
      answers: mine.map((a) => ({
        faultId: a.fault_id,
        choice: a.choice,
        words: a.words,
        name: a.name,
        cameBy: a.came_by,
        wording: a.wording.words,
        like: a.wording.like,
        refresh: a.wording.refresh,
        at: a.at.toISOString(),
      })),
    };
  });
}

const placesBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("fault as f").whereIn("f.unit_id", unitIds),
    { f: "fault" },
    "f.id",
    "f.place",
    "f.status",
    "f.unit_id as of",
  ),
);

export type FaultYes = { faultId: Id<"fault">; state: "waiting" | "no" | "yes" };

/**
 * How each asked fault stands: the newest answer counts; one that was asked and not answered waits, also once
 * it has run out.
 */
export async function standingsOf(db: Knex, unitId: Id<"unit">): Promise<FaultYes[]> {
  const questions = await questionsOf(db, unitId);
  const out = new Map<string, FaultYes>();
  for (const q of questions.filter((x) => x.state !== "withdrawn").reverse())
    for (const f of q.body.faults) {
      const last = q.answers.filter((a) => a.faultId === f.faultId).at(-1);
      const before = out.get(f.faultId);
      if (last) out.set(f.faultId, { faultId: f.faultId, state: last.choice === NO ? "no" : "yes" });
      else if (!before || before.state !== "yes" || q.state === "waiting")
        out.set(f.faultId, { faultId: f.faultId, state: "waiting" });
    }
  // symptoms of one place are one fault: what was asked and answered for one holds for all of them
  const faults = out.size ? await placesBy(db, unitId) : [];
  for (const f of faults) {
    if (out.has(f.id)) continue;
    const like = faults.find((x) => x.place === f.place && out.has(x.id));
    if (like) out.set(f.id, { faultId: f.id, state: out.get(like.id)!.state });
  }
  return [...out.values()];
}

/** What was agreed for a fault: the option of the newest yes, by its key, words and price. */
export type Agreed = {
  faultId: Id<"fault">;
  number: number;
  place: string;
  found: string;
  choice: string;
  words: string;
  priceMinor: number;
  /** what was wanted with it: its like part, and a full refresh */
  extras: LikePart[];
  fault: "open" | "mended" | "accepted" | "withdrawn";
};

const optionIn = (body: QuestionBody, faultId: string, choice: string) => {
  const fault = body.faults.find((f) => f.faultId === faultId);
  const option = fault?.options.find((o) => o.key === choice);
  return fault && option ? { fault, option } : null;
};
export const priceIn = (body: QuestionBody, faultId: string, choice: string): number | null =>
  optionIn(body, faultId, choice)?.option.priceMinor ?? null;

type Said = Pick<AnswerView, "faultId" | "choice" | "like" | "refresh">;

export async function agreedOf(db: Knex, unitId: Id<"unit">): Promise<Agreed[]> {
  const questions = (await questionsOf(db, unitId)).filter((q) => q.state !== "withdrawn").reverse();
  const latest = new Map<string, Said & { at: ReturnType<typeof optionIn> }>();
  for (const q of questions)
    for (const { faultId, choice, like, refresh } of q.answers)
      latest.set(faultId, {
        faultId,
        choice,
        like,
        refresh,
        at: choice === NO ? null : optionIn(q.body, faultId, choice),
      });
  if (latest.size === 0) return [];
  const faults = await placesBy(db, unitId);
  return [...latest.values()].flatMap(({ faultId, choice, like, refresh, at }): Agreed[] => {
    const own = faults.find((f) => f.id === faultId);
    if (!at || !own) return [];
    const { number, found } = at.fault;
    const { words, priceMinor } = at.option;
    const { place, status: fault } = own;
    const extras = [...(like ? [like] : []), ...refresh];
    return [{ faultId, number, found, choice, words, priceMinor, extras, place, fault }];
  });
}
