import type { Knex } from "knex";

import { intakeSchema } from "@/contract/intake";
import { one } from "@/core/base/one";
import type { Actor } from "@/platform/deed/base";
import { decideInput } from "@/features/decide/input";
import { modelById } from "@/features/models/deeds";
import { buyingList } from "@/features/parts/orders";
import { releaseView } from "@/features/release/view";
import { loadSettings } from "@/features/settings/settings";
import { benchOf, closeShop, openShop, valueOf } from "./shop";

/** What a unit came without costs: in what Decide reckons with, in the price of its release, and in what to buy. */

let db: Knex;
let technician: Actor;
beforeAll(async () => {
  ({ db, technician } = await openShop(6));
});
afterAll(() => closeShop(db));
const { act, takeIn } = benchOf(() => ({ db, technician }));

async function reckoned(unitId: string) {
  const unit = one(await db("unit").where({ id: unitId }).first());
  const profile = await modelById(db, unit.profile_id);
  const { settings } = await loadSettings(db);
  const loaded = { unit, profile, settings };
  return {
    byFacts: await decideInput(db, loaded),
    byFamilies: await decideInput(db, loaded, "families"),
    profile,
  };
}

test("a unit that came without a piece goes for less by it, wherever its price is told, until the piece is there", async () => {
  const whole = await takeIn();
  const { byFacts: of, profile } = await reckoned(whole.unitId);
  expect(of.missing).toBeUndefined();
  const [lost, ...kept] = profile.body.accessories;
  const intake = intakeSchema.parse({ accessories: kept.map((a) => a.id) });
  const { unitId, tag } = await takeIn({ intake });
  for (const way of ["byFacts", "byFamilies"] as const) {
    const { market, missing } = (await reckoned(unitId))[way];
    expect([way, missing]).toEqual([way, { names: [lost!.name], minor: lost!.costMinor }]);
    expect([way, of.market.aMinor - market.aMinor]).toEqual([way, lost!.costMinor]);
    expect([way, market.newMinor]).toEqual([way, of.market.newMinor]);
  }
  expect((await releaseView(db, unitId)).price.missingMinor).toBe(lost!.costMinor);
  const toBuy = async () => (await buyingList(db, new Map())).missing;
  expect(await toBuy()).toEqual([
    { model: profile.body.name, piece: lost!.name, costMinor: lost!.costMinor, tags: [tag] },
  ]);

  const { version, claim } = one(await db("unit").where({ id: unitId }).first());
  const all = intakeSchema.parse({ accessories: profile.body.accessories.map((a) => a.id) });
  await valueOf(
    await act("unit.edit-intake", {
      unitId,
      version,
      revision: "r1",
      claim,
      swollen: false,
      liquid: false,
      intake: all,
    }),
  );
  expect((await reckoned(unitId)).byFacts.missing).toBeUndefined();
  expect((await releaseView(db, unitId)).price.missingMinor).toBe(0);
  expect(await toBuy()).toEqual([]);
});

test("what a customer's unit came without is theirs: it is not on the buying list", async () => {
  const { id } = (await valueOf(await act("customer.add", { name: "Una Fell", contact: "" }))) as {
    id: string;
  };
  await takeIn({ origin: { source: "customer", customerId: id }, intake: intakeSchema.parse({}) });
  expect((await buyingList(db, new Map())).missing).toEqual([]);
});
