import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import type { PaperKind } from "@/contract/papers";
import type { Id } from "@/core/base/ids";
import { one } from "@/core/base/one";
import { doDeed } from "@/features/deeds";
import { paperRow, PAPER_COLUMNS } from "@/features/papers/book";
import { paperBook, papersOf } from "@/features/papers/view";
import { answerByToken } from "@/features/questions/deeds";
import { billByToken, questionByToken } from "@/features/questions/page/view";
import { releaseView } from "@/features/release/view";
import { loadSettings } from "@/features/settings/settings";
import type { Actor } from "@/platform/deed/base";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";

/** Papers: one of each thing, numbers without a gap, nothing edited, amounts that nobody typed. */

let db: Knex;
let lead: Actor;
let technician: Actor;
const { act, takeIn, fullTest, answerAll, release, ready, look } = benchOf(() => ({ db, technician }));

beforeAll(async () => ({ db, lead, technician } = await openShop(15)), 120_000);
afterAll(() => closeShop(db));

const taxed = async (tax: "none" | "full" | "margin", taxRate = 0.25) => {
  const { settings, version } = await loadSettings(db);
  const rates = { ...settings.rates, tax, taxRate };
  await valueOf(
    await doDeed(db, lead, "settings.save", randomUUID(), { version, settings: { ...settings, rates } }),
  );
};
const issue = (unitId: string, kind: PaperKind, questionId: string | null = null) =>
  act("paper.issue", { unitId, kind, questionId });
const papers = async (unitId: string) => papersOf(db, one(await db("unit").where({ id: unitId }).first()));
const bought = (priceMinor: number) =>
  takeIn({
    origin: { source: "single", seller: "Aldo Crane", priceMinor, carriageMinor: 400 },
    claim: "works, box opened",
  });

/** A customer's unit whose south button misses, with one option that is offered, answered by `choice`. */
async function asked(choice: string | null) {
  const owner = await valueOf(await act("customer.add", { name: "Wren Alder", contact: "Mill Lane 3" }));
  const unit = await takeIn({
    origin: { source: "customer", customerId: owner.id! },
    claim: "the lower one sticks",
  });
  await fullTest(unit.unitId, { bad: true });
  const { id: faultId } = await valueOf(
    await act("fault.add", {
      unitId: unit.unitId,
      place: "face.south",
      kind: "misses",
      words: "",
      foundWhen: "test",
      measure: "decision",
      recordingId: null,
    }),
  );
  const option = { key: "dome-dear", words: "A new dome sheet", priceMinor: 3200, days: 3, warrantyDays: 90 };
  const faults = [{ faultId: faultId!, number: 1, found: "face south: misses", options: [option] }];
  const body = { v: 1 as const, findings: "One button misses.", faults };
  const { token } = await valueOf(await act("question.send", { unitId: unit.unitId, days: 10, body }));
  const { id: questionId } = one(await db("question").where({ unit_id: unit.unitId }).first("id"));
  if (choice !== null)
    await answerByToken(db, token!, {
      requestId: randomUUID(),
      confirmed: true,
      answer: { name: "Wren", words: "", changes: false, choices: [{ faultId: faultId!, choice }] },
    });
  return { ...unit, token: token!, questionId: questionId as string, faultId: faultId! };
}
const mendIt = async ({ unitId, tag, faultId }: Awaited<ReturnType<typeof asked>>) => {
  await valueOf(
    await act("mend.add", {
      unitId,
      faultId,
      what: "Dome sheet replaced",
      part: "dome sheet",
      minutes: 20,
      remark: "",
      opened: true,
      settlesFault: true,
      route: "dome-dear",
      partMinor: 400,
    }),
  );
  await fullTest(unitId);
  await answerAll(tag);
};
const handBack = (unitId: string, kind: "sold" | "returned", priceMinor: number, buyer = "") =>
  act("unit.hand-over", {
    unitId,
    kind,
    channel: "counter",
    priceMinor,
    handedOn: "2026-11-28",
    buyer,
    contact: "",
  });

test("a receipt says what was paid to whom, once; a customer's own unit has none", async () => {
  const { unitId, tag } = await bought(2150);
  expect(await valueOf(await issue(unitId, "receipt"))).toMatchObject({ number: 1 });
  expect(await issue(unitId, "receipt")).toMatchObject({
    problem: { code: "paper-written", kind: "receipt", number: 1 },
  });
  const { body } = one((await papers(unitId))[0]);
  expect(body).toMatchObject({
    other: { name: "Aldo Crane" },
    claim: "works, box opened",
    sumMinor: 2150, // the carriage went to the carrier
    tax: { scheme: "none", taxMinor: 0 },
  });
  expect(body.lines[0]!.words).toContain(tag);
  const { unitId: theirs } = await asked(null);
  expect(await issue(theirs, "receipt")).toMatchObject({
    problem: { code: "nothing-to-bill", why: "not-bought" },
  });
});

