import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import { intakeSchema, type Mate } from "@/contract/intake";
import type { Id } from "@/core/base/ids";
import type { ModelProfile } from "@/core/profile/profile";
import { caseIn } from "@/features/case/credit";
import { unitById } from "@/features/case/facts";
import { decideView } from "@/features/decide/view";
import { doDeed } from "@/features/deeds";
import { listModels, modelByKey } from "@/features/models/deeds";
import { renewShipped } from "@/features/models/shipped";
import { untestedOdds } from "@/features/decide/next";
import type { Actor } from "@/platform/deed/base";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";

/** Halves of a pair: models of their own, units that know their mate, and what that changes. */

let db: Knex;
let lead: Actor;
let technician: Actor;
const { act, takeIn, look, ready, release } = benchOf(() => ({ db, technician }));

beforeAll(async () => ({ db, lead, technician } = await openShop(17)), 120_000);
afterAll(() => closeShop(db));

const half = (
  side: "left" | "right",
  mate: Partial<Mate> | null = null,
  change: Parameters<typeof takeIn>[0] = {},
) =>
  takeIn({
    profileKey: `avocet-${side}`,
    intake: intakeSchema.parse({ mate, accessories: [`strap.${side}`] }),
    ...change,
  });
const edit = async (tag: string, mate: Partial<Mate> | null) => {
  const { unit } = await look(tag);
  return act("unit.edit-intake", {
    unitId: unit.id,
    version: unit.version,
    revision: unit.revision,
    claim: unit.claim,
    swollen: false,
    liquid: false,
    intake: intakeSchema.parse({ ...unit.intake, mate }),
  });
};
const fails = async (unitId: string, place: string) =>
  (await valueOf(
    await act("fault.add", {
      unitId,
      place,
      kind: "worn",
      words: "",
      foundWhen: "test",
      measure: place.startsWith("stick") ? "restOffset" : null,
      recordingId: null,
    }),
  )) as { faultId?: string };
const mateFacts = async (unitId: string) =>
  (await caseIn(db, await unitById(db, unitId))).facts.flatMap((f) =>
    f.kind === "mate" ? [[f.place, f.tag]] : [],
  );

test("a workshop has the models of single halves; they follow their pair, and are not changed by hand", async () => {
  const keys = (await listModels(db)).map((m) => m.key);
  expect(keys).toEqual(expect.arrayContaining(["avocet", "avocet-left", "avocet-right"]));
  const left = (await modelByKey(db, "avocet-left"))!;
  const by = (profile: ModelProfile) =>
    doDeed(db, lead, "profile.import", randomUUID(), { profile: { ...profile, summary: "Another." } });
  expect(codeOf(await by(left.body))).toBe("half-follows-pair");
  await valueOf(await by((await modelByKey(db, "avocet"))!.body));
  const now = (await modelByKey(db, "avocet-left"))!;
  expect([now.version, now.body.summary]).toEqual([left.version + 1, "Another."]);
  // nothing new of the pair writes nothing new of its halves
  await renewShipped(db);
  expect((await modelByKey(db, "avocet-left"))!.version).toBe(now.version);
});

test("whichever came later names its mate, and each knows the other; what cannot be its mate is refused", async () => {
  const left = await half("left");
  const right = await half("right", { tag: left.tag.toLowerCase() });
  expect((await look(left.tag)).mates.here.map((m) => m.tag)).toEqual([right.tag]);
  expect((await look(right.tag)).mates.here.map((m) => [m.tag, m.model, m.next])).toEqual([
    [left.tag, "Avocet, left half", "first-test"],
  ]);
  const other = await half("left");
  expect((await edit(other.tag, { tag: other.tag })).ok).toBe(false);
  expect(codeOf(await edit(other.tag, { tag: other.tag }))).toBe("not-its-mate");
  expect(codeOf(await edit(other.tag, { tag: left.tag }))).toBe("not-its-mate");
  expect(codeOf(await edit(other.tag, { tag: right.tag }))).toBe("not-its-mate");
  expect(codeOf(await edit(other.tag, { tag: (await takeIn()).tag }))).toBe("not-its-mate");
  expect(codeOf(await edit(other.tag, { tag: "B-9999" }))).toBe("not-found");
  expect((await look(other.tag)).mates).toEqual({ here: [], told: null });
});

test("several halves at once cannot all have one mate, and nothing of them is taken in", async () => {
  const left = await half("left");
  const lot = await valueOf(
    await act("lot.add", {
      code: "L-halves",
      seller: "s",
      priceMinor: 900,
      carriageMinor: 0,
      unitsPromised: 2,
    }),
  );
  const reply = await act("unit.take-in", {
    profileKey: "avocet-right",
    revision: null,
    origin: { source: "lot", lotId: lot.id as Id<"lot">, count: 2 },
    claim: "",
    swollen: false,
    liquid: false,
    intake: intakeSchema.parse({ mate: { tag: left.tag } }),
    toTray: false,
  });
  expect(codeOf(reply)).toBe("not-its-mate");
  expect(await db("unit").where({ lot_id: lot.id })).toEqual([]);
});

