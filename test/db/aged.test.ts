import type { Knex } from "knex";

import { one } from "@/core/base/one";
import { simulatedChargeLog } from "@/core/simulate/instruments";
import { findView } from "@/features/find/view";
import { unitView } from "@/features/units/view";
import type { Actor } from "@/platform/deed/base";
import { benchOf, closeShop, openShop, valueOf } from "./shop";

/** Facts of the bench bear on causes and on the release, and end when the part they are about is changed. */

let db: Knex;
let technician: Actor;
let lead: Actor;
const { act, takeIn, look, ready, release } = benchOf(() => ({ db, technician }));

beforeAll(async () => ({ db, technician, lead } = await openShop(11)), 120_000);
afterAll(() => closeShop(db));

const find = async (tag: string) => (await findView(db, one(await unitView(db, tag, technician))))!;
const chanceOf = async (tag: string, node: string) =>
  (await find(tag)).causes.find((c) => c.node === node)?.probability ?? 0;

/** A whole charge into a cell that takes so much of its rated charge. */
const charge = (share: number, rated: number) => ({
  kind: "charge-log" as const,
  supply: "main",
  rows: simulatedChargeLog(
    7,
    { chemistry: "lithium-ion", cells: 1, nominalVolts: 3.7, capacityMah: rated },
    { capacityShare: share },
  ),
  signShown: true,
});
const take = (unitId: string, reading: unknown) =>
  act("reading.take", { unitId, reading, instrument: "charge meter", host: "", tookMs: null } as never);
const look_ = (unitId: string, target: string, outcome: string) =>
  act("find.observe", { unitId, kind: "place", target, outcome, value: null, note: "" } as never);
const dunlin = { profileKey: "dunlin" } as const;

test("a charge log that fails accuses the cell, blocks, and can be named; a later one that passes clears it", async () => {
  const { tag, unitId } = await takeIn(dunlin);
  const rated = one((await look(tag)).profile.power[0]).capacityMah!;
  expect((await find(tag)).causes).toEqual([]); // nothing speaks yet
  expect(await valueOf(await take(unitId, charge(0.46, rated)))).toMatchObject({ verdict: "fail" });
  const cell = one((await look(tag)).profile.wiring!.nodes.find((n) => n.kind === "cell")).id;
  expect((await find(tag)).causes[0]!.node).toBe(cell);
  expect(await chanceOf(tag, cell)).toBeGreaterThan(0.3);
  expect((await find(tag)).causes[0]!.because[0]!.what).toMatch(/charge log/);
  const block = { code: "reading", reading: "charge-log", subject: "main", verdict: "fail" };
  expect((await look(tag)).blocks).toContainEqual(block);

  // a log that is broken off takes nothing back, and says nothing by itself
  const short = charge(0.95, rated);
  const broken = { ...short, rows: short.rows.slice(0, 4) };
  expect(await valueOf(await take(unitId, broken))).toMatchObject({ verdict: "not-tested" });
  expect((await look(tag)).blocks).toContainEqual(block);
  expect(await chanceOf(tag, cell)).toBeGreaterThan(0.3);

  await valueOf(await take(unitId, charge(0.95, rated)));
  expect((await look(tag)).blocks.map((b) => b.code)).not.toContain("reading");
  expect(await chanceOf(tag, cell)).toBeLessThan(0.05);
});

test("a new cell ends what was read of the old one; a cleaned stick ends nothing of it", async () => {
  const { tag, unitId } = await takeIn(dunlin);
  const rated = one((await look(tag)).profile.power[0]).capacityMah!;
  await valueOf(await take(unitId, charge(0.46, rated)));
  const charging = one(
    (await look(tag)).profile.functions.find((f) => f.kind === "charging" || f.kind === "power-on"),
  );
  const name = (place: string) =>
    act("fault.add", {
      unitId,
      place,
      kind: "charge log",
      words: "46 %",
      foundWhen: "test",
      measure: place === charging.id ? "charge-log" : "restOffset",
      recordingId: null,
    });
  const mend = async (place: string, route: string) =>
    valueOf(
      await act("mend.add", {
        unitId,
        faultId: ((await valueOf(await name(place))) as { id: string }).id as never,
        what: route,
        part: "",
        minutes: 8,
        remark: "",
        opened: true,
        settlesFault: false,
        route,
        partMinor: 0,
        cause: "not-known",
      }),
    );
  await mend("stick.left", "clean-contacts");
  expect((await look(tag)).blocks.map((b) => b.code)).toContain("reading");
  await mend(charging.id, "cell-new");
  const after = await find(tag);
  expect(after.readings[0]!.ended?.how ?? "stands").toBe("replaced");
  expect((await look(tag)).blocks.map((b) => b.code)).not.toContain("reading");
});

