import type { Knex } from "knex";

import { one } from "@/core/base/one";
import { knownOfCase } from "@/core/casefile/known";
import type { Id } from "@/core/base/ids";
import { caseFileByTag } from "@/features/decide/next";
import { proposeWork } from "@/features/mend/proposal";
import { orderView } from "@/features/mend/view";
import { modelById } from "@/features/models/deeds";
import type { Actor } from "@/platform/deed/base";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";

/** The whole ladder goes into the work order, and the next rung waits for the retest of the one before. */

let db: Knex;
let technician: Actor;
const { act, takeIn, fullTest } = benchOf(() => ({ db, technician }));

beforeAll(async () => ({ db, technician } = await openShop(15)), 120_000);
afterAll(() => closeShop(db));

const nameFault = async (unitId: string, place: string, measure: string | null) =>
  (
    await valueOf(
      await act("fault.add", {
        unitId: unitId as Id<"unit">,
        place,
        kind: measure ? "misses" : "does not link",
        words: "",
        foundWhen: "test",
        measure,
        recordingId: null,
      }),
    )
  ).id as Id<"fault">;

async function proposalOf(unitId: string) {
  const unit = one(await db("unit").where({ id: unitId }).first());
  return proposeWork(db, unit, await modelById(db, unit.profile_id));
}
async function southMisses(customer = false) {
  const owner = customer
    ? await valueOf(await act("customer.add", { name: "Wren Alder", contact: "" }))
    : null;
  const made = await takeIn(owner ? { origin: { source: "customer", customerId: owner.id! } } : {});
  await fullTest(made.unitId, { bad: true });
  return { ...made, faultId: await nameFault(made.unitId, "face.south", "decision") };
}
async function decide(unitId: string, route: string) {
  const { version } = one(await db("unit").where({ id: unitId }).first("version"));
  const asked = {
    unitId: unitId as Id<"unit">,
    version,
    disposition: "mend",
    route,
    why: "as asked",
  } as const;
  return act("decision.take", asked);
}

const STEPS = ["cells", "shell.fasteners", "halves", "board", "keys"];

test("each fault gets a route that can act where it is, the decided one at its own place alone, and what follows a failure", async () => {
  const { unitId } = await southMisses();
  await nameFault(unitId, "radio", null);
  await valueOf(await decide(unitId, "dome-dear"));
  const { targets } = await proposalOf(unitId);
  const at = (place: string) => one(targets.find((t) => t.place === place));
  expect(at("face.south").route).toBe("dome-dear");
  expect(at("face.south").works).toBeGreaterThan(0.3);
  expect(at("face.south").then).not.toContain("dome-dear");
  expect(at("radio").route).not.toBe("dome-dear");
});

test("a second way is refused before the first was tested; once the test failed, what it says comes next", async () => {
  const { unitId, faultId, tag } = await southMisses();
  await valueOf(await decide(unitId, "dome-dear"));
  const first = {
    faultId,
    what: "New dome sheet",
    slot: "dome.centre",
    route: "dome-dear",
    then: ["clean-pads"],
  };
  const { id } = await valueOf(
    await act("work.open", {
      unitId: unitId as Id<"unit">,
      targets: [first],
      cleaningLevel: 0,
      calibrate: [],
    }),
  );
  const orderId = id as Id<"work_order">;
  const work = (event: object) => act("work.do", { orderId, event, tookMs: 1000 } as never);
  const second = async () => {
    const order = one(await orderView(db, unitId as Id<"unit">, technician));
    const targets = [first, { ...first, what: "Clean the pads", route: "clean-pads", then: [] }];
    return act("work.change", { orderId, version: order.version, targets, cleaningLevel: 0, calibrate: [] });
  };
  for (const step of STEPS) await valueOf(await work({ kind: "apart", step }));
  await valueOf(await work({ kind: "task", task: "mend:1" }));
  // the lazy way: one more thing on top, before anybody looked whether the first helped
  expect(codeOf(await second())).toBe("rung-untested");
  expect((await proposalOf(unitId)).next).toEqual([]);

  await fullTest(unitId, { bad: true });
  const { next } = await proposalOf(unitId);
  expect(next.map((n) => n.place)).toEqual(["face.south"]);
  expect(next[0]!.route).not.toBe("dome-dear");
  // the case tells of the attempt, and the route in vain is offered no more
  const file = one(await caseFileByTag(db, tag));
  expect(file.facts.some((f) => f.kind === "mended" && f.route === "dome-dear")).toBe(true);
  expect(codeOf(await second())).toBe("done");
  // what was in vain is on record as soon as the next is put in
  expect(one(await db("mend").where({ unit_id: unitId, route: "dome-dear" }).first("outcome")).outcome).toBe(
    "failed",
  );
  // the mend that helps is told by the test after it: nothing more is offered
  await valueOf(await work({ kind: "task", task: "mend:2" }));
  expect((await proposalOf(unitId)).next).toEqual([]);
  await fullTest(unitId);
  expect((await proposalOf(unitId)).next).toEqual([]);
});

