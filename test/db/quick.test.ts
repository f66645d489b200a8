import type { Knex } from "knex";

import type { Actor } from "@/platform/deed/base";
import { writeEvents } from "@/platform/deed/events";
import { buyingView } from "@/features/buying/view";
import { untilNoted } from "@/platform/deed/noted";
import { listUnits } from "@/features/units/list";
import { stepTimes } from "@/features/mend/order";
import { benchOf, closeShop, openShop, valueOf } from "./shop";
import { one } from "@/core/base/one";

/** What keeps a large workshop quick, and must not change what is seen. */

let db: Knex;
let lead: Actor;
let technician: Actor;

beforeAll(async () => {
  ({ db, lead, technician } = await openShop(4));
});
afterAll(() => closeShop(db));

const { act, takeIn } = benchOf(() => ({ db, technician }));

test("a read that is asked often is asked by name, and goes on after its table changed its shape", async () => {
  await db.schema.createTable("shape", (t) => t.integer("a"));
  await db("shape").insert({ a: 1 });
  for (let i = 0; i < 20; i++) expect(await db("shape").select("*")).toEqual([{ a: 1 }]);
  const named = await db.raw(
    "select count(*)::int as n from pg_prepared_statements where statement like '%shape%'",
  );
  expect(named.rows[0].n).toBeGreaterThan(0);
  await db.schema.alterTable("shape", (t) => t.integer("b").defaultTo(2));
  const answers = [];
  for (let i = 0; i < 20; i++)
    answers.push(
      await db("shape")
        .select("*")
        .catch((e: { code: string }) => e.code),
    );
  expect(answers.at(-1)).toEqual([{ a: 1, b: 2 }]);
  expect(answers.filter((x) => x === "0A000").length).toBeLessThanOrEqual(4); // at most once a connection
  await db.schema.dropTable("shape");
});

test("a kept value is made anew when something of its kind was noted, and only then", async () => {
  let made = 0;
  const value = () => untilNoted(db, "test", ["tray"], () => Promise.resolve(++made));
  expect(await value()).toBe(1);
  await writeEvents(db, [{ kind: "photo-removed", unitId: null, body: {}, by: lead.id }]);
  expect(await value()).toBe(1);
  await writeEvents(db, [{ kind: "tray", unitId: null, body: {}, by: lead.id }]);
  expect(await value()).toBe(2);
  expect(await value()).toBe(2);
});

test("what began earlier and is written later is seen all the same, some seconds later", async () => {
  let made = 0;
  const value = () => untilNoted(db, "late", ["due-set"], () => Promise.resolve(++made));
  await writeEvents(db, [{ kind: "due-set", unitId: null, body: {}, by: lead.id }]);
  expect(await value()).toBe(1);
  const began = Date.now();
  const now = jest.spyOn(Date, "now");
  try {
    now.mockReturnValue(began + 30_000);
    expect(await value()).toBe(1); // shown at once, and made once more behind the page's back
    expect(made).toBe(2);
    await new Promise(setImmediate);
    expect(await value()).toBe(2);
    now.mockReturnValue(began + 90_000);
    expect(await value()).toBe(2); // settled: nothing to make
    expect(made).toBe(2);
  } finally {
    now.mockRestore();
  }
});

test("units by words keep to the other filters, the newest first", async () => {
  const knot = await takeIn({ claim: "warbles loudly" });
  const other = await takeIn({ claim: "warbles softly", profileKey: "dunlin", revision: null });
  await takeIn({ claim: "silent" });
  const tags = async (filter: Parameters<typeof listUnits>[1], size = 25) =>
    (await listUnits(db, filter, { page: 0, size, sort: { by: "tag", down: true } })).units.map((u) => u.tag);
  expect(await tags({ q: "warbles" })).toEqual([other.tag, knot.tag]);
  expect(await tags({ q: "warbles", model: "knot" })).toEqual([knot.tag]);
  expect(await tags({ q: "warbles", stage: "closed" })).toEqual([]);
  expect(await tags({ q: "warbles", stage: "open", source: "single" })).toEqual([other.tag, knot.tag]);
  expect(await tags({ q: "warbles" }, 1)).toEqual([other.tag]);
  expect(await tags({ q: "100% _" })).toEqual([]);
});

test("of many lots the open ones come first, and an old one is found by its code", async () => {
  const lot = async (n: number, unitsPromised: number | null) =>
    valueOf(
      await act(
        "lot.add",
        { code: `L-${n}`, seller: "s", priceMinor: 1000, carriageMinor: 0, unitsPromised },
        lead,
      ),
    );
  await lot(100, null);
  await lot(101, 3); // nothing of it has come yet
  for (let n = 102; n < 120; n++) await lot(n, null);
  const plain = await buyingView(db, null);
  expect(plain.lots).toHaveLength(12);
  expect(plain.lotCount).toBe(20);
  expect(plain.lots[0]!.code).toBe("L-101");
  expect(plain.lots[1]!.code).toBe("L-119");
  expect(plain.lots.map((l) => l.code)).not.toContain("L-100");
  const asked = await buyingView(db, "l-100");
  expect(asked.lots[0]!.code).toBe("L-100");
  expect(asked.lotAsked).toEqual({ code: "l-100", found: true });
  expect((await buyingView(db, "L-1")).lotAsked).toEqual({ code: "L-1", found: false });
});

test("a model's minutes are those of its newest work orders; whose hands knew it before is known", async () => {
  const unit = one((await db("unit").where({ tag: (await takeIn()).tag }))[0]);
  const orders = await db("work_order")
    .insert(
      Array.from({ length: 125 }, (_, i) => ({
        unit_id: unit.id,
        profile_id: unit.profile_id,
        revision: unit.revision,
        body: JSON.stringify({ targets: [], cleaningLevel: 1, calibrate: [] }),
        status: "closed",
        by: i < 5 ? lead.id : technician.id,
        at: new Date(Date.UTC(2026, 0, 1 + i)),
      })),
    )
    .returning(["id", "by"]);
  await db("work_event").insert(
    orders.map((o, i) => ({
      work_order_id: o.id,
      body: JSON.stringify({ kind: "apart", step: "halves" }),
      minutes: i < 5 ? 50 : 4,
      by: o.by,
    })),
  );
  const log = await stepTimes(db, "knot");
  expect(log.times).toHaveLength(120);
  expect(
    log.times.every((t) => t.minutes === 4 && t.step === "apart:halves" && t.person === technician.id),
  ).toBe(true);
  expect(log.hands).toEqual([lead.id]);
});
