import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { MOST_REMINDERS } from "@/core/record/reminders";
import { questionsOf } from "@/features/case/asked";
import { unitById } from "@/features/case/facts";
import { answerByToken, awaitedAnswers } from "@/features/questions/deeds";
import { purposeOf } from "@/features/stock/fit";
import type { Actor } from "@/platform/deed/base";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";

/** A customer who does not answer is reminded so often and no more; and what they say of its use counts at once. */

let db: Knex;
let technician: Actor;
const { act, takeIn } = benchOf(() => ({ db, technician }));

beforeAll(async () => ({ db, technician } = await openShop(18)), 120_000);
afterAll(() => closeShop(db));

async function asked(sentDaysAgo: number) {
  const by = { ...technician, at: new Date(Date.now() - sentDaysAgo * 24 * 3600_000) };
  const customer = await valueOf(
    await act("customer.add", { name: "Teal Marsh", contact: "teal@mail.example" }),
  );
  const { unitId, tag } = await takeIn({
    origin: { source: "customer", customerId: customer.id as Id<"customer"> },
  });
  const fault = await valueOf(
    await act("fault.add", {
      unitId,
      place: "stick.left",
      kind: "worn",
      words: "",
      foundWhen: "test",
      measure: "restOffset",
      recordingId: null,
    }),
  );
  const options = [{ key: "way", words: "a new one", priceMinor: 900, days: 3, warrantyDays: 90 }];
  await valueOf(
    await act(
      "question.send",
      {
        unitId,
        days: 10,
        body: {
          v: 1,
          findings: "",
          faults: [{ faultId: fault.id as Id<"fault">, number: 1, found: "worn", options }],
        },
      },
      by,
    ),
  );
  const [question] = await questionsOf(db, unitId as Id<"unit">);
  return { unitId: unitId as Id<"unit">, tag, question: question!, faultId: fault.id as Id<"fault"> };
}
const reminderAt = async (tag: string) => (await awaitedAnswers(db)).find((a) => a.tag === tag)!.reminder;

test("a reminder is due once nobody answered for long; each puts the next one off, and the third is the last", async () => {
  const fresh = await asked(0.5);
  expect((await reminderAt(fresh.tag)).code).toBe("later");
  const { tag, unitId, question } = await asked(4);
  expect((await reminderAt(tag)).code).toBe("due");
  await valueOf(await act("question.remind", { questionId: question.id }));
  expect((await reminderAt(tag)).code).toBe("later");
  expect((await questionsOf(db, unitId))[0]!.reminded).toHaveLength(1);
  for (let n = 1; n < MOST_REMINDERS; n++)
    await valueOf(await act("question.remind", { questionId: question.id }));
  expect(await reminderAt(tag)).toEqual({ code: "often", count: MOST_REMINDERS });
  expect(codeOf(await act("question.remind", { questionId: question.id }))).toBe("already");
});

test("nobody is reminded of what has run out, was answered or taken back", async () => {
  const late = await asked(11);
  expect(await act("question.remind", { questionId: late.question.id })).toMatchObject({
    problem: { code: "question-over", why: "expired" },
  });
  const nearly = await asked(9.5);
  expect((await reminderAt(nearly.tag)).code).toBe("due");
  await valueOf(await act("question.remind", { questionId: nearly.question.id }));
  // the next one would come after the last day
  expect((await reminderAt(nearly.tag)).code).toBe("lapses");
  await valueOf(await act("question.withdraw", { questionId: nearly.question.id }));
  expect(codeOf(await act("question.remind", { questionId: nearly.question.id }))).toBe("question-over");
});

test("what they use it for goes with their answer, sets what parts are good for, and is kept as a change", async () => {
  const { unitId, question, faultId } = await asked(1);
  expect(purposeOf(await unitById(db, unitId))).toBe("sale");
  const answer = {
    name: "Teal",
    words: "",
    changes: false,
    use: "precise" as const,
    choices: [{ faultId, choice: "way" }],
  };
  expect(
    await answerByToken(db, question.token, { requestId: randomUUID(), confirmed: true, answer }),
  ).toEqual({ ok: true });
  expect(purposeOf(await unitById(db, unitId))).toBe("precise");
  const bodies = async () =>
    (await db("event").where({ unit_id: unitId, kind: "question-answered" }).orderBy("id")).map(
      (e) => e.body,
    );
  expect((await bodies())[0]).toMatchObject({ use: "precise", was: "unknown" });
  // the same said again changes nothing
  const again = { ...answer, changes: true };
  await answerByToken(db, question.token, { requestId: randomUUID(), confirmed: true, answer: again });
  expect((await bodies())[1]).not.toHaveProperty("use");
});
