/**
 * Rows as they come from the database: current types, stored JSON lifted at the door, and few questions for
 * what is asked.
 */
import { spawnSync } from "node:child_process";
import { subscribe, unsubscribe } from "node:diagnostics_channel";
import { join } from "node:path";

import type { Knex } from "knex";

import { rowsOf } from "@/platform/db/joined";
import { planView } from "@/features/parts/plan";
import { wakeUps } from "@/features/parts/wake-ups";
import type { Actor } from "@/platform/deed/base";
import { COSTS, type DeedCost } from "@/platform/deed/cost";
import { listDonors } from "@/features/parts/donors";
import { openNeeds } from "@/features/parts/needs";
import { benchOf, closeShop, openShop, valueOf } from "./shop";
import { one } from "@/core/base/one";
import { unitView } from "@/features/units/view";

jest.setTimeout(360_000); // a busy machine is slow, not wrong

let db: Knex;
let technician: Actor;
beforeAll(async () => {
  ({ db, technician } = await openShop(15));
});
afterAll(() => closeShop(db));
const { act, takeIn, fullTest } = benchOf(() => ({ db, technician }));

test("the row types are what the migrations make", () => {
  const check = spawnSync(process.execPath, [join(__dirname, "../../scripts/tables.mjs"), "--check"], {
    encoding: "utf8",
  });
  expect([check.status, check.stderr]).toEqual([0, ""]);
});

describe("stored JSON", () => {
  const intakes = () => rowsOf(db("unit as u").where("u.id", unitId), { u: "unit" }, "u.intake as door");
  let unitId: string;
  beforeAll(async () => {
    ({ unitId } = await takeIn());
  });
  const store = (text: string) => db.raw("update unit set intake = ?::jsonb where id = ?", [text, unitId]);

  test("of an earlier shape comes out as today's, under whatever name it is asked for", async () => {
    await store("{}");
    const [row] = await intakes();
    expect(row?.door).toMatchObject({ marks: [], costLimitMinor: null });
    expect(await db("unit").where({ id: unitId }).pluck("intake")).toEqual([row?.door]);
    // in a transaction too, and for a change that locks the row
    await db.transaction(async (trx) => {
      expect((await trx("unit").where({ id: unitId }).forUpdate().first())?.intake).toEqual(row?.door);
    });
  });

  test("of no known shape is an error, and no figure is made of it", async () => {
    await store('{"marks": "many"}');
    await expect(intakes()).rejects.toThrow(/marks/);
    expect(await db("unit").where({ id: unitId }).pluck("tag")).toHaveLength(1); // what does not ask for it works on
    await store("{}");
    await expect(intakes()).resolves.toHaveLength(1);
  });

  test("that our own code computed has a shape too: what lost a field is an error, what an earlier version kept beside it stays", async () => {
    const cleared = () => db("unit").where({ id: unitId }).pluck("liquid_cleared");
    const write = (value: object) =>
      db.raw("update unit set liquid_cleared = ?::jsonb where id = ?", [JSON.stringify(value), unitId]);
    await write({ by: "bram", at: "2026-11-03T09:30:00Z", hours: 12 });
    expect(await cleared()).toEqual([{ by: "bram", at: "2026-11-03T09:30:00Z", hours: 12 }]);
    await write({ by: "bram" });
    await expect(cleared()).rejects.toThrow();
    await db.raw("update unit set liquid_cleared = null where id = ?", [unitId]);
    expect(await cleared()).toEqual([null]);
  });

  test("of a table that is made later passes its door as well", async () => {
    await db.schema.createSchemaIfNotExists("later");
    await db.raw('create table later.person ("hours" jsonb)');
    await db.raw(`insert into later.person values ('"never"')`);
    await expect(db.withSchema("later").from("person").select("hours")).rejects.toThrow();
    await db.schema.dropSchema("later", true);
  });
});

/** Questions that a read asks the database. */
async function questionsOf(read: () => Promise<unknown>): Promise<number> {
  let n = 0;
  const count = () => void n++;
  db.on("query", count);
  await read().finally(() => db.removeListener("query", count));
  return n;
}

test("a view of many units asks no more than a view of two", async () => {
  const faulty = async () => {
    const { tag, unitId } = await takeIn();
    await fullTest(unitId, { bad: true });
    return { tag, unitId };
  };
  const donor = async () => {
    const { unitId } = await faulty();
    const { version } = (await db("unit").where({ id: unitId }).first("version"))!;
    await valueOf(
      await act("unit.end", { unitId, version, kind: "donor", known: "cracked shell", priceMinor: null }),
    );
  };
  const parked = async () => {
    const { unitId } = await faulty();
    await valueOf(
      await act("fault.add", {
        unitId,
        place: "face.south",
        kind: "missRate",
        measure: "missRate",
        words: "misses",
        foundWhen: "test",
        recordingId: null,
        claimed: false,
      }),
    );
    const { version } = (await db("unit").where({ id: unitId }).first("version"))!;
    await valueOf(
      await act("decision.take", {
        unitId,
        version,
        disposition: "hold",
        route: null,
        why: "a part is missing",
      }),
    );
  };
  const views = {
    plan: () => planView(db, 20),
    donors: () => listDonors(db),
    needs: () => openNeeds(db),
    wakes: () => wakeUps(db),
  };
  const ask = async () => {
    const asked: Record<string, number> = {};
    for (const [name, read] of Object.entries(views)) {
      asked[name] = await questionsOf(read);
    }
    return asked;
  };
  for (const make of [donor, parked, faulty]) for (let i = 0; i < 2; i++) await make();
  const two = await ask();
  for (const make of [donor, parked, faulty]) for (let i = 0; i < 3; i++) await make();
  expect(await db("unit").where({ next_action: "wait" })).toHaveLength(5);
  expect(await ask()).toEqual(two);
  expect((await planView(db, 20)).problem.units.length).toBeGreaterThanOrEqual(5);
  expect(two.plan).toBeLessThan(60);
});

test("a deed tells what it costs: few questions, and none once nobody listens", async () => {
  const told: DeedCost[] = [];
  const listen = (cost: unknown) => void told.push(cost as DeedCost);
  subscribe(COSTS, listen);
  const { tag, unitId } = await takeIn();
  const { profile } = one(await unitView(db, tag, technician));
  await valueOf(
    await act("function.check", {
      unitId,
      functionId: one(profile.functions[0]).id,
      result: "pass",
      note: "",
    }),
  );
  unsubscribe(COSTS, listen);
  await takeIn();
  expect(told.map((c) => c.deed)).toEqual(["unit.take-in", "function.check"]);
  const check = told[1]!;
  expect(check.queries).toBe(check.asked.length + 1); // its begin is asked before anybody can count
  expect(check.queries).toBeLessThanOrEqual(13); // it was 25
  expect(check.lockedMs).toBeGreaterThan(0);
});
