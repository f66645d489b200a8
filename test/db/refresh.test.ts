import type { Knex } from "knex";

import type { Answer } from "@/contract/question";
import type { Id } from "@/core/base/ids";
import { billFor } from "@/features/case/bill";
import { unitById } from "@/features/case/facts";
import { decideView } from "@/features/decide/view";
import { proposeWork } from "@/features/mend/proposal";
import { modelById } from "@/features/models/deeds";
import type { Actor } from "@/platform/deed/base";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";

/** A full refresh that a customer wants: it stands in the work order and the ceiling, and each part is billed once it is in. */

let db: Knex;
let technician: Actor;
const { act, takeIn } = benchOf(() => ({ db, technician }));

beforeAll(async () => ({ db, technician } = await openShop(19)), 120_000);
afterAll(() => closeShop(db));

const OTHER_STICK = {
  place: "stick.right",
  words: "right stick module",
  priceMinor: 1500,
  savesMinor: 500,
  route: "module-dear",
  slot: "module.right",
};
/** at the place of the stick, and another part */
const CAP = {
  place: "stick.right",
  words: "right cap",
  priceMinor: 300,
  savesMinor: 100,
  route: "cap-copy",
  slot: "cap.right",
};
const DOMES = { place: "face.south", words: "domes", priceMinor: 700, savesMinor: 300, route: "dome-dear" };

async function asked(refresh: (typeof DOMES & { slot?: string })[]) {
  const customer = await valueOf(await act("customer.add", { name: "Teal Marsh", contact: "" }));
  const { unitId } = await takeIn({
    profileKey: "dunlin",
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
  const faultId = fault.id as Id<"fault">;
  const { route: _route, slot: _slot, ...like } = OTHER_STICK;
  const option = {
    key: "module-dear",
    words: "a new stick",
    priceMinor: 2500,
    days: 3,
    warrantyDays: 90,
    like,
  };
  await valueOf(
    await act("question.send", {
      unitId,
      days: 10,
      body: {
        v: 1,
        findings: "",
        refresh,
        faults: [{ faultId, number: 1, found: "worn", options: [option] }],
      },
    }),
  );
  const question = (await db("question").where({ unit_id: unitId }).first("id"))!;
  const says = (answer: Partial<Answer> & Pick<Answer, "choices">) =>
    act("question.record", {
      questionId: question.id,
      answer: { name: "Teal", words: "", changes: false, ...answer },
    });
  return { unitId: unitId as Id<"unit">, faultId, says };
}

test("the refresh is work of the order and part of what may be charged; a like part in it counts once", async () => {
  const { unitId, faultId, says } = await asked([OTHER_STICK, DOMES, CAP]);
  await valueOf(await says({ refresh: true, choices: [{ faultId, choice: "module-dear", like: true }] }));
  const unit = await unitById(db, unitId);
  const { targets } = await proposeWork(db, unit, await modelById(db, unit.profile_id));
  expect(targets.map((t) => [t.place, t.route])).toEqual([
    ["stick.left", "module-dear"],
    ["stick.right", "module-dear"],
    ["face.south", "dome-dear"],
    ["stick.right", "cap-copy"],
  ]);
  // 25.00 + 15.00 + 7.00 + 3.00 and not 15.00 more for the like part
  expect((await decideView(db, unitId)).input.customer?.limit).toBe(5000);

  // nothing is owed for what is not in
  const lines = async () => (await billFor(db, unit))!.lines.map((l) => [l.words, l.billed]);
  expect(await lines()).toEqual([
    ["a new stick", false],
    ["right stick module", false],
    ["domes", false],
    ["right cap", false],
  ]);
  await db("fitted").insert({
    unit_id: unitId,
    slot: "module.right",
    part: "SM-DUN-C",
    count: 1,
    cost_minor: 200,
    condition: "new",
    by: technician.id,
  });
  expect(await lines()).toEqual([
    ["a new stick", false],
    ["right stick module", true],
    ["domes", false],
    ["right cap", false],
  ]);
});

test("nobody gets a refresh that was not offered, or beside nothing that opens the unit", async () => {
  const none = await asked([]);
  const choices = [{ faultId: none.faultId, choice: "module-dear" }];
  expect(codeOf(await none.says({ refresh: true, choices }))).toBe("bad-input");
  const offered = await asked([DOMES]);
  const no = [{ faultId: offered.faultId, choice: "no" }];
  expect(codeOf(await offered.says({ refresh: true, choices: no }))).toBe("bad-input");
  expect(codeOf(await offered.says({ choices: no }))).toBe("done");
});
