import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import type { DeedInput } from "@/contract/deeds";
import type { MappedControl } from "@/core/input/input";
import { profileMap } from "@/core/profile/profile";
import { writeRecordingCsv } from "@/core/recording/csv";
import { FRESH_PROOF } from "@/core/guide/plan";
import { simulateFullTest } from "@/core/simulate/run";
import { storePhoto } from "@/features/intake/photos";
import { modelByKey } from "@/features/models/deeds";
import { shippedCatalogue } from "@/features/models/shipped";
import { signIn } from "@/features/people/deeds";
import { storeRecording } from "@/features/test/recordings";
import { type Actor, Refused } from "@/platform/deed/base";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";

/** Refusals that no other scene meets: each is asked for, and nothing of what was asked is kept. */

let db: Knex;
let lead: Actor;
let technician: Actor;
const { act, takeIn } = benchOf(() => ({ db, technician }));

beforeAll(async () => {
  ({ db, lead, technician } = await openShop(6));
  await valueOf(await act("catalogue.save", { version: 0, catalogue: shippedCatalogue() }, lead));
});
afterAll(() => closeShop(db));

const counted = async (table: string): Promise<number> => (await db(table)).length;
const faultOn = async (unitId: string) =>
  (
    await valueOf(
      await act("fault.add", {
        unitId,
        place: "face.south",
        kind: "misses",
        words: "",
        foundWhen: "test",
        measure: null,
        recordingId: null,
      }),
    )
  ).id!;

test("a lot's code and a person's name are given once, in whatever letters", async () => {
  const lot = { code: "L-ONCE", seller: "s", priceMinor: 100, carriageMinor: 0 };
  await valueOf(await act("lot.add", lot));
  expect(codeOf(await act("lot.add", lot))).toBe("name-taken");
  const person = { name: "TECH", role: "viewer" as const, password: "nine tame herons walk" };
  expect(codeOf(await act("person.add", person, lead))).toBe("name-taken");
  expect(await db("lot").where({ code: "L-ONCE" })).toHaveLength(1);
});

test("the last lead stays one", async () => {
  const step = (role: "lead" | "viewer", active: boolean) =>
    act("person.change", { personId: lead.id, role, active }, lead);
  expect(codeOf(await step("viewer", true))).toBe("last-lead");
  expect(codeOf(await step("lead", false))).toBe("last-lead");
  expect(await db("person").where({ id: lead.id }).first("role", "active")).toEqual({
    role: "lead",
    active: true,
  });
});

test("too many tries at a password are turned away, the right one too", async () => {
  const from = "192.0.2.7";
  const results = [];
  for (let i = 0; i < 12; i++) results.push(await signIn(db, "Tech", `guess ${i}`, from));
  expect(results[0]).toEqual({ ok: false, why: "wrong" });
  expect(results.at(-1)).toEqual({ ok: false, why: "too-many" });
  expect(await signIn(db, "Tech", "a-long-password", from)).toEqual({ ok: false, why: "too-many" });
});

test("what is no picture is not kept as one", async () => {
  const { unitId } = await takeIn();
  const sent = storePhoto(db, technician, unitId, "x", Buffer.from("<svg/>"));
  await expect(sent).rejects.toMatchObject({ problem: { code: "not-an-image" } });
  await expect(sent).rejects.toBeInstanceOf(Refused);
  expect(await counted("photo")).toBe(0);
});

test("a route that the catalogue does not have: logged, ordered, decided by, ruled by", async () => {
  const { unitId } = await takeIn();
  const faultId = await faultOn(unitId);
  const route = "nobody-knows-it";
  const mend: DeedInput<"mend.add"> = {
    unitId: unitId,
    faultId: faultId,
    what: "x",
    part: "",
    minutes: 1,
    remark: "",
    opened: true,
    settlesFault: false,
    route,
  };
  expect(codeOf(await act("mend.add", mend))).toBe("route-unknown");
  const targets = [{ faultId: faultId, what: "x", slot: null, route }];
  expect(codeOf(await act("work.open", { unitId: unitId, targets, cleaningLevel: 0, calibrate: [] }))).toBe(
    "route-unknown",
  );
  const { version } = (await db("unit").where({ id: unitId }).first("version"))!;
  expect(
    codeOf(await act("decision.take", { unitId: unitId, version, disposition: "mend", route, why: "x" })),
  ).toBe("route-unknown");
  expect(await counted("mend")).toBe(0);
  expect(await counted("work_order")).toBe(0);
});

test("a fault that is withdrawn says why, and stays open until it does", async () => {
  const { unitId } = await takeIn();
  const faultId = await faultOn(unitId);
  const settle = (why: string) => act("fault.settle", { faultId, version: 1, status: "withdrawn", why });
  expect(codeOf(await settle(""))).toBe("needs-why-gone");
  expect(codeOf(await settle("  "))).toBe("needs-why-gone");
  expect(await db("fault").where({ id: faultId }).first("status")).toEqual({ status: "open" });
  await valueOf(await settle("it was the lead"));
});

