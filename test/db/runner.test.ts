import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import type { Actor } from "@/platform/deed/base";
import { change, type Deed, deed, Stale } from "@/platform/deed/declare";
import { perform, runChange } from "@/platform/run/run";
import { answerByToken } from "@/features/questions/deeds";
import { loadSettings } from "@/features/settings/settings";
import { shippedCatalogue } from "@/features/models/shipped";
import { benchOf, closeShop, codeOf, mustFollowTheRecord, openShop, valueOf } from "./shop";
import { one } from "@/core/base/one";

/** What the runner does around every deed: locks in one order, events, and what follows from them. */

let db: Knex;
let lead: Actor;
let technician: Actor;
const { act, takeIn, ready } = benchOf(() => ({ db, technician }));

beforeAll(async () => ({ db, lead, technician } = await openShop(12)));
afterAll(() => closeShop(db));

const versionOf = async (id: string): Promise<number> =>
  one(await db("unit").where({ id }).first("version")).version;

test("all units of a lot are closed at once: nobody is turned away, and the shares add up", async () => {
  const { id: lotId } = await valueOf(
    await act("lot.add", { code: "L-RUN", seller: "quayside market", priceMinor: 5003, carriageMinor: 400 }),
  );
  const units = [];
  for (let i = 0; i < 8; i++) units.push(await takeIn({ origin: { source: "lot", lotId: lotId! } }));
  const ended = await Promise.all(
    units.map(async ({ unitId }, i) =>
      act("unit.end", {
        unitId,
        version: await versionOf(unitId),
        kind: i % 2 ? "donor" : "sold-as-found",
        known: "as it came",
        priceMinor: i % 2 ? null : 300,
      }),
    ),
  );
  expect(ended.map((r) => (r.ok ? "ok" : r.problem.code))).toEqual(units.map(() => "ok"));
  const shares = await db("unit").where({ lot_id: lotId }).pluck("lot_share_minor");
  expect(shares.reduce((a: number, b) => a + (b ?? 0), 0)).toBe(5403);
  await mustFollowTheRecord(db);
});

test("a change that locks two units does so in one order, however they are named", async () => {
  const [a, b] = [await takeIn(), await takeIn()];
  const both = change({ units: (ids: string[]) => ids }, async ({ note, units }, ids) => {
    for (const id of ids) note("tray", id, { tray: null });
    return units.size;
  });
  const done = await Promise.all(
    Array.from({ length: 12 }, (_, i) =>
      db.transaction((trx) =>
        runChange(trx, technician, both, i % 2 ? [a.unitId, b.unitId] : [b.unitId, a.unitId]),
      ),
    ),
  );
  expect(done).toEqual(Array.from({ length: 12 }, () => 2));
});

test("what a body said is gone with it when the body is refused", async () => {
  const { unitId } = await takeIn();
  const noted = await db("event").where({ unit_id: unitId }).pluck("kind");
  const refused = change({ unit: (id: string) => id }, async ({ note, unit }) => {
    note("tray", unit.id, { tray: 3 });
    throw new Error("in the middle");
  });
  await expect(db.transaction((trx) => runChange(trx, technician, refused, unitId))).rejects.toThrow(
    "in the middle",
  );
  expect(await db("event").where({ unit_id: unitId }).pluck("kind")).toEqual(noted);
});

test("a batch that is moved or counted stands in the record, with from where to where", async () => {
  await valueOf(await act("catalogue.save", { version: 0, catalogue: shippedCatalogue() }, lead));
  const { id, code } = await valueOf(
    await act("stock.receive", {
      part: "SW-4L-O",
      supplier: "tidewater-parts",
      pieces: 5,
      costMinor: 900,
      bin: "A1",
    }),
  );
  await valueOf(await act("stock.move", { batchId: id!, bin: "B2" }));
  await valueOf(
    await act("stock.count", { batchId: id!, version: 2, counted: 4, why: "one under the bench" }),
  );
  const said = await db("event")
    .whereIn("kind", ["stock-moved", "stock-counted"])
    .orderBy("id")
    .select("kind", "body");
  expect(said).toEqual([
    { kind: "stock-moved", body: { batch: code, from: "A1", to: "B2" } },
    { kind: "stock-counted", body: { batch: code, from: 5, to: 4, why: "one under the bench" } },
  ]);
});