test("a lot is bought with one receipt, seen from each of its units", async () => {
  const lot = await valueOf(
    await act("lot.add", { code: "L-77", seller: "Fen Barn", priceMinor: 4200, carriageMinor: 600 }),
  );
  const first = await takeIn({ origin: { source: "lot", lotId: lot.id!, count: 3 } });
  const { unitId: second } = await takeIn({ origin: { source: "lot", lotId: lot.id! } });
  await valueOf(await issue(first.unitId, "receipt"));
  expect(codeOf(await issue(second, "receipt"))).toBe("paper-written");
  const { body } = one((await papers(second))[0]);
  expect(body.sumMinor).toBe(4200);
  expect(body.lines[0]!.detail.split(", ")).toHaveLength(4);
});

test("an offer holds every choice and owes nothing; a question that was taken back is not offered", async () => {
  const unit = await asked(null);
  await valueOf(await issue(unit.unitId, "offer", unit.questionId));
  const { body } = one((await papers(unit.unitId))[0]);
  expect(body.lines.map((l) => l.amountMinor)).toEqual([null, 3200]);
  expect(body).toMatchObject({
    sumMinor: 0,
    claim: "the lower one sticks",
    findings: "One button misses.",
    other: { name: "Wren Alder", contact: "Mill Lane 3" },
  });
  const other = await asked(null);
  await valueOf(await act("question.withdraw", { questionId: other.questionId }));
  expect(codeOf(await issue(other.unitId, "offer", other.questionId))).toBe("not-found");
  // nor one of another unit
  expect(codeOf(await issue(other.unitId, "offer", unit.questionId))).toBe("not-found");
});

test("no bill before the unit is closed, then what was agreed, done and covered; the customer sees it too", async () => {
  await taxed("margin");
  const unit = await asked("dome-dear");
  expect(await issue(unit.unitId, "bill")).toMatchObject({
    problem: { code: "nothing-to-bill", why: "not-closed" },
  });
  expect((await questionByToken(db, unit.token))!.bill).toBeNull();
  await mendIt(unit);
  await valueOf(await release(unit.tag, technician, { priceMinor: 3000, warrantyDays: 60 }));
  await valueOf(await handBack(unit.unitId, "returned", 3000));
  await valueOf(await issue(unit.unitId, "bill"));
  const { body } = one((await papers(unit.unitId))[0]);
  expect(body.lines.map((l) => l.amountMinor)).toEqual([3200, -200]); // they were asked for less
  expect(body.sumMinor).toBe(3000);
  // work is no second-hand good: it bears the whole tax also in a shop under the margin
  expect(body.tax).toEqual({ scheme: "full", rate: 0.25, netMinor: 2400, taxMinor: 600 });
  expect(body.done.some((d) => d.what.includes("Dome sheet replaced"))).toBe(true);
  expect(body.covers).toEqual([{ name: "the unit", days: 60, until: "2027-01-27" }]);
  expect((await questionByToken(db, unit.token))!.bill).toEqual({ number: 1, sumMinor: 3000 });
  expect((await billByToken(db, unit.token))?.body.sumMinor).toBe(3000);
  expect(await billByToken(db, "x".repeat(27))).toBeNull();
});

test("what the customer turned down is printed and not billed", async () => {
  const unit = await asked("no");
  const { unit: row } = await look(unit.tag);
  await valueOf(
    await act("unit.end", {
      unitId: unit.unitId,
      version: row.version,
      kind: "returned-unmended",
      known: "south misses",
      priceMinor: 0,
    }),
  );
  await valueOf(await issue(unit.unitId, "bill"));
  const { body } = one((await papers(unit.unitId))[0]);
  expect(body.refused).toEqual(["face south: misses"]);
  expect(body.sumMinor).toBe(0);
});

test("a sale is billed to its buyer; its margin is taxed in the books and not on the paper", async () => {
  await taxed("margin");
  const { unitId, tag } = await ready({
    origin: { source: "single", seller: "", priceMinor: 2000, carriageMinor: 500 },
  });
  await valueOf(await release(tag));
  expect(await issue(unitId, "bill")).toMatchObject({
    problem: { code: "nothing-to-bill", why: "not-sold" },
  });
  await valueOf(await handBack(unitId, "sold", 5000, "Ida Moss"));
  await valueOf(await issue(unitId, "bill"));
  const { body } = one((await papers(unitId))[0]);
  expect(body).toMatchObject({
    other: { name: "Ida Moss" },
    tax: { scheme: "margin", taxMinor: 0, netMinor: 5000 },
    books: { purchaseMinor: 2500, owedMinor: 500 },
  });
});

