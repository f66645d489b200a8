import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import type { Actor } from "@/platform/deed/base";
import { coversEnding } from "@/features/after/view";
import { buyingList } from "@/features/parts/orders";
import { doDeed } from "@/features/deeds";
import { askedOf } from "@/features/results/base";
import { reportOf } from "@/features/results";
import { loadSettings } from "@/features/settings/settings";
import { shippedCatalogue } from "@/features/models/shipped";
import { benchOf, closeShop, openShop, valueOf } from "./shop";

/**
 * The shop's days on the shop's clock. These tests run on a machine far east of UTC (scripts/test.mjs), for
 * shops east and west of it: what reads a day by the machine's clock, by UTC or by the database's session is
 * a day off here.
 */

let db: Knex;
let lead: Actor;
let technician: Actor;
const { act, takeIn, ready, release, look } = benchOf(() => ({ db, technician }));

beforeAll(async () => {
  ({ db, lead, technician } = await openShop(4));
  await valueOf(await act("catalogue.save", { version: 0, catalogue: shippedCatalogue() }, lead));
});
afterAll(() => closeShop(db));

const moveTo = async (timeZone: string) => {
  const { settings, version } = await loadSettings(db);
  await valueOf(await act("settings.save", { version, settings: { ...settings, timeZone } }, lead));
};

const ORDER = {
  supplier: "tidewater-parts",
  carriageMinor: 390,
  days: 3,
  lines: [{ part: "FLUX", pack: 10, packs: 1, costMinor: 620 }],
};

test.each([
  ["Pacific/Auckland", "2026-11-28T23:30:00Z", "2026-12-02"], // the 29th there
  ["America/Lima", "2026-11-29T02:30:00Z", "2026-12-01"], // still the 28th there
  ["Europe/Dublin", "2026-03-28T23:30:00Z", "2026-03-31"], // over the change to summer time
  ["Europe/Dublin", "2026-10-24T22:59:00Z", "2026-10-27"], // and the one back
])("in %s an order of %s is expected on %s", async (zone, at, day) => {
  await moveTo(zone);
  const reply = await doDeed(db, { ...technician, at: new Date(at) }, "order.place", randomUUID(), ORDER);
  const { code } = await valueOf(reply);
  const { orders } = await buyingList(db, new Map());
  expect(orders.find((o) => o.code === code)!.expectedOn).toBe(day);
});

test("a day that was promised is that day, whatever clock this machine has", async () => {
  const { unitId, tag } = await takeIn();
  await valueOf(await act("unit.set-due", { unitId, version: 1, dueOn: "2026-12-24" }));
  expect((await look(tag)).unit.due_on).toBe("2026-12-24");
});

test("what is sold on a day is covered to the end of its last day, and reported on the shop's day", async () => {
  await moveTo("Pacific/Auckland");
  const { tag, unitId } = await ready();
  await valueOf(await release(tag));
  await valueOf(
    await act("unit.hand-over", {
      unitId,
      kind: "sold",
      channel: "market",
      priceMinor: 2000,
      handedOn: "2026-11-29",
    }),
  );
  expect(await db("handover").where({ unit_id: unitId }).first("handed_on", "unit_until")).toEqual({
    handed_on: "2026-11-29",
    unit_until: "2026-12-29",
  });
  const ending = await coversEnding(db, 4000, 10);
  expect(ending.find((s) => s.tag === tag)).toMatchObject({
    handedOn: "2026-11-29",
    coverUntil: "2026-12-29",
  });

  // closed half an hour after midnight of the 29th in Auckland, which is the 28th in UTC
  await db("unit")
    .where({ id: unitId })
    .update({ closed_at: new Date("2026-11-28T11:30:00Z") });
  await db("outcome")
    .where({ unit_id: unitId })
    .update({ closed_at: new Date("2026-11-28T11:30:00Z") });
  const filter = { from: "2026-11-29", to: "2026-11-29", model: null, source: null, by: "model" as const };
  expect((await reportOf(db, "margin", filter)).rows.length).toBe(1);
  expect((await reportOf(db, "margin", { ...filter, from: "2026-11-28", to: "2026-11-28" })).rows).toEqual(
    [],
  );
  expect(askedOf({ ...filter, from: null, to: null }, "Pacific/Auckland").to).toBe(
    new Intl.DateTimeFormat("sv-SE", { timeZone: "Pacific/Auckland" }).format(new Date()),
  );
});
