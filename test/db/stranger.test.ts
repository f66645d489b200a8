import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import type { Refusal } from "@/contract/refusals";
import { backupOverdue, noteBackup } from "@/features/archive/backup";
import { type Actor, Refused } from "@/platform/deed/base";
import { signIn } from "@/features/people/deeds";
import { answerByToken } from "@/features/questions/deeds";
import { questionByToken } from "@/features/questions/page/view";
import { storeRecording } from "@/features/test/recordings";
import { endSession, openSession, personOfToken, sessionsOf, setPractice } from "@/features/account/sessions";
import { problemOf } from "@/platform/deed/trouble";
import { eventsOf } from "@/features/units/view";
import { withoutValues } from "@/platform/db/trouble";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";
import { one } from "@/core/base/one";

/** What a stranger or an accident would try. */

let db: Knex;
let lead: Actor;
let technician: Actor;

beforeAll(async () => {
  ({ db, lead, technician } = await openShop(10));
});
afterAll(() => closeShop(db));

const { act, takeIn, fullTest } = benchOf(() => ({ db, technician }));

describe("signing in", () => {
  const tries = async (n: number, nameOf: (i: number) => string, address: string) => {
    const done = await Promise.all(
      Array.from({ length: n }, (_, i) => signIn(db, nameOf(i), `wrong password ${i}`, address)),
    );
    return done.filter((d) => !d.ok && d.why === "wrong").length;
  };
  beforeEach(() => db("sign_in_attempt").delete());

  test("eighty tries at once at one name: no more are judged than one after another", async () => {
    expect(await tries(80, () => "Lead", "10.0.0.1")).toBe(5);
    expect(await signIn(db, "Lead", "a-long-password", "10.0.0.1")).toEqual({ ok: false, why: "too-many" });
  });

  test("many names at once from one address: thirty, and everybody elsewhere still comes in", async () => {
    expect(await tries(80, (i) => `nobody ${i}`, "10.0.0.2")).toBe(30);
    expect((await signIn(db, "Lead", "a-long-password", "10.0.0.2")).ok).toBe(false);
    expect((await signIn(db, "Lead", "a-long-password", "10.0.0.3")).ok).toBe(true);
  });

  test("a neighbour's wrong tries at my name do not shut me out at my own address", async () => {
    await tries(20, () => "Tech", "10.0.0.4");
    expect((await signIn(db, "Tech", "a-long-password", "10.0.0.5")).ok).toBe(true);
  });

  test("a right password counts as no wrong try", async () => {
    for (let i = 0; i < 8; i++)
      expect((await signIn(db, "Tech", "a-long-password", "10.0.0.6")).ok).toBe(true);
  });

  test.each([
    "password1234",
    "qwertyuiop12",
    "aaaaaaaaaaaa",
    "Weir Lane Bench1",
    "Newcomer2026!",
    "short one",
  ])("%j is refused as a password", async (password) => {
    const reply = await act("person.add", { name: "Newcomer", role: "viewer", password }, lead);
    expect(["easy-password", "bad-input"]).toContain(codeOf(reply));
    expect(await db("person").where({ name: "Newcomer" })).toEqual([]);
  });
});

describe("sessions", () => {
  const from = { agent: "a browser", address: "10.0.0.1" };

  test("signing out ends it for good, whatever the cookie says", async () => {
    const token = await openSession(db, technician.id, from);
    expect(await personOfToken(db, token, true)).toMatchObject({ name: "Tech", practice: false });
    await endSession(db, token);
    expect(await personOfToken(db, token, true)).toBeNull();
    expect(await personOfToken(db, `${token}x`, true)).toBeNull();
  });

  test("the row does not hold the token", async () => {
    const token = await openSession(db, technician.id, from);
    expect(JSON.stringify(await db("session"))).not.toContain(token);
  });

  test("one that nobody used for the shop's hours is over; a page that asks by itself does not keep it", async () => {
    const token = await openSession(db, technician.id, from);
    const back = (hours: number) =>
      db("session").update({ seen_at: db.raw("now() - make_interval(mins => ?)", [Math.round(hours * 60)]) });
    await back(11.9);
    expect(await personOfToken(db, token, false)).not.toBeNull();
    await back(12.1);
    expect(await personOfToken(db, token, true)).toBeNull();
    await back(11.9);
    expect(await personOfToken(db, token, true)).not.toBeNull(); // used: it begins anew
    const row = one((await db("session").where({ person_id: technician.id }).orderBy("seen_at", "desc"))[0]);
    expect(Date.now() - row.seen_at.getTime()).toBeLessThan(60_000);
  });

  test("they are listed, and only one's own can be ended", async () => {
    await db("session").delete();
    const here = (await personOfToken(db, await openSession(db, technician.id, from), true))!;
    const there = await openSession(db, technician.id, { agent: "a phone", address: "10.0.0.9" });
    const leads = (await personOfToken(db, await openSession(db, lead.id, from), true))!;
    const listed = await sessionsOf(db, here);
    expect(listed.map((s) => [s.agent, s.own])).toEqual(
      expect.arrayContaining([
        ["a browser", true],
        ["a phone", false],
      ]),
    );
    const other = listed.find((s) => !s.own)!;
    expect(codeOf(await act("session.end", { sessionId: other.id }, leads))).toBe("not-found");
    expect(codeOf(await act("session.end", { sessionId: other.id }, here))).toBe("done");
    expect(await personOfToken(db, there, true)).toBeNull();
    expect(await sessionsOf(db, here)).toHaveLength(1);
  });

  test("a new lead and a calendar's key ask for the password again", async () => {
    const token = await openSession(db, lead.id, from);
    const add = (who: Actor, name: string) =>
      act("person.add", { name, role: "lead", password: "nine tame herons walk" }, who).then(codeOf);
    const asked = (await personOfToken(db, token, true))!;
    expect(await add(asked, "Second")).toBe("confirm-password");
    expect(codeOf(await act("feed.make", { name: "phone" }, asked))).toBe("confirm-password");
    expect(
      codeOf(await act("person.change", { personId: technician.id, role: "lead", active: true }, asked)),
    ).toBe("confirm-password");
    await db("session").where({ id: asked.session!.id }).update({ confirmed_at: db.fn.now() });
    expect(await add((await personOfToken(db, token, true))!, "Second")).toBe("done");
    await db("session")
      .where({ id: asked.session!.id })
      .update({ confirmed_at: db.raw("now() - interval '6 minutes'") });
    expect(await add((await personOfToken(db, token, true))!, "Third")).toBe("confirm-password");
  });

  test("practice that is gone leaves nobody on a bench that is not there", async () => {
    const token = await openSession(db, technician.id, from);
    const { session } = (await personOfToken(db, token, true))!;
    await setPractice(db, session!.id, true);
    await db.raw("drop schema if exists practice cascade");
    expect(await personOfToken(db, token, true)).toMatchObject({ practice: false });
  });
});

