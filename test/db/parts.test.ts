import type { Knex } from "knex";

import type { DeedInput } from "@/contract/deeds";
import type { Actor } from "@/platform/deed/base";
import { planView } from "@/features/parts/plan";
import { wakeUps } from "@/features/parts/wake-ups";
import { holdersOf } from "@/features/stock/batch-view";
import { donorView } from "@/features/parts/donors";
import { partsOfUnit } from "@/features/parts/needs";
import { shippedCatalogue } from "@/features/models/shipped";
import { unitView } from "@/features/units/view";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";
import { one } from "@/core/base/one";

let db: Knex;
let lead: Actor;
let technician: Actor;

beforeAll(async () => {
  ({ db, lead, technician } = await openShop(12));
});
afterAll(() => closeShop(db));

const { act, takeIn, fullTest } = benchOf(() => ({ db, technician }));

describe("parts", () => {
  const receive = async (part: string, pieces: number, costMinor: number, by = technician) =>
    (await valueOf(
      await act("stock.receive", { part, supplier: "tidewater-parts", pieces, costMinor, bin: "A1" }, by),
    )) as {
      id: string;
      code: string;
    };
  const batch = async (id: string) => one(await db("batch").where({ id }).first());
  const fault = async (unitId: string, place: string) =>
    valueOf(
      await act("fault.add", {
        unitId,
        place,
        kind: "drift",
        words: "",
        foundWhen: "test",
        claimed: false,
        measure: "restOffset",
        recordingId: null,
      }),
    );
  const dunlin = (change: Partial<DeedInput<"unit.take-in">> = {}) =>
    takeIn({ profileKey: "dunlin", ...change });
  const use = (batchId: string, count = 1) =>
    act("stock.take", { batchId, count, for: { kind: "use", unitId: null }, why: "" });
  const fit = (batchId: string, unitId: string, slot: string) =>
    act("stock.take", { batchId, count: 1, for: { kind: "fit", unitId, slot, mendId: null }, why: "" });

  beforeAll(async () => {
    await valueOf(await act("catalogue.save", { version: 0, catalogue: shippedCatalogue() }, lead));
  });

  test("fifty who take the last ten at once: none is left, forty are refused in words, and the cents add up", async () => {
    const { id } = await receive("SW-4L-O", 10, 997);
    const replies = await Promise.all(Array.from({ length: 50 }, () => use(id)));
    expect(replies.filter((r) => r.ok)).toHaveLength(10);
    expect(replies.filter((r) => !r.ok).map(codeOf)).toEqual(Array.from({ length: 40 }, () => "stock-short"));
    expect(await batch(id)).toMatchObject({ on_hand: 0, value_minor: 0, reserved: 0 });
    const moves = await db("movement").where({ batch_id: id });
    expect(moves.reduce((s, m) => s + m.delta, 0)).toBe(0);
    expect(moves.reduce((s, m) => s + m.minor, 0)).toBe(0);
    await expect(db("movement").where({ batch_id: id }).update({ delta: 5 })).rejects.toThrow(/append-only/);
  });

  test("what is put aside for a unit is taken by nobody else, and by it", async () => {
    const { id } = await receive("SM-DUN-O", 1, 900);
    const [mine, other] = [await dunlin(), await dunlin()];
    await valueOf(
      await act("stock.reserve", { unitId: mine.unitId, slot: "module.left", batchId: id, count: 1 }),
    );
    expect(codeOf(await fit(id, other.unitId, "module.left"))).toBe("stock-short");
    expect(codeOf(await use(id))).toBe("stock-short");
    expect(await valueOf(await fit(id, mine.unitId, "module.left"))).toMatchObject({ costMinor: 900 });
    expect(await batch(id)).toMatchObject({ on_hand: 0, reserved: 0 });
    expect(await db("reservation").where({ batch_id: id }).pluck("status")).toEqual(["used"]);
  });

  test("what does not fit is refused with its reason, and what is not for this use too", async () => {
    const { id } = await receive("SM-DUN-O", 2, 1800);
    const whimbrel = await takeIn({ profileKey: "whimbrel", revision: "r2" });
    const refused = await fit(id, whimbrel.unitId, "module.left");
    expect(refused).toMatchObject({ ok: false, problem: { code: "does-not-fit", known: true } });
    expect(codeOf(await fit(id, whimbrel.unitId, "nowhere"))).toBe("not-found");
    const board = await receive("BO-TUR-O", 1, 2180);
    const turnstone = await takeIn({ profileKey: "turnstone", revision: null });
    expect(await fit(board.id, turnstone.unitId, "board.main")).toMatchObject({
      problem: { code: "does-not-fit", known: false },
    });
    const domes = await receive("DO-DUN-C", 1, 90);
    await db("batch").where({ id: domes.id }).update({ status: "open" });
    expect(codeOf(await fit(domes.id, (await dunlin()).unitId, "dome.centre"))).toBe("not-for-this-use");
  });

  test("a batch is not used before it was measured; rejected it is locked, let go everywhere, and its holders are known", async () => {
    const made = await receive("SM-DUN-D", 5, 2600);
    const held = await dunlin();
    expect(codeOf(await fit(made.id, held.unitId, "module.left"))).toBe("batch-locked");
    const early = await act("batch.judge", { batchId: made.id, version: 1, verdict: "accept", why: "" });
    expect(codeOf(early)).toBe("needs-measuring");
    const read = (number: number, feel: number) =>
      act("batch.read", {
        batchId: made.id,
        number,
        reading: { ohms: null, thicknessMm: null, feel, tells: [] },
        instrument: "hand",
        tookMs: 30_000,
      });
    for (let n = 1; n <= 5; n++) expect(await valueOf(await read(n, 4))).toEqual({ verdict: "good" });
    expect(codeOf(await read(5, 4))).toBe("already");
    expect(codeOf(await read(6, 4))).toBe("already");
    await valueOf(
      await act("batch.judge", {
        batchId: made.id,
        version: (await batch(made.id)).version,
        verdict: "accept",
        why: "",
      }),
    );
    const customer = await valueOf(
      await act("customer.add", { name: "Ottoline Ferris", contact: "at the lock" }),
    );
    const owned = await dunlin({ origin: { source: "customer", customerId: customer.id! } });
    await valueOf(await fit(made.id, owned.unitId, "module.left"));
    await valueOf(
      await act("stock.reserve", { unitId: held.unitId, slot: "module.left", batchId: made.id, count: 1 }),
    );
    const { version } = await batch(made.id);
    expect(codeOf(await act("batch.judge", { batchId: made.id, version, verdict: "reject", why: "" }))).toBe(
      "limit-needs-reason",
    );
    await valueOf(
      await act("batch.judge", { batchId: made.id, version, verdict: "reject", why: "stiff after a week" }),
    );
    expect(await batch(made.id)).toMatchObject({ status: "rejected", reserved: 0 });
    expect(codeOf(await fit(made.id, held.unitId, "module.left"))).toBe("batch-locked");
    expect(await holdersOf(db, made.id)).toMatchObject([
      { tag: owned.tag, owner: "Ottoline Ferris", contact: "at the lock" },
    ]);
    // a unit that carries a piece of it cannot leave, until the piece is out
    const recalls = async () =>
      (await unitView(db, owned.tag, lead))!.blocks.filter((b) => b.code === "recall");
    expect(await recalls()).toEqual([{ code: "recall", batch: made.code }]);
    // what is taken out of a unit again stays locked
    const { id } = one(await db("fitted").where({ unit_id: owned.unitId }).first("id"));
    await valueOf(await act("fitted.remove", { fittedId: id, to: "stock", bin: null, why: "recalled" }));
    expect(await db("batch").where({ from_batch_id: made.id }).first()).toMatchObject({
      status: "rejected",
      on_hand: 1,
    });
    expect(await holdersOf(db, made.id)).toEqual([]);
    expect(await recalls()).toEqual([]);
    const now = await batch(made.id);
    // nobody accepts it back, not even who leads
    const back = { batchId: made.id, version: now.version, verdict: "accept" as const, why: "looks fine" };
    expect(codeOf(await act("batch.judge", back, lead))).toBe("batch-locked");
    await valueOf(
      await act("batch.dispose", { batchId: made.id, version: now.version, how: "electrical waste" }),
    );
    expect(await batch(made.id)).toMatchObject({ status: "disposed", on_hand: 0 });
  });

  test("a kit comes apart into batches whose cost adds up", async () => {
    const { id } = await receive("KIT-STICK", 1, 691);
    const lines = [
      { part: "SM-DUN-C", good: 2, bad: 0 },
      { part: "DRIVER-TRI", good: 1, bad: 0 },
      { part: "SWABS", good: 9, bad: 0 },
    ];
    const { codes } = (await valueOf(
      await act("stock.split", { batchId: id, count: 1, lines, bin: "B2", why: "" }),
    )) as unknown as {
      codes: string[];
    };
    const made = await db("batch").whereIn("code", codes);
    expect(made.reduce((s, b) => s + b.cost_minor, 0)).toBe(691);
    const event = one(await db("event").where({ kind: "batch-split" }).orderBy("id", "desc").first("body"));
    expect(event.body.short).toEqual([
      { part: "PRY", listed: 1, found: 0 },
      { part: "SWABS", listed: 10, found: 9 },
    ]);
    expect(codeOf(await act("stock.split", { batchId: id, count: 1, lines, bin: "B2", why: "" }))).toBe(
      "stock-short",
    );
  });

  test("a donor: parts by their evidence, untested only with a reason, cost shares that add up, and the lot spread again", async () => {
    const lot = await valueOf(
      await act("lot.add", {
        code: "L-D",
        seller: "s",
        priceMinor: 3000,
        carriageMinor: 0,
        unitsPromised: null,
      }),
    );
    const other = await takeIn({ origin: { source: "lot", lotId: lot.id! } });
    const { unitId, tag } = await takeIn({ origin: { source: "lot", lotId: lot.id! } });
    await fullTest(unitId);
    const before = one(await db("unit").where({ id: unitId }).first("lot_share_minor", "version"));
    await valueOf(
      await act("unit.end", {
        unitId,
        version: before.version,
        kind: "donor",
        known: "cracked shell",
        priceMinor: null,
      }),
    );
    const spread = await db("unit")
      .whereIn("id", [unitId, other.unitId])
      .orderBy("tag")
      .pluck("lot_share_minor");
    expect(spread.reduce((a: number, b) => a + (b ?? 0), 0)).toBe(3000);
    expect(spread[1]).toBeLessThan(before.lot_share_minor!);
    const view = await donorView(db, unitId);
    const state = (slot: string) => view.parts.find((p) => p.slot === slot)!.state;
    expect(view.parts.reduce((s, p) => s + p.shareMinor, 0)).toBe(view.costMinor);
    expect([state("dome.centre"), state("antenna.radio")]).toEqual(["good", "unknown"]);
    const asked = { unitId, bin: "D1", untestedWhy: "", forUnitId: null, forSlot: null };
    expect(codeOf(await act("donor.take", { ...asked, slot: "antenna.radio", part: "AN-60-D" }))).toBe(
      "test-in-donor-first",
    );
    await valueOf(
      await act("donor.judge", { unitId, slot: "antenna.radio", state: "bad", words: "torn at the clip" }),
    );
    expect(
      codeOf(await act("donor.take", { ...asked, slot: "antenna.radio", part: "AN-60-D", untestedWhy: "x" })),
    ).toBe("part-gone");
    const dome = view.parts.find((p) => p.slot === "dome.centre")!;
    const taken = await valueOf(
      await act("donor.take", { ...asked, slot: "dome.centre", part: dome.parts[0]! }),
    );
    const row = await batch(taken.id!);
    expect(row).toMatchObject({
      donor_unit_id: unitId,
      pieces: 1,
      condition: "tested good",
      source: "donor",
    });
    const after = await donorView(db, unitId);
    expect(after.parts.reduce((s, p) => s + p.shareMinor, 0)).toBe(after.costMinor);
    expect(after.parts.find((p) => p.slot === "dome.centre")).toMatchObject({
      state: "gone",
      taken: { batch: taken.code },
    });
    expect(codeOf(await act("donor.take", { ...asked, slot: "dome.centre", part: dome.parts[0]! }))).toBe(
      "part-gone",
    );
    expect(tag).toMatch(/^B-/);
  });

  test("a plan is applied as a whole or not at all, and a newer one takes the place of an older", async () => {
    const { id } = await receive("MO-CAN-8-O", 2, 680);
    const units = [await dunlin(), await dunlin(), await dunlin()];
    const line = (u: { unitId: string }, count = 1) => ({
      unitId: u.unitId,
      slot: "motor.motor.light",
      part: "MO-CAN-8-O",
      count,
      source: { kind: "stock" as const },
    });
    const apply = (lines: ReturnType<typeof line>[]) =>
      act("plan.apply", { lines, choices: [], valueMinor: 1000 });
    expect(codeOf(await apply(units.map((u) => line(u))))).toBe("stock-short");
    expect(await batch(id)).toMatchObject({ reserved: 0 });
    expect(await db("reservation").where({ part: "MO-CAN-8-O" })).toHaveLength(0);
    await valueOf(await apply([line(units[0]!), line(units[1]!)]));
    expect(await batch(id)).toMatchObject({ reserved: 2 });
    const both = await Promise.all([apply([line(units[2]!)]), apply([line(units[0]!)])]);
    expect(both.every((r) => r.ok)).toBe(true);
    expect(await batch(id)).toMatchObject({ reserved: 1, on_hand: 2 });
    expect(await db("reservation").where({ part: "MO-CAN-8-O", status: "open" })).toHaveLength(1);
  });

  test("a piece from the shelf is priced by its batch, and a swap stands in both histories", async () => {
    const { id } = await receive("SM-DUN-O", 2, 1801);
    const [a, b] = [await dunlin(), await dunlin()];
    const f = await fault(a.unitId, "stick.left");
    await valueOf(
      await act("mend.add", {
        unitId: a.unitId,
        faultId: f.id!,
        what: "New module",
        part: "",
        minutes: 30,
        remark: "",
        opened: true,
        settlesFault: true,
        fromStock: { batchId: id, slot: "module.left" },
      }),
    );
    expect(await db("mend").where({ unit_id: a.unitId }).first()).toMatchObject({
      part: "Dunlin stick module, original",
      part_minor: 901,
    });
    const swap = {
      unitId: a.unitId,
      slot: "module.left",
      otherUnitId: b.unitId,
      otherSlot: "module.left",
      part: "SM-DUN-O",
      why: "try",
    };
    await valueOf(await act("part.swap", swap));
    const now = (unitId: string) => db("fitted").where({ unit_id: unitId, removed_at: null }).first();
    expect(await now(b.unitId)).toMatchObject({ batch_id: id, from_unit_id: a.unitId, cost_minor: 901 });
    expect(await now(a.unitId)).toMatchObject({ batch_id: null, from_unit_id: b.unitId, condition: "used" });
    for (const u of [a, b])
      expect(await db("event").where({ unit_id: u.unitId, kind: "part-swapped" })).toHaveLength(1);
    expect((await partsOfUnit(db, a.unitId)).fitted).toHaveLength(2);
  });

  test("a new part takes the old one's place, so that a recall names the right units; a bad piece leaves the shelf", async () => {
    const [first, second] = [await receive("SM-DUN-O", 1, 900), await receive("SM-DUN-O", 1, 910)];
    const { unitId } = await dunlin();
    await valueOf(await fit(first.id, unitId, "module.left"));
    expect(await holdersOf(db, first.id)).toHaveLength(1);
    await valueOf(await fit(second.id, unitId, "module.left"));
    expect(await holdersOf(db, first.id)).toEqual([]);
    expect(await holdersOf(db, second.id)).toHaveLength(1);
    const made = await receive("SM-DUN-D", 4, 2000);
    await db("batch").where({ id: made.id }).update({ status: "open" });
    const reading = { ohms: null, thicknessMm: null, feel: 1, tells: [] };
    await valueOf(
      await act("batch.read", { batchId: made.id, number: 1, reading, instrument: "hand", tookMs: 1000 }),
    );
    expect(await batch(made.id)).toMatchObject({ on_hand: 3, value_minor: 1500 });
  });

  test("the next plan may take what an earlier plan promised; what a hand put aside asks for nothing more", async () => {
    const donor = await takeIn();
    await fullTest(donor.unitId);
    const { version } = one(await db("unit").where({ id: donor.unitId }).first("version"));
    await valueOf(
      await act("unit.end", {
        unitId: donor.unitId,
        version,
        kind: "donor",
        known: "parts",
        priceMinor: null,
      }),
    );
    const unit = await takeIn();
    await fault(unit.unitId, "pad.left");
    await db("unit").where({ id: unit.unitId }).update({ next_action: "mend" });
    const slot = "dome.centre";
    const freed = async () =>
      (await planView(db, 20)).problem.donors
        .find((d) => d.id === donor.unitId)
        ?.frees.some((f) => f.slot === slot) ?? false;
    const asks = async () =>
      (await planView(db, 20)).problem.units
        .find((u) => u.id === unit.unitId)!
        .options.some((o) => o.needs.some((n) => n.slot === slot));
    expect([await freed(), await asks()]).toEqual([true, true]);
    const source = { kind: "donor" as const, donorUnitId: donor.unitId, donorSlot: slot };
    const lines = [{ unitId: unit.unitId, slot, part: "DO-KNO-D", count: 1, source }];
    for (let i = 0; i < 2; i++) {
      await valueOf(await act("plan.apply", { lines, choices: [], valueMinor: 1 }));
      expect((await donorView(db, donor.unitId)).parts.find((p) => p.slot === slot)!.promised).toBe(unit.tag);
      expect(await freed()).toBe(true);
    }
    await valueOf(await act("plan.apply", { lines: [], choices: [], valueMinor: 1 }));
    const domes = await receive("DO-KNO-D", 1, 130);
    await db("batch").where({ id: domes.id }).update({ status: "open" });
    await valueOf(await act("stock.reserve", { unitId: unit.unitId, slot, batchId: domes.id, count: 1 }));
    expect(await asks()).toBe(false);
  });

  test("an order arrives once, and a file is taken whole or not at all", async () => {
    await valueOf(
      await act("order.place", {
        supplier: "tidewater-parts",
        carriageMinor: 390,
        days: 3,
        lines: [{ part: "FLUX", pack: 10, packs: 1, costMinor: 620 }],
      }),
    );
    const line = one(await db("order_line").where({ part: "FLUX" }).first("id", "order_id"));
    const arrive = () =>
      act("stock.receive", {
        part: "FLUX",
        supplier: "",
        pieces: 10,
        costMinor: 1010,
        bin: "C1",
        orderLineId: line.id,
      });
    await valueOf(await arrive());
    expect(codeOf(await arrive())).toBe("already");
    expect(await db("purchase_order").where({ id: line.order_id }).first("status")).toEqual({
      status: "arrived",
    });
    const head = "batch,part,supplier,bin,on_hand,cost\r\n";
    const batches = async () => (await db("batch").pluck("id")).length;
    const n = await batches();
    const good = ",SOLDER,tidewater-parts,C1,100,8.90\r\n";
    expect(
      codeOf(
        await act(
          "stock.import",
          { kind: "stock", text: `${head}${good},NOPE,,C1,1,1.00\r\n`, version: 1 },
          lead,
        ),
      ),
    ).toBe("csv");
    expect(await batches()).toBe(n);
    expect(
      await valueOf(await act("stock.import", { kind: "stock", text: head + good, version: 1 }, lead)),
    ).toEqual({
      changed: 1,
    });
    expect(codeOf(await act("stock.import", { kind: "stock", text: head + good, version: 1 }))).toBe(
      "not-allowed",
    );
  });

  test("a parked unit comes up when its part lies on the shelf", async () => {
    const { unitId, tag } = await dunlin();
    await fault(unitId, "trigger.left");
    await db("unit").where({ id: unitId }).update({ next_action: "wait" });
    const waiting = async () => (await wakeUps(db)).filter((w) => w.tag === tag);
    expect(await waiting()).toEqual([]);
    await receive("TS-DUN-L-O", 1, 420);
    expect(await waiting()).toEqual([
      { tag, slot: "left trigger sensor", part: "TS-DUN-L-O", from: "stock" },
    ]);
  });
});