test("a batch is rejected while pieces of it are fitted: whoever holds one is told, whichever came first", async () => {
  for (let round = 0; round < 5; round++) {
    const { id } = await valueOf(
      await act("stock.receive", {
        part: "SM-DUN-O",
        supplier: "tidewater-parts",
        pieces: 6,
        costMinor: 900,
        bin: "A1",
      }),
    );
    // pieces that came out of it and lie in a batch of their own: nobody who takes one changes the batch that
    // is judged
    const kin = await valueOf(
      await act("stock.receive", {
        part: "SM-DUN-O",
        supplier: "tidewater-parts",
        pieces: 6,
        costMinor: 900,
        bin: "A1",
      }),
    );
    await db("batch").whereIn("id", [id!, kin.id!]).update({ status: "open" });
    await db("batch").where({ id: kin.id }).update({ from_batch_id: id });
    const { version } = one(await db("batch").where({ id }).first("version"));
    const units = [];
    for (let i = 0; i < 3; i++) units.push((await takeIn({ profileKey: "dunlin", revision: null })).unitId);
    const fit = (unitId: string) =>
      act("stock.take", {
        batchId: kin.id!,
        count: 1,
        for: { kind: "fit", unitId, slot: "module.left", mendId: null },
        why: "",
      });
    const reject = act(
      "batch.judge",
      { batchId: id!, version, verdict: "reject", why: "they crumble" },
      lead,
    );
    const [rejected] = await Promise.all([reject, ...units.map(fit)]);
    expect(codeOf(rejected!)).toBe("done");
    const holding = await db("fitted")
      .where({ batch_id: kin.id, removed_at: null })
      .orderBy("unit_id")
      .pluck("unit_id");
    const told = await db("event")
      .where({ kind: "batch-recalled" })
      .whereIn("unit_id", units)
      .orderBy("unit_id")
      .pluck("unit_id");
    expect(told).toEqual(holding);
  }
  await mustFollowTheRecord(db);
});

test("the house's rules change: every unit in house follows, a closed one does not", async () => {
  const units = [await takeIn(), await takeIn()];
  const closed = await takeIn();
  await valueOf(
    await act("unit.end", {
      unitId: closed.unitId,
      version: 1,
      kind: "scrap",
      known: "burnt",
      priceMinor: null,
    }),
  );
  const { settings, version } = await loadSettings(db);
  const floor = settings.floor === "A" ? "B" : "A";
  await valueOf(await act("settings.save", { version, settings: { ...settings, floor } }, lead));
  expect(await db("event").where({ kind: "rules-changed" }).first("body")).toMatchObject({ body: { floor } });
  await mustFollowTheRecord(db);
  expect(
    await db("unit")
      .whereIn(
        "id",
        units.map((u) => u.unitId),
      )
      .pluck("stage"),
  ).toEqual(["test", "test"]);
});

const standsAt = async (id: string): Promise<string> =>
  one(await db("unit").where({ id }).first("next_action")).next_action;