test("whole units make a set too, however they were named", async () => {
  const first = await takeIn();
  const second = await takeIn({ intake: intakeSchema.parse({ mate: { tag: first.tag } }) });
  const third = await takeIn({ intake: intakeSchema.parse({ mate: { tag: second.tag } }) });
  expect((await look(first.tag)).mates.here.map((m) => m.tag)).toEqual([second.tag, third.tag]);
  expect((await look(third.tag)).mates.here.map((m) => m.tag)).toEqual([first.tag, second.tag]);
});

test("what failed on one is likelier on the other, at the like place, until it was no fault after all", async () => {
  const left = await half("left");
  const right = await half("right", { tag: left.tag });
  const before = await untestedOdds(db, right.unitId as Id<"unit">);
  await fails(left.unitId, "stick.left");
  expect(await mateFacts(right.unitId)).toEqual([["stick.right", left.tag]]);
  expect(await mateFacts(left.unitId)).toEqual([]);
  expect((await look(right.tag)).mates.here[0]!.failed.map((f) => f.place)).toEqual(["stick.right"]);
  const after = await untestedOdds(db, right.unitId as Id<"unit">);
  const odds = (of: typeof after, place: string) => {
    const { bad } = of.find((o) => o.place === place)!;
    return bad / (1 - bad);
  };
  expect(odds(after, "stick.right")).toBeGreaterThan(1.5 * odds(before, "stick.right"));
  // and no other place is
  expect(odds(after, "right.upper")).toBeLessThanOrEqual(odds(before, "right.upper"));
  const [fault] = (await look(left.tag)).faults;
  await valueOf(
    await act("fault.settle", {
      faultId: fault!.id,
      version: fault!.version,
      status: "withdrawn",
      why: "another unit's recording",
    }),
  );
  expect(await mateFacts(right.unitId)).toEqual([]);
});

test("of a mate that is with its owner counts what is told of it", async () => {
  const { unitId } = await half("left", { state: "faulty", failedAt: "bumper.left", mended: "by its maker" });
  expect(await mateFacts(unitId)).toEqual([["bumper.left", ""]]);
});

test("a half that is not sold alone is worth its pair with its mate, and nothing mended without one", async () => {
  const left = await half("left");
  await fails(left.unitId, "stick.left");
  const moneyOf = async () => {
    const { half: of, input } = await decideView(db, left.unitId as Id<"unit">);
    return { sold: of?.sold, newIs: of?.newIs, a: input.market.aMinor, fresh: input.market.newMinor };
  };
  // 62.00 for the pair less 6.00 for what its mate brings alone; a new one is a new pair
  expect(await moneyOf()).toEqual({ sold: "no-mate", newIs: "pair", a: 600, fresh: 9900 });
  await half("right", { tag: left.tag });
  expect(await moneyOf()).toEqual({ sold: "with-mate", newIs: "pair", a: 5600, fresh: 9900 });
});

test("a customer's half goes with the one at home, unless that is lost", async () => {
  const { id } = (await valueOf(
    await act("customer.add", { name: "Wren Alder", contact: "wren@mail.example" }),
  )) as { id: Id<"customer"> };
  const origin = { source: "customer", customerId: id } as const;
  const home = await half("left", { state: "works" }, { origin });
  const alone = await half("left", { state: "lost" }, { origin });
  expect((await decideView(db, home.unitId as Id<"unit">)).half?.sold).toBe("with-mate");
  expect((await decideView(db, alone.unitId as Id<"unit">)).half?.sold).toBe("no-mate");
});

test("a proven half is not sold without its mate, nor before that is ready too", async () => {
  const left = await ready({
    profileKey: "avocet-left",
    intake: intakeSchema.parse({ accessories: ["strap.left"] }),
  });
  const view = await look(left.tag);
  expect([view.nextAction, view.blocks]).toEqual(["release", []]);
  const alone = await release(left.tag);
  expect(alone).toMatchObject({ problem: { code: "not-without-mate", mate: null } });
  const right = await half("right", { tag: left.tag });
  expect(await release(left.tag)).toMatchObject({
    problem: { code: "not-without-mate", mate: right.tag, stands: "first-test" },
  });
  const { fullTest, answerAll } = benchOf(() => ({ db, technician }));
  await fullTest(right.unitId);
  await answerAll(right.tag);
  expect(codeOf(await release(left.tag))).toBe("done");
  // the second one follows what has left
  expect(codeOf(await release(right.tag))).toBe("done");
}, 120_000);
