import "server-only";

import { randomBytes } from "node:crypto";

import type { Knex } from "knex";
import type { z } from "@/core/base/schema";

import type { Refusal } from "@/contract/refusals";
import type { postedAnswerSchema } from "@/contract/question";
import { type Answer, MOST_CHANGES, NO } from "@/contract/question";
import {
  agreedOf,
  answersOf,
  questionsOf,
  type QuestionView,
  remindersOf,
  standingsOf,
  stateOf,
} from "@/features/case/asked";
import { loadRoutes } from "@/features/routes/deeds";
import { type Actor, nothing, Refused, stamp } from "@/platform/deed/base";
import { deed, namedUnit, unitOf } from "@/platform/deed/declare";
import { runEvents } from "@/platform/run/run";
import { one } from "@/core/base/one";
import { computed, rowOf, rowsOf } from "@/platform/db/joined";
import { nextNumber } from "@/features/case/workable";
import { say } from "@/features/decide/words/words";
import { MOST_REMINDERS, type Reminder, reminderOf } from "@/core/record/reminders";
import type { Intake } from "@/contract/intake";
import type { Id } from "@/core/base/ids";

/** The customer's yes: questions by an unguessable address, answers that are only ever added. */

const TOKEN_BYTES = 20; // 160 random bits
const DAY_MS = 24 * 3600_000;

export const sendQuestion = deed(
  "question.send",
  { unit: namedUnit, workable: true },
  async ({ db, actor, note }, { unitId, body, days }) => {
    const own = await db("fault").where({ unit_id: unitId, status: "open" }).select("id", "number");
    for (const f of body.faults)
      if (!own.some((o) => o.id === f.faultId && o.number === f.number))
        throw new Refused({ code: "not-found", what: say("openFault") });
    const pictures = await db("photo").where({ unit_id: unitId, removed: false }).whereIn("id", body.photos);
    if (pictures.length !== new Set(body.photos).size)
      throw new Refused({ code: "not-found", what: "photograph" });
    const token = randomBytes(TOKEN_BYTES).toString("base64url");
    const now = actor.at ?? new Date();
    await db("question").insert({
      unit_id: unitId,
      number: await nextNumber(db, "question", unitId),
      token,
      body: JSON.stringify(body),
      expires_at: new Date(now.getTime() + days * DAY_MS),
      ...stamp(db, actor),
    });
    note("question-sent", unitId, { faults: body.faults.map((f) => f.number), days });
    return { token };
  },
);

export const withdrawQuestion = deed(
  "question.withdraw",
  { unit: unitOf("question", (i) => i.questionId, "question") },
  async ({ db, actor, note }, { questionId }) => {
    const rows = await db("question")
      .where({ id: questionId, withdrawn_at: null })
      .update({ withdrawn_at: actor.at ?? db.fn.now() })
      .returning("unit_id");
    if (rows.length !== 1) throw new Refused({ code: "not-found", what: "question" });
    note("question-withdrawn", one(rows[0]).unit_id, { questionId });
    return nothing;
  },
);

/** Notes that the customer was reminded: what is due next, and when it is over, follows from that. */
export const remind = deed(
  "question.remind",
  { unit: unitOf("question", (i) => i.questionId, "question") },
  async ({ db, note, unit }, { questionId }) => {
    const q = (await questionsOf(db, unit.id)).find((x) => x.id === questionId)!;
    if (unit.ending !== null) throw new Refused({ code: "question-over", why: "closed" });
    if (q.state !== "waiting") throw new Refused({ code: "question-over", why: q.state });
    if (q.reminded.length >= MOST_REMINDERS) throw new Refused({ code: "already", what: "reminded" });
    note("question-reminded", unit.id, { question: questionId, number: q.number });
    return nothing;
  },
);

/**
 * Refuses work at a fault that waits for a yes, to which no was said, or that was agreed to be mended otherwise.
 * @param route how it is to be mended; null for a way of one's own, which is not what was agreed either
 */