test("a correction is another paper with the next number; the first stays, and is corrected once", async () => {
  await taxed("full");
  const { unitId, tag } = await ready();
  await valueOf(await release(tag));
  await valueOf(await handBack(unitId, "sold", 5000, "Ida Moss"));
  const first = await valueOf(await issue(unitId, "bill"));
  await valueOf(await handBack(unitId, "sold", 4500, "Ida Moss"));
  const correct = (paperId: string, why: string, more: { contact?: string; takeBack?: boolean } = {}) =>
    act("paper.correct", { unitId, paperId, why, ...more });
  expect(codeOf(await correct(first.id!, " "))).toBe("bad-input");
  const second = await valueOf(await correct(first.id!, "The price was haggled down."));
  expect(Number(second.number)).toBe(Number(first.number) + 1);
  expect(await correct(first.id!, "Once more.")).toMatchObject({
    problem: { code: "paper-written", number: second.number },
  });
  const [now, was] = await papers(unitId);
  expect(was).toMatchObject({ body: { sumMinor: 5000, corrects: null }, correctedBy: second.number });
  expect(now).toMatchObject({
    body: { sumMinor: 4500, corrects: { number: first.number, sumMinor: 5000 } },
    correctedBy: null,
  });
  await expect(db("paper").where({ id: first.id }).update({ number: 99 })).rejects.toThrow(/append-only/);
  await expect(db("paper").where({ id: second.id }).delete()).rejects.toThrow(/append-only/);
  // opened again, what was sold stays sold: a wrong address takes no money back, only saying so does
  const { unit } = await look(tag);
  await valueOf(await act("unit.reopen", { unitId, version: unit.version, why: "came back at once" }, lead));
  const third = await valueOf(
    await correct(second.id!, "The address was wrong.", { contact: "Mill Lane 9" }),
  );
  expect(one((await papers(unitId))[0]).body).toMatchObject({
    sumMinor: 4500,
    other: { name: "Ida Moss", contact: "Mill Lane 9" },
    tax: { taxMinor: 900 },
  });
  await valueOf(await correct(third.id!, "The money went back.", { takeBack: true }));
  expect(one((await papers(unitId))[0]).body).toMatchObject({
    sumMinor: 0,
    lines: [],
    tax: { taxMinor: 0 },
    books: { owedMinor: 0 },
  });
});

test("what was billed once is not billed again when the unit comes back", async () => {
  const unit = await asked("dome-dear");
  await mendIt(unit);
  await valueOf(await release(unit.tag, technician, { priceMinor: 3200 }));
  await valueOf(await handBack(unit.unitId, "returned", 3200));
  await valueOf(await issue(unit.unitId, "bill"));
  const { unit: row } = await look(unit.tag);
  await valueOf(
    await act("unit.came-back", {
      unitId: unit.unitId,
      version: row.version,
      mendId: null,
      words: "the strap is torn",
    }),
  );
  expect(one((await releaseView(db, unit.unitId as Id<"unit">)).bill).lines).toEqual([]);
  await fullTest(unit.unitId);
  await answerAll(unit.tag);
  await valueOf(await release(unit.tag, technician, { priceMinor: 0 }));
  await valueOf(await handBack(unit.unitId, "returned", 0));
  await valueOf(await issue(unit.unitId, "bill"));
  expect((await papers(unit.unitId)).map((p) => p.body.sumMinor)).toEqual([0, 3200]);
});

test("numbers of each kind have no gap and come in the order of writing, also when many write at once", async () => {
  const units = await Promise.all(Array.from({ length: 6 }, () => bought(100)));
  await Promise.all(units.map((u) => issue(u.unitId, "receipt").then(valueOf)));
  for (const kind of ["offer", "bill", "receipt"] as const) {
    const numbers: number[] = await db("paper").where({ kind }).orderBy("number").pluck("number");
    expect(numbers).toEqual(numbers.map((_n, i) => i + 1));
    expect(numbers.length).toBeGreaterThan(0);
  }
});

test("the bookkeeper's columns add up: corrections count as what they change", async () => {
  const rows = (await paperBook(db)).map((p) => {
    const cells = paperRow(p);
    expect(cells).toHaveLength(PAPER_COLUMNS.length);
    return Object.fromEntries(PAPER_COLUMNS.map((c, i) => [c, cells[i]]));
  });
  const bills = rows.filter((r) => r.kind === "bill");
  const standing = (await paperBook(db)).filter((p) => p.kind === "bill" && p.correctedBy === null);
  const sum = (column: "change" | "tax_owed_change") =>
    Math.round(bills.reduce((s, r) => s + Number(r[column]), 0) * 100);
  expect(sum("change")).toBe(standing.reduce((s, p) => s + p.body.sumMinor, 0));
  expect(sum("tax_owed_change")).toBe(standing.reduce((s, p) => s + p.body.books.owedMinor, 0));
  expect(bills.length).toBeGreaterThan(standing.length);
});

test("a paper cannot be written in another unit's name, nor by who only looks", async () => {
  const { unitId } = await bought(900);
  const other = await bought(800);
  const { id } = await valueOf(await issue(unitId, "receipt"));
  expect(
    codeOf(await act("paper.correct", { unitId: other.unitId as Id<"unit">, paperId: id!, why: "mine" })),
  ).toBe("not-found");
  const viewer: Actor = { ...technician, role: "viewer" };
  expect(codeOf(await act("paper.issue", { unitId, kind: "receipt" }, viewer))).toBe("not-allowed");
});
