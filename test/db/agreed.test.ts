import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import { one } from "@/core/base/one";
import type { Id } from "@/core/base/ids";
import { decideView } from "@/features/decide/view";
import { solve } from "@/features/decide/input";
import { answerByToken } from "@/features/questions/deeds";
import { releaseView } from "@/features/release/view";
import type { Actor } from "@/platform/deed/base";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";

/** What the customer said yes to is the route, its price the ceiling, its sum the bill; more or other asks again. */

let db: Knex;
let technician: Actor;
const { act, takeIn, fullTest, answerAll, release } = benchOf(() => ({ db, technician }));

beforeAll(async () => ({ db, technician } = await openShop(15)), 120_000);
afterAll(() => closeShop(db));

const SOUTH = "face.south";
/** A customer's unit whose south button misses, as it came. */
async function southMisses(costLimitMinor: number | null = null) {
  const owner = await valueOf(await act("customer.add", { name: "Wren Alder", contact: "" }));
  const made = await takeIn({ origin: { source: "customer", customerId: owner.id! } });
  if (costLimitMinor !== null)
    await db("unit")
      .where({ id: made.unitId })
      .update({ intake: db.raw("jsonb_set(intake, '{costLimitMinor}', ?::jsonb)", [costLimitMinor]) });
  await fullTest(made.unitId, { bad: true });
  const fault = {
    unitId: made.unitId as Id<"unit">,
    place: SOUTH,
    kind: "misses",
    words: "",
    foundWhen: "test" as const,
    measure: "decision",
    recordingId: null,
  };
  const { id } = await valueOf(await act("fault.add", fault));
  return { ...made, unitId: made.unitId as Id<"unit">, faultId: id as Id<"fault"> };
}
type Unit = Awaited<ReturnType<typeof southMisses>>;

const PRICES = { "dome-dear": 3200, "clean-pads": 1500 };
async function ask({ unitId, faultId }: Unit): Promise<string> {
  const options = Object.entries(PRICES).map(([key, priceMinor]) => ({
    key,
    words: `The ${key} way`,
    priceMinor,
    days: 3,
    warrantyDays: 90,
  }));
  const faults = [{ faultId, number: 1, found: "it misses", options }];
  const body = { v: 1 as const, findings: "South misses", faults };
  return (await valueOf(await act("question.send", { unitId, days: 10, body }))).token!;
}
const say = (token: string, { faultId }: Unit, choice: string, changes = false) =>
  answerByToken(db, token, {
    requestId: randomUUID(),
    confirmed: true,
    answer: { name: "Wren", words: "", changes, choices: [{ faultId, choice }] },
  });
const mend = ({ unitId, faultId }: Unit, route: string | null, settlesFault = false) =>
  act("mend.add", {
    unitId,
    faultId,
    what: "Work at the south button",
    part: "",
    minutes: 10,
    remark: "",
    opened: true,
    settlesFault,
    route,
    partMinor: 0,
  });
const adviceFor = async (unit: Unit) => solve((await decideView(db, unit.unitId)).input);
const routesAt = (advice: Awaited<ReturnType<typeof adviceFor>>) =>
  [...new Set(advice.options.filter((o) => o.places.includes(SOUTH)).map((o) => o.route.id))].sort();

test("before an answer every route is weighed; after the yes the agreed one alone, and another is refused", async () => {
  const unit = await southMisses();
  expect(routesAt(await adviceFor(unit)).length).toBeGreaterThan(2);
  const token = await ask(unit);
  expect(codeOf(await mend(unit, "dome-dear"))).toBe("yes-awaited");
  expect(await say(token, unit, "clean-pads")).toEqual({ ok: true });
  const advice = await adviceFor(unit);
  expect(routesAt(advice)).toEqual(["clean-pads"]);
  expect(advice.skipped.some((s) => s.route === "dome-dear" && s.why === "not-agreed")).toBe(true);
  // the lazy ways: the dearer one all the same, or one without a name
  const refused = await mend(unit, "dome-dear");
  expect(codeOf(refused)).toBe("other-agreed");
  expect(refused).toMatchObject({ problem: { number: 1, agreed: "The clean-pads way" } });
  expect(codeOf(await mend(unit, null))).toBe("other-agreed");
  const target = { faultId: unit.faultId, what: "New dome", slot: "dome.centre", route: "dome-dear" };
  const order = { unitId: unit.unitId, targets: [target], cleaningLevel: 0 as const, calibrate: [] };
  expect(codeOf(await act("work.open", order))).toBe("other-agreed");
  expect(codeOf(await mend(unit, "clean-pads"))).toBe("done");
});

test("once what was agreed did not help the others are reckoned with again, to be asked for and not to be done", async () => {
  const unit = await southMisses();
  await say(await ask(unit), unit, "clean-pads");
  await valueOf(await mend(unit, "clean-pads"));
  await fullTest(unit.unitId, { bad: true });
  expect(routesAt(await adviceFor(unit))).toContain("dome-dear");
  expect(codeOf(await mend(unit, "dome-dear"))).toBe("other-agreed");
  const again = await ask(unit);
  expect(codeOf(await mend(unit, "dome-dear"))).toBe("yes-awaited");
  await say(again, unit, "dome-dear");
  expect(codeOf(await mend(unit, "dome-dear"))).toBe("done");
});

test("the bill is what was agreed for what is cured; more is refused at the release and at the handing over", async () => {
  const unit = await southMisses();
  await say(await ask(unit), unit, "dome-dear");
  const billNow = async () => one((await releaseView(db, unit.unitId)).bill);
  expect(await billNow()).toMatchObject({ sumMinor: 0, ceilingMinor: 0, lines: [{ billed: false }] });
  await valueOf(await mend(unit, "dome-dear", true));
  await fullTest(unit.unitId);
  await answerAll(unit.tag);
  expect(await billNow()).toMatchObject({ sumMinor: 3200, lines: [{ priceMinor: 3200, billed: true }] });
  const over = await release(unit.tag, technician, { priceMinor: 3201 });
  expect(over).toMatchObject({ problem: { code: "over-agreed", agreedMinor: 3200, isAgreed: true } });
  expect(codeOf(await release(unit.tag, technician, { priceMinor: 3200 }))).toBe("done");
  const back = (priceMinor: number) =>
    act("unit.hand-over", {
      unitId: unit.unitId,
      kind: "returned",
      channel: "collected",
      priceMinor,
      feesMinor: 0,
      handedOn: "2026-11-28",
      buyer: "",
      contact: "",
    });
  expect(codeOf(await back(4500))).toBe("over-agreed");
  expect(codeOf(await back(3000))).toBe("done");
});

test("what was said at the door is the ceiling where nothing was asked, and the price of the yes where something was", async () => {
  const unit = await southMisses(2500);
  expect((await decideView(db, unit.unitId)).input.customer!.limit).toBe(2500);
  expect(one((await decideView(db, unit.unitId)).bill).ceilingMinor).toBe(2500);
  const token = await ask(unit);
  await say(token, unit, "dome-dear");
  expect((await decideView(db, unit.unitId)).input.customer!.limit).toBe(3200);
  await say(token, unit, "no", true);
  const turned = await decideView(db, unit.unitId);
  expect(turned.input.customer!.limit).toBe(2500);
  expect(turned.refused).toEqual([1]);
});

test("a unit of the shop's own has no bill", async () => {
  const { unitId } = await takeIn();
  expect((await releaseView(db, unitId as Id<"unit">)).bill).toBeNull();
});