test("nor is it done untested when both stood in the order from the start", async () => {
  const { unitId, faultId } = await southMisses();
  const first = { faultId, what: "New dome sheet", slot: "dome.centre", route: "dome-dear" };
  const { id } = await valueOf(
    await act("work.open", {
      unitId: unitId as Id<"unit">,
      targets: [first, { ...first, what: "Clean the pads", route: "clean-pads" }],
      cleaningLevel: 0,
      calibrate: [],
    }),
  );
  const work = (event: object) => act("work.do", { orderId: id, event, tookMs: 1000 } as never);
  for (const step of STEPS) await valueOf(await work({ kind: "apart", step }));
  await valueOf(await work({ kind: "task", task: "mend:1" }));
  expect(codeOf(await work({ kind: "task", task: "mend:2" }))).toBe("rung-untested");
  await fullTest(unitId, { bad: true });
  expect(codeOf(await work({ kind: "task", task: "mend:2" }))).toBe("done");
});

test("what the customer said yes to is the route, its price the ceiling; a no takes it off the list", async () => {
  const { unitId, faultId, tag } = await southMisses(true);
  const option = (key: string, priceMinor: number) => ({
    key,
    words: key,
    priceMinor,
    days: 3,
    warrantyDays: 90,
  });
  await valueOf(
    await act("question.send", {
      unitId: unitId as Id<"unit">,
      days: 5,
      body: {
        v: 1,
        findings: "",
        faults: [
          {
            faultId,
            number: 1,
            found: "it misses",
            options: [option("clean-pads", 900), option("dome-dear", 1900)],
          },
        ],
      },
    }),
  );
  const question = one(await db("question").where({ unit_id: unitId }).first());
  const answer = (choice: string, changes: boolean) =>
    act("question.record", {
      questionId: question.id,
      answer: { name: "Wren Alder", words: "", choices: [{ faultId, choice }], changes },
    });
  await valueOf(await answer("dome-dear", false));
  expect((await proposalOf(unitId)).targets[0]!.route).toBe("dome-dear");
  const agreed = one(await caseFileByTag(db, tag));
  expect(knownOfCase(agreed).input.customer?.limit).toBe(1900);
  expect(agreed.facts.find((f) => f.kind === "answered")).toMatchObject({ yes: true, priceMinor: 1900 });
  await valueOf(await answer("clean-pads", true));
  expect((await proposalOf(unitId)).targets[0]!.route).toBe("clean-pads");
  await valueOf(await answer("no", true));
  const refused = one(await caseFileByTag(db, tag));
  expect(refused.faults?.map((f) => f.refused)).toEqual([true]);
});

test("a check in the order is done by its answer and not by a tick; a mend before it is refused, and what it shows changes the route", async () => {
  const { unitId, faultId, tag } = await southMisses();
  const first = { faultId, what: "New dome sheet", slot: "dome.centre", route: "dome-dear" };
  const open = (checks: string[]) =>
    act("work.open", {
      unitId: unitId as Id<"unit">,
      targets: [first],
      cleaningLevel: 0,
      calibrate: [],
      checks,
    });
  expect(codeOf(await open(["look.no-such-part"]))).toBe("not-found");
  const { input } = knownOfCase(one(await caseFileByTag(db, tag)));
  const [inside] = input.checks!.filter((c) => c.opens && c.kind === "look");
  const { id: lookId } = one(inside);
  const { id } = await valueOf(await open([lookId]));
  const work = (event: object) => act("work.do", { orderId: id, event, tookMs: 1000 } as never);
  const stepNow = async () =>
    one(
      one(await orderView(db, unitId as Id<"unit">, technician)).line.find((s) => s.key === `look:${lookId}`),
    );
  for (const step of STEPS) await valueOf(await work({ kind: "apart", step }));
  expect((await stepNow()).done).toBe(false);
  // the lazy ways: the mend at once, and ticking the check off
  expect(codeOf(await work({ kind: "task", task: "mend:1" }))).toBe("look-first");
  expect(codeOf(await work({ kind: "task", task: `look:${lookId}` }))).toBe("bad-input");
  const saw = (outcome: string) =>
    act("find.observe", {
      unitId: unitId as Id<"unit">,
      kind: "check",
      target: lookId,
      outcome,
      value: null,
      note: "",
    });
  const before = one((await proposalOf(unitId)).targets.find((t) => t.place === "face.south"));
  await valueOf(await saw("sound"));
  expect((await stepNow()).done).toBe(true);
  const after = await proposalOf(unitId);
  // the same question is asked no more, and the odds of every route are those after the answer
  expect(after.looks.map((l) => l.id)).not.toContain(lookId);
  const held = one(after.targets.find((t) => t.place === "face.south"));
  expect([held.route, held.works]).not.toEqual([before.route, before.works]);
  expect(codeOf(await work({ kind: "task", task: "mend:1" }))).toBe("done");
});