test("a customer's yes and what a try showed move the unit at once, for every list", async () => {
  const customer = await valueOf(await act("customer.add", { name: "Orsolya Pike", contact: "" }));
  const { unitId } = await ready({ origin: { source: "customer", customerId: customer.id! } });
  expect(await standsAt(unitId)).toBe("release");
  const fault = await valueOf(
    await act("fault.add", {
      unitId,
      place: "face.south",
      kind: "misses presses",
      words: "",
      foundWhen: "test",
      measure: null,
      recordingId: null,
    }),
  );
  const { token } = await valueOf(
    await act("question.send", {
      unitId,
      days: 5,
      body: {
        v: 1,
        findings: "worn",
        faults: [
          {
            faultId: fault.id!,
            number: 1,
            found: "face south",
            options: [{ key: "dome", words: "new dome", priceMinor: 900, days: 3, warrantyDays: 90 }],
          },
        ],
      },
    }),
  );
  await valueOf(
    await act("fault.settle", {
      faultId: fault.id!,
      version: 1,
      status: "mended",
      why: "a new dome, pressed 40 times",
    }),
  );
  expect(await standsAt(unitId)).toBe("settle-blocks");
  // the customer answers on their own page: nobody of the shop does a deed
  const posted = {
    requestId: randomUUID(),
    confirmed: true as const,
    answer: { name: "O. Pike", words: "", changes: false, choices: [{ faultId: fault.id!, choice: "dome" }] },
  };
  expect(await answerByToken(db, token!, posted)).toEqual({ ok: true });
  expect(await standsAt(unitId)).toBe("release");

  await valueOf(
    await act("try.add", {
      unitId,
      suspect: "row.face",
      action: "clean",
      expects: "it answers",
      what: "clean",
    }),
  );
  const tried = one(await db("attempt").where({ unit_id: unitId }).first("id"));
  await valueOf(await act("try.settle", { tryId: tried.id, version: 1, outcome: "cured", undone: null }));
  expect(await standsAt(unitId)).toBe("settle-blocks");
  await mustFollowTheRecord(db);
});

test("who looked before the last change is told whose it was; a unit that is not there is named", async () => {
  const { unitId } = await takeIn();
  await valueOf(await act("unit.set-due", { unitId, version: 1, dueOn: "2026-12-24" }, lead));
  const late = await act("unit.set-due", { unitId, version: 1, dueOn: "2026-12-31" });
  expect(late).toMatchObject({ ok: false, problem: { code: "changed-meanwhile", by: "Lead" } });
  expect(codeOf(await act("unit.to-tray", { unitId: randomUUID(), tray: 1 }))).toBe("not-found");
});

describe("what takes long is done before anything is locked", () => {
  const prepared = (work: () => Promise<void>) => {
    const seen: string[] = [];
    const claims: Deed<"unit.set-reference"> = deed(
      "unit.set-reference",
      {
        unit: (i) => i.unitId,
        prepare: async ({ unitId }, before) => {
          const { claim } = one(await before("unit").where({ id: unitId }).first("claim"));
          seen.push(claim);
          if (seen.length === 1) await work();
          return claim as string;
        },
      },
      async ({ unit, prepared: claim }) => {
        if (unit.claim !== claim) throw new Stale();
        return {};
      },
    );
    return { claims, seen };
  };

  test("what changed meanwhile is prepared once more", async () => {
    const { unitId } = await takeIn({ claim: "as it was" });
    const { claims, seen } = prepared(
      async () => void (await db("unit").where({ id: unitId }).update({ claim: "as it is" })),
    );
    const reply = await perform(db, technician, claims, randomUUID(), { unitId, version: 1, on: false });
    expect([reply.ok, seen]).toEqual([true, ["as it was", "as it is"]]);
  });

  test("whose ground moves again and again still gets through, and whose never holds is told", async () => {
    const { unitId } = await takeIn();
    const moved = (times: number) => {
      let tries = 0;
      const own: Deed<"unit.set-reference"> = deed(
        "unit.set-reference",
        { unit: (i) => i.unitId },
        async () => {
          if (++tries <= times) throw new Stale();
          return {};
        },
      );
      return perform(db, technician, own, randomUUID(), { unitId, version: 1, on: false });
    };
    expect(await moved(6)).toMatchObject({ ok: true });
    expect(await moved(1000)).toMatchObject({ ok: false, problem: { code: "changed-meanwhile" } });
  });

  test("nobody waits for it: the unit can be changed all the while", async () => {
    const { unitId } = await takeIn();
    const { claims } = prepared(
      async () =>
        void (await valueOf(await act("unit.set-due", { unitId, version: 1, dueOn: "2026-12-24" }))),
    );
    expect((await perform(db, technician, claims, randomUUID(), { unitId, version: 2, on: false })).ok).toBe(
      true,
    );
  });
});