describe("what goes wrong is said as what it is", () => {
  const problem = async (sql: string): Promise<Refusal> => {
    try {
      await db.raw(sql);
    } catch (error) {
      return problemOf(error, { what: "test" });
    }
    throw new Error("nothing went wrong");
  };

  test.each([
    ["select 99999999999::int", "bad-input"],
    ["select '0000-01-01'::date", "bad-input"],
    ["select '\"\\ud800\"'::jsonb", "bad-input"],
    ["select 1/0", "bad-input"],
    ["select * from no_such_table", "unexpected"],
    ["do $$ begin raise serialization_failure; end $$", "busy"],
    ["do $$ begin raise exception using errcode = '57P01'; end $$", "away"],
  ])("%s is %s", async (sql, code) => expect((await problem(sql)).code).toBe(code));

  test("a database that is not there is away", () => {
    const error = Object.assign(new Error("connect ECONNREFUSED 127.0.0.1:1"), { code: "ECONNREFUSED" });
    expect(problemOf(error, { what: "test" })).toEqual({ code: "away" });
  });

  test("a defect has a number, and neither it nor the log holds a value that somebody typed", async () => {
    const caught = await db("person")
      .insert({ name: "Lead", role: "lead", password_hash: "a secret hash" })
      .then(
        () => null,
        (e: unknown) => e as Error,
      );
    const all = JSON.stringify({ ...caught, message: caught!.message, stack: caught!.stack });
    expect(all).toContain("23505");
    for (const secret of ["(Lead)", "a secret hash", "already exists", "Key ("])
      expect(all).not.toContain(secret);
    expect(problemOf(caught, { what: "test" })).toEqual({
      code: "unexpected",
      number: expect.stringMatching(/^[0-9a-f]{8}$/),
    });
  });

  test("an error of ours passes as it is", () => {
    const own = new TypeError("left is undefined");
    expect(withoutValues(own)).toBe(own);
  });

  test("numbers and days beyond sense are refused before the database sees them", async () => {
    const { unitId } = await takeIn();
    for (const input of [
      { unitId, version: 2 ** 40, dueOn: null },
      { unitId, version: 1, dueOn: "0000-01-01" },
      { unitId, version: 1, dueOn: "9999-12-31" },
      { unitId, version: 1e308, dueOn: null },
    ]) {
      const reply = await act("unit.set-due", input);
      expect(codeOf(reply)).toBe("bad-input");
      expect(JSON.stringify(reply)).not.toMatch(/expected|Invalid|<=|>=/); // our words, never the validator's
    }
  });
});