test("shares set by hand that are more than the lot cost are not kept", async () => {
  const { id } = await valueOf(
    await act("lot.add", { code: "L-HAND", seller: "s", priceMinor: 1000, carriageMinor: 0 }),
  );
  const ofLot = { origin: { source: "lot" as const, lotId: id! } };
  const units = [await takeIn(ofLot), await takeIn(ofLot)];
  const before = await db("unit").where({ lot_id: id }).orderBy("tag").pluck("lot_share_minor");
  const { version } = (await db("lot").where({ id }).first("version"))!;
  const spread = (minor: number) =>
    act("lot.spread", {
      lotId: id!,
      version,
      way: "hand",
      hand: units.map((u) => ({ unitId: u.unitId, minor })),
    });
  expect(codeOf(await spread(900))).toBe("shares-do-not-add");
  expect(await db("unit").where({ lot_id: id }).orderBy("tag").pluck("lot_share_minor")).toEqual(before);
});

test("a part that the catalogue does not have is not ordered, received or taken out of a donor", async () => {
  const order = {
    supplier: "harbour-originals",
    carriageMinor: 0,
    days: 3,
    lines: [{ part: "NO-SUCH", pack: 1, packs: 1, costMinor: 1 }],
  };
  expect(codeOf(await act("order.place", order))).toBe("part-unknown");
  const batch = {
    part: "NO-SUCH",
    supplier: "",
    pieces: 1,
    costMinor: 1,
    bin: "A1",
    source: "found" as const,
  };
  expect(codeOf(await act("stock.receive", batch))).toBe("part-unknown");
  expect([await counted("purchase_order"), await counted("batch")]).toEqual([0, 0]);
});

test("without a guide there is no work order, and the unit can still be mended by the log", async () => {
  const { body } = (await modelByKey(db, "knot"))!;
  const { guide: _, ...bare } = body;
  await valueOf(
    await act("profile.import", { profile: { ...bare, id: "bare-knot", name: "Bare Knot" } }, lead),
  );
  const { unitId } = await takeIn({ profileKey: "bare-knot" });
  const opened = await act("work.open", {
    unitId: unitId,
    targets: [],
    cleaningLevel: 0,
    calibrate: [],
  });
  expect(codeOf(opened)).toBe("no-guide");
});

describe("calibration", () => {
  const TABLE = { centre: [0, 0] as const, low: [-1, -1] as const, high: [1, 1] as const };
  /** A dunlin whose left stick was measured well enough to be calibrated. */
  const measured = async () => {
    const { unitId } = await takeIn({ profileKey: "dunlin", revision: null });
    const { body } = (await modelByKey(db, "dunlin"))!;
    const controls = profileMap(body, null).controls as MappedControl[];
    const recording = simulateFullTest(
      controls,
      { seed: 921, rateHz: 125, bits: 8, faults: {} },
      { aim: FRESH_PROOF },
    );
    const id = randomUUID();
    await storeRecording(
      db,
      technician,
      {
        id,
        unitId,
        purpose: "full",
        source: "simulated",
        tester: { label: "t", host: "h" },
        startedAgoMs: 0,
      },
      Buffer.from([...writeRecordingCsv(recording)].join("")),
    );
    const write = (part: "centre" | "range") =>
      act("calibration.write", {
        unitId: unitId,
        stick: "stick.left",
        part,
        recordingId: id,
        now: TABLE,
        port: "made up",
      });
    return { unitId, write };
  };

  test("the range comes after the centre", async () => {
    const { write } = await measured();
    expect(codeOf(await write("range"))).toBe("centre-first");
    await valueOf(await write("centre"));
    await valueOf(await write("range"));
  });

  test("what is read back otherwise than it was written is not kept", async () => {
    const { write } = await measured();
    await valueOf(await write("centre"));
    const { id, table_after: table } = (await db("calibration")
      .orderBy("at", "desc")
      .first("id", "table_after"))!;
    const off = { ...table, centre: [table.centre[0] + 0.1, table.centre[1]] as const };
    expect(codeOf(await act("calibration.saved", { calibrationId: id, readBack: off }))).toBe(
      "read-back-differs",
    );
    expect(await db("calibration").where({ id }).first("saved_at")).toEqual({ saved_at: null });
    await valueOf(await act("calibration.saved", { calibrationId: id, readBack: table }));
  });

  test("a calibration that the work order asks for is not ticked before one is kept", async () => {
    const { unitId } = await measured();
    const { id } = await valueOf(
      await act("work.open", {
        unitId: unitId,
        targets: [],
        cleaningLevel: 1,
        calibrate: ["stick.left"],
      }),
    );
    const tick = () =>
      act("work.do", {
        orderId: id!,
        event: { kind: "task", task: "calibrate:stick.left" },
        tookMs: null,
      });
    expect(codeOf(await tick())).toBe("calibrate-first");
  });
});