export async function mustHaveYes(
  db: Knex,
  unitId: Id<"unit">,
  fault: { id: string; number: number; place: string },
  route: string | null,
): Promise<void> {
  const standing = (await standingsOf(db, unitId)).find((s) => s.faultId === fault.id);
  if (standing?.state === "waiting") throw new Refused({ code: "yes-awaited", number: fault.number });
  if (standing?.state === "no") throw new Refused({ code: "no-was-said", number: fault.number });
  const agreed = (await agreedOf(db, unitId)).find((a) => a.faultId === fault.id || a.place === fault.place);
  // an option of the shop's own words names no route, and any may be it
  const isRoute = async (id: string) => (await loadRoutes(db)).value.some((r) => r.id === id);
  if (agreed && agreed.choice !== route && (await isRoute(agreed.choice)))
    throw new Refused({ code: "other-agreed", number: fault.number, agreed: agreed.words });
}

/**
 * Writes an answer down; says what is to be noted of it, or null when this very answer stands there already.
 */
async function write(
  db: Knex,
  questionId: Id<"question">,
  requestId: string,
  answer: Answer,
  cameBy: "page" | "told",
  actor: Actor | null,
): Promise<{ unitId: Id<"unit">; body: object } | null> {
  const row = await rowOf(
    db("question as q").join("unit as u", "u.id", "q.unit_id").where({ "q.id": questionId }).forUpdate("q"),
    { q: "question", u: "unit" },
    "q.*",
    "u.ending",
    "u.intake",
  );
  if (!row) throw new Refused({ code: "not-found", what: "question" });
  const body = row.body;
  const earlier = await answersOf(db, [questionId]);
  if (earlier.some((a) => a.request_id === requestId)) return null;
  if (row.ending !== null) throw new Refused({ code: "question-over", why: "closed" });
  if (row.withdrawn_at) throw new Refused({ code: "question-over", why: "withdrawn" });
  if (row.expires_at.getTime() < Date.now() && cameBy === "page")
    throw new Refused({ code: "question-over", why: "expired" });
  if (earlier.length > 0 && !answer.changes) throw new Refused({ code: "question-over", why: "answered" });
  // each answer has one row a fault
  const given = new Set(earlier.filter((a) => a.came_by === "page").map((a) => a.at.getTime())).size;
  if (cameBy === "page" && given > MOST_CHANGES)
    throw new Refused({ code: "question-over", why: "changed-often" });
  const bad = (message: string) => new Refused({ code: "bad-input", issues: [{ path: "choices", message }] });
  const choices = answer.choices.map((c) => {
    const fault = body.faults.find((f) => f.faultId === c.faultId);
    if (!fault) throw bad(say("thisFaultIsNotInThe"));
    const option = fault.options.find((o) => o.key === c.choice);
    if (!option && c.choice !== NO) throw bad(say("chooseOneOfTheOptionsOr"));
    if (c.like && !option?.like) throw bad(say("noLikePartIsOffered"));
    return { fault, option, choice: c.choice, like: c.like ? option!.like : null };
  });
  if (answer.refresh && (body.refresh.length === 0 || choices.every((c) => !c.option)))
    throw bad(say("noRefreshIsOffered"));
  const extra = answer.refresh ? body.refresh : [];
  const refreshed = choices.findIndex((c) => c.option);
  if (new Set(choices.map((c) => c.fault.faultId)).size !== body.faults.length)
    throw bad(say("chooseForEveryFault"));
  for (const [i, c] of choices.entries())
    await db("answer").insert({
      // one request is one answer: the first row holds its id, the others ids of their own
      request_id: i === 0 ? requestId : db.raw("gen_random_uuid()"),
      question_id: questionId,
      fault_id: c.fault.faultId,
      choice: c.choice,
      wording: JSON.stringify(
        c.option
          ? {
              ...c.option,
              found: c.fault.found,
              // a like part that the refresh takes in is not wanted twice
              like: extra.some((r) => r.place === c.like?.place) ? null : c.like,
              refresh: i === refreshed ? extra : [],
            }
          : { words: say("noWorkAtThis"), found: c.fault.found, like: null, refresh: [] },
      ),
      name: answer.name,
      words: answer.words,
      came_by: cameBy,
      by: actor?.id ?? null,
    });
  const said = choices.map((c) => ({
    fault: c.fault.number,
    choice: c.choice,
    ...(c.like ? { like: c.like.place } : {}),
  }));
  const use = await saidUse(db, row.unit_id, row.intake, answer);
  return {
    unitId: row.unit_id,
    body: {
      number: row.number,
      name: answer.name,
      cameBy,
      choices: said,
      ...(use ?? {}),
      ...(answer.refresh ? { refresh: extra.length } : {}),
    },
  };
}

