import type { Knex } from "knex";

import { one } from "@/core/base/one";
import type { Id } from "@/core/base/ids";
import { caseFileByTag } from "@/features/decide/next";
import { adviseOnCase } from "@/core/casefile/advice";
import { releaseView } from "@/features/release/view";
import { reportOf } from "@/features/results";
import type { Actor } from "@/platform/deed/base";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";

/** What the facts leave unsettled blocks the release, is told to the buyer, and moves the price; what decisions said is held against what came. */

let db: Knex;
let lead: Actor;
let technician: Actor;
const bench = benchOf(() => ({ db, technician }));
const { act, look, ready, release, takeIn, fullTest } = bench;

beforeAll(async () => ({ db, lead, technician } = await openShop(15)), 120_000);
afterAll(() => closeShop(db));

const saw = (unitId: string, target: string, outcome: string) =>
  act("find.observe", {
    unitId: unitId as Id<"unit">,
    kind: "place",
    target,
    outcome,
    value: null,
    note: "",
  });
const blocksAt = async (tag: string) => (await look(tag)).blocks;

test("a part that was seen broken holds the unit back though every test is good; found sound again, it does not", async () => {
  const { tag, unitId } = await ready();
  expect(await blocksAt(tag)).toEqual([]);
  const before = (await releaseView(db, unitId as Id<"unit">)).price.floorMinor;
  await valueOf(await saw(unitId, "dome.face.south", "torn"));
  expect(await blocksAt(tag)).toMatchObject([{ code: "broken", part: "dome.face.south", finding: "torn" }]);
  // the lazy way: out with it all the same
  expect(codeOf(await release(tag))).toBe("blocked");
  expect((await releaseView(db, unitId as Id<"unit">)).price.floorMinor).toBeGreaterThan(before);
  // the case file says the same
  const advice = adviseOnCase(one(await caseFileByTag(db, tag)));
  expect(advice.blocks.map((b) => [b.code, b.place, b.what])).toContainEqual([
    "broken",
    "dome.face.south",
    "torn",
  ]);
  await valueOf(await saw(unitId, "dome.face.south", "sound"));
  expect(await blocksAt(tag)).toEqual([]);
  expect(codeOf(await release(tag))).toBe("done");
});

test("a lead may let it go with the limit said, and the buyer reads what was seen", async () => {
  const { tag, unitId } = await ready();
  await valueOf(await saw(unitId, "dome.face.south", "torn"));
  const limit = { limit: "the south button's dome is torn", reason: "it works, and is told" };
  expect(codeOf(await release(tag, lead, limit))).toBe("done");
  const { stated } = await releaseView(db, unitId as Id<"unit">);
  expect(stated!.disclosures.map((d) => d.code)).toContain("broken");
});

test("what it went through is in the advice on care", async () => {
  const { tag, unitId } = await ready({ claim: "The dog chewed it, then it was dropped" });
  const { proofSheet, unit } = await look(tag);
  for (const l of proofSheet)
    await valueOf(
      await act("proof.answer", {
        unitId: unit.id,
        key: l.key,
        result: "pass",
        value: l.key === "storage" ? 0.5 : null,
      }),
    );
  await valueOf(await release(tag));
  const { stated } = await releaseView(db, unitId as Id<"unit">);
  expect(stated!.care).toEqual(expect.arrayContaining(["out-of-reach-of-teeth", "soft-landing"]));
});

test("what a decision said of a route stands beside what its retest said, by what was likeliest behind", async () => {
  const { unitId } = await takeIn();
  const id = unitId as Id<"unit">;
  await fullTest(unitId, { bad: true });
  const fault = {
    unitId: id,
    place: "face.south",
    kind: "misses",
    words: "",
    foundWhen: "test" as const,
    measure: "decision",
    recordingId: null,
  };
  const { id: faultId } = await valueOf(await act("fault.add", fault));
  const decide = async (route: string) => {
    const { version } = one(await db("unit").where({ id }).first("version"));
    const asked = { unitId: id, version, disposition: "mend" as const, route, why: "as asked" };
    return valueOf(await act("decision.take", asked));
  };
  await decide("dome-dear");
  const { forecast } = one(await db("decision").where({ unit_id: id }).first("forecast"));
  const [told] = forecast!.tries!;
  expect(told).toMatchObject({ place: "face.south", route: "dome-dear" });
  expect(told!.works).toBeGreaterThan(0.2);
  const report = () => reportOf(db, "odds", { from: null, to: null, model: null, source: null, by: "model" });
  expect((await report()).rows).toEqual([]);
  const mend = { unitId: id, faultId: faultId!, what: "New dome", part: "", minutes: 10, remark: "" };
  await valueOf(
    await act("mend.add", { ...mend, opened: true, settlesFault: true, route: "dome-dear", partMinor: 0 }),
  );
  const [row] = (await report()).rows;
  expect(row).toMatchObject({ cause: told!.cause, n: 1, share: 1 });
  expect(row!.said).toBeCloseTo(told!.works, 6);
});