test("a symptom named by hand ends with a mend where it is, and not with one elsewhere; what was undone ends nothing", async () => {
  const { tag, unitId } = await takeIn(dunlin);
  const said = async () => (await find(tag)).seen.filter((s) => s.from === "observation").map((s) => s.id);
  await valueOf(
    await act("find.observe", {
      unitId,
      kind: "function",
      target: "stick.left",
      outcome: "jumps",
      value: null,
      note: "",
    }),
  );
  const mendAt = async (place: string) => {
    const { id } = await valueOf(
      await act("fault.add", {
        unitId,
        place,
        kind: "seen",
        words: "",
        foundWhen: "test",
        measure: null,
        recordingId: null,
      }),
    );
    await valueOf(
      await act("mend.add", {
        unitId,
        faultId: id as never,
        what: "cleaned",
        part: "",
        minutes: 3,
        remark: "",
        opened: true,
        settlesFault: false,
        route: null,
        partMinor: 0,
        cause: "not-known",
      }),
    );
  };
  await mendAt("stick.right");
  expect(await said()).toEqual(["stick.left"]);
  await mendAt("stick.left");
  expect(await said()).toEqual([]);

  const joint = one((await look(tag)).profile.wiring!.nodes.find((n) => n.kind === "joint")).id;
  await valueOf(await look_(unitId, joint, "cracked-joint"));
  await valueOf(
    await act("try.add", {
      unitId,
      suspect: joint,
      action: "replace",
      expects: "it answers",
      what: "a wire",
    }),
  );
  expect((await find(tag)).observations.at(-1)!.ended?.how).toBe("replaced");
  await db("attempt").where({ unit_id: unitId }).update({ outcome: "cured", undone: "came-back" });
  expect((await find(tag)).observations.at(-1)!.ended).toBeNull();
});

test("a joint that was resoldered is no longer a cracked one; seen cracked again it counts again", async () => {
  const { tag, unitId } = await takeIn(dunlin);
  const joint = one((await look(tag)).profile.wiring!.nodes.find((n) => n.kind === "joint")).id;
  await valueOf(await look_(unitId, joint, "cracked-joint"));
  const cracked = await chanceOf(tag, joint);
  expect(cracked).toBeGreaterThan(0.2);
  await valueOf(
    await act("try.add", {
      unitId,
      suspect: joint,
      action: "resolder",
      expects: "the half answers",
      what: "fresh solder",
    }),
  );
  const aged = await find(tag);
  expect(aged.observations[0]!.ended?.how).toBe("resoldered");
  expect(await chanceOf(tag, joint)).toBeLessThan(cracked / 3);
  await valueOf(await look_(unitId, joint, "cracked-joint"));
  expect(await chanceOf(tag, joint)).toBeGreaterThan(0.2);
  expect((await find(tag)).observations.map((o) => o.ended === null)).toEqual([false, true]);
});

test("released all the same by a lead, with a reason: the failed reading is printed on the certificate", async () => {
  const { tag, unitId } = await ready();
  await valueOf(
    await take(unitId, { kind: "supply", supply: "main", openVolts: 1, loadedVolts: 0.6, loadAmps: 0.2 }),
  );
  expect((await release(tag)).ok).toBe(false);
  await valueOf(await release(tag, lead, { limit: "weak cells", reason: "sold with its old cells" }));
  const { body } = one(await db("certificate").where({ unit_id: unitId }).first("body"));
  expect(body.disclosures).toContainEqual({
    code: "reading",
    reading: "supply",
    subject: "main",
    verdict: "fail",
  });
});