/** What they use it for, where they said it anew: parts and their grade follow it. Says what it was before. */
async function saidUse(
  db: Knex,
  unitId: Id<"unit">,
  intake: Intake,
  { use }: Answer,
): Promise<{ use: Intake["use"]; was: Intake["use"] } | null> {
  if (use === undefined || use === intake.use) return null;
  await db("unit")
    .where({ id: unitId })
    .update({ intake: JSON.stringify({ ...intake, use }), version: db.raw("version + 1") });
  return { use, was: intake.use };
}

export const recordAnswer = deed(
  "question.record",
  { unit: unitOf("question", (i) => i.questionId, "question") },
  async ({ db, actor, note }, { questionId, answer }) => {
    const said = await write(db, questionId, crypto.randomUUID(), answer, "told", actor);
    if (said) note("question-answered", said.unitId, said.body);
    return nothing;
  },
);

export const TOKEN = /^[A-Za-z0-9_-]{20,60}$/;

/** The posted, confirmed answer from the customer's page. */
export async function answerByToken(
  db: Knex,
  token: string,
  posted: z.infer<typeof postedAnswerSchema>,
): Promise<{ ok: true } | { ok: false; problem: Refusal }> {
  const row = TOKEN.test(token) ? await db("question").where({ token }).first("id") : null;
  if (!row) return { ok: false, problem: { code: "not-found", what: "question" } };
  try {
    await db.transaction(async (trx) => {
      const said = await write(trx, row.id, posted.requestId, posted.answer, "page", null);
      // what the customer did on their own page is nobody else's: their name stands in the body
      if (said)
        await runEvents(trx, [{ kind: "question-answered", unitId: said.unitId, body: said.body, by: null }]);
    });
    return { ok: true };
  } catch (error) {
    if (error instanceof Refused) return { ok: false, problem: error.problem };
    throw error;
  }
}

export type Awaited = {
  tag: string;
  unitId: Id<"unit">;
  number: number;
  customer: string;
  sentAt: string;
  expiresAt: string;
  state: QuestionView["state"];
  isOpen: boolean;
  /** of one that waits: when they are reminded, and whether that is over */
  reminder: Reminder;
};

/**
 * Questions of units in house: those that wait, the unit lying open first, and those answered in the last
 * three days.
 */
export async function awaitedAnswers(db: Knex): Promise<Awaited[]> {
  const rows = await rowsOf(
    db("question as q")
      .join("unit as u", "u.id", "q.unit_id")
      .leftJoin("customer as c", "c.id", "u.customer_id")
      .whereNull("u.ending")
      .whereNull("q.withdrawn_at")
      .orderBy("q.at"),
    { q: "question", c: "customer?", u: "unit" },
    "q.id",
    "q.number",
    "q.at",
    "q.expires_at",
    "q.withdrawn_at",
    "u.tag",
    "u.id as unit_id",
    "c.name as customer",
    computed<{ answered_at: Date | null }>(
      db.raw("(select max(at) from answer where question_id = q.id) as answered_at"),
    ),
    computed<{ is_open: boolean }>(
      db.raw(
        "exists (select 1 from mend m where m.unit_id = u.id and m.opened and not exists (select 1 from recording r where r.unit_id = u.id and r.purpose = 'full' and r.started_at > m.at)) as is_open",
      ),
    ),
  );
  const reminded = await remindersOf(
    db,
    rows.map((r) => r.unit_id),
  );
  return rows
    .filter((r) => !r.answered_at || Date.now() - r.answered_at.getTime() < 3 * DAY_MS)
    .map((r) => ({
      tag: r.tag,
      unitId: r.unit_id,
      number: r.number,
      customer: r.customer ?? "",
      sentAt: r.at.toISOString(),
      expiresAt: r.expires_at.toISOString(),
      state: stateOf(r, r.answered_at !== null),
      isOpen: r.is_open,
      reminder: reminderOf(
        {
          sentAt: r.at.toISOString(),
          expiresAt: r.expires_at.toISOString(),
          isOpen: r.is_open,
          reminded: reminded.get(r.id) ?? [],
        },
        new Date(),
      ),
    }))
    .sort((a, b) => Number(b.isOpen) - Number(a.isOpen));
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [recordAnswer, remind, sendQuestion, withdrawQuestion] as const;