describe("a hostile recording", () => {
  const store = (text: string | Buffer, unitId: string) =>
    storeRecording(
      db,
      technician,
      {
        id: randomUUID(),
        unitId,
        purpose: "full",
        source: "import",
        tester: { label: "t", host: "h" },
        startedAgoMs: 15 * 24 * 3600_000, // it waited in a browser for longer than a session lives
      },
      Buffer.from(text),
    ).then(
      () => "stored",
      (e: unknown) => (e instanceof Refused ? e.problem.code : String(e)),
    );

  test.each([
    ["a cell of two hundred thousand digits", `t_ms,step,a0\n0,rest,${"7".repeat(200_000)}x\n`],
    ["a time beyond all clocks", "t_ms,step,a0\n1e308,rest,0\n"],
    ["a time of a year", `t_ms,step,a0\n0,rest,0\n${365 * 24 * 3600_000},rest,0\n`],
    ["a line without an end", "t_ms,step,a0,".repeat(100_000)],
    ["a quote that never closes", `t_ms,step\n0,"rest\n${"4,rest\n".repeat(100_000)}`],
  ])("%s is refused in words, at once", async (_name, text) => {
    const { unitId } = await takeIn();
    const began = performance.now();
    expect(await store(text, unitId)).toBe("recording");
    expect(performance.now() - began).toBeLessThan(3000);
  });

  test("half a character in a name is kept out of the database or kept whole, never a defect", async () => {
    const { unitId } = await takeIn();
    expect(await store("t_ms,step,control\n0,rest,\ud800\n", unitId)).toBe("recording");
  });

  test("one id is one unit's recording, also when two are sent at once", async () => {
    const [a, b] = [await takeIn(), await takeIn()];
    const id = randomUUID();
    const send = (unitId: string) =>
      fullTest(unitId, { id }).then(
        () => "stored",
        (e: unknown) => (e instanceof Refused ? e.problem.code : String(e)),
      );
    expect((await Promise.all([send(a.unitId), send(b.unitId)])).sort()).toEqual(["already", "stored"]);
    expect(await db("recording").where({ id })).toHaveLength(1);
  });
});

describe("a question to a customer", () => {
  const asked = async () => {
    const customer = await valueOf(await act("customer.add", { name: "Orsolya Pike", contact: "" }));
    const { unitId } = await takeIn({ origin: { source: "customer", customerId: customer.id! } });
    const { id: faultId } = await valueOf(
      await act("fault.add", {
        unitId,
        place: "face.south",
        kind: "misses",
        words: "",
        foundWhen: "test",
        claimed: true,
        measure: null,
        recordingId: null,
      }),
    );
    const option = { key: "dome", words: "new dome sheet", priceMinor: 900, days: 3, warrantyDays: 90 };
    const { token } = await valueOf(
      await act("question.send", {
        unitId,
        days: 5,
        body: {
          v: 1,
          findings: "it is worn",
          faults: [{ faultId: faultId!, number: 1, found: "face south", options: [option] }],
        },
      }),
    );
    const post = (choice: string, changes: boolean) =>
      answerByToken(db, token!, {
        requestId: randomUUID(),
        confirmed: true,
        answer: { name: "Orsolya", words: "", changes, choices: [{ faultId: faultId!, choice }] },
      });
    return { unitId, token: token!, post };
  };

  test("taken back, it shows no offer and no answer any more", async () => {
    const { token, unitId, post } = await asked();
    await post("dome", false);
    const { id } = one(await db("question").where({ unit_id: unitId }).first("id"));
    expect(JSON.stringify(await questionByToken(db, token))).toContain("new dome sheet");
    await valueOf(await act("question.withdraw", { questionId: id }));
    const shown = (await questionByToken(db, token))!;
    expect(shown.state).toBe("withdrawn");
    for (const word of ["new dome sheet", "900", "it is worn", "Orsolya"])
      expect(JSON.stringify(shown)).not.toContain(word);
  });

  test("a mind is changed three times on the page, then by the workshop", async () => {
    const { token, post } = await asked();
    expect(await post("dome", false)).toEqual({ ok: true });
    for (const choice of ["no", "dome", "no"]) {
      expect((await questionByToken(db, token))!.mayChange).toBe(true);
      expect(await post(choice, true)).toEqual({ ok: true });
    }
    expect((await questionByToken(db, token))!.mayChange).toBe(false);
    expect(await post("dome", true)).toMatchObject({
      ok: false,
      problem: { code: "question-over", why: "changed-often" },
    });
  });

  test("the answer stands in the record as the customer's, not as the colleague's who asked", async () => {
    const { unitId, post } = await asked();
    await post("dome", false);
    const events = await eventsOf(db, unitId);
    expect(events.find((e) => e.kind === "question-answered")).toMatchObject({
      by: null,
      body: { name: "Orsolya" },
    });
    expect(events.find((e) => e.kind === "question-sent")).toMatchObject({ by: "Tech" });
    await expect(db("event").insert({ kind: "unit-taken-in", unit_id: unitId, body: "{}" })).rejects.toThrow(
      "event_by_whom",
    );
  });
});

test("a lead is told when the last good backup is older than a day", async () => {
  const hours = (n: number) => new Date(Date.now() + n * 3600_000);
  expect(await backupOverdue(db)).toBeNull(); // a workshop of today
  expect(await backupOverdue(db, hours(25))).toEqual({ last: null });
  const takenAt = new Date();
  await noteBackup(db, { file: "x.backup", bytes: 1, takenAt });
  expect(await backupOverdue(db, hours(23))).toBeNull();
  expect(await backupOverdue(db, hours(25))).toEqual({ last: takenAt.toISOString() });
});
