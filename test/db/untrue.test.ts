import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import { intakeSchema } from "@/contract/intake";
import type { MappedControl } from "@/core/input/input";
import { profileMap } from "@/core/profile/profile";
import { writeRecordingCsv } from "@/core/recording/csv";
import { FRESH_PROOF } from "@/core/guide/plan";
import { simulateFullTest } from "@/core/simulate/run";
import type { Actor } from "@/platform/deed/base";
import { batchView } from "@/features/stock/batch-view";
import { calibrateView } from "@/features/mend/calibrate";
import { decideInput } from "@/features/decide/input";
import { decideView, routesFor } from "@/features/decide/view";
import { dayView, nextFor } from "@/features/day/deeds";
import { donorView } from "@/features/parts/donors";
import { unitById } from "@/features/case/facts";
import { modelById, modelByKey } from "@/features/models/deeds";
import { openTest, padHistory, storeRecording } from "@/features/test/recordings";
import { Stopped } from "@/platform/work/pool";
import { releaseView } from "@/features/release/view";
import { loadSettings } from "@/features/settings/settings";
import { shippedCatalogue } from "@/features/models/shipped";
import { loadCatalogue } from "@/features/stock/catalogue";
import { listUnits } from "@/features/units/list";
import { openWaits } from "@/features/waits/deeds";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";
import { one } from "@/core/base/one";
import { countOf } from "@/platform/db/joined";

/**
 * Nothing taken in wrong, nothing dropped, nothing untrue: the lazy way is tried first, and must be stopped
 * in words.
 */

let db: Knex;
let lead: Actor;
let technician: Actor;
const { act, takeIn, fullTest, look, answerAll, ready, release } = benchOf(() => ({ db, technician }));

beforeAll(async () => {
  ({ db, lead, technician } = await openShop(10));
  await valueOf(await act("catalogue.save", { version: 0, catalogue: shippedCatalogue() }, lead));
});
afterAll(() => closeShop(db));

/** A whole recording of a good unit of a model as a file holds it. */
async function goodFile(model: string, revision: string | null, seed: number): Promise<Buffer> {
  const profile = (await modelByKey(db, model))!.body;
  const controls = profileMap(profile, revision).controls as MappedControl[];
  return Buffer.from(
    [
      ...writeRecordingCsv(
        simulateFullTest(controls, { seed, rateHz: 60, bits: 8, faults: {} }, { aim: FRESH_PROOF }),
      ),
    ].join(""),
  );
}
type Head = Parameters<typeof storeRecording>[2];
const sendFile = async (unitId: string, csv: Buffer, change: Partial<Head> = {}) => {
  const id = randomUUID();
  const head = {
    id,
    unitId,
    purpose: "full" as const,
    source: "import" as const,
    tester: { label: "a.csv", host: "" },
    startedAgoMs: 0,
  };
  await storeRecording(db, technician, { ...head, ...change }, csv);
  return id;
};
const mend = (unitId: string, change: object = {}) =>
  act("mend.add", {
    unitId,
    faultId: null,
    what: "New dome sheet",
    part: "",
    minutes: 10,
    remark: "",
    opened: true,
    settlesFault: false,
    ...change,
  });

test("a recording that is stopped while it is measured ends its thread, and nothing of it is kept", async () => {
  const { unitId } = await takeIn();
  const csv = await goodFile("knot", null, 3);
  const stop = new AbortController();
  let ended = false;
  const threads = globalThis as { birdcageWorkers?: unknown };
  // a thread that measures for ever, until its signal ends it
  threads.birdcageWorkers = {
    run: (_task: unknown, { signal }: { signal: AbortSignal }) =>
      new Promise((_done, failed) => {
        signal.addEventListener("abort", () => {
          ended = true;
          failed(new DOMException("ended", "AbortError"));
        });
        queueMicrotask(() => stop.abort());
      }),
  };
  try {
    const head = { id: randomUUID(), unitId, purpose: "full", source: "import", startedAgoMs: 0 } as const;
    const sent = storeRecording(
      db,
      technician,
      { ...head, tester: { label: "a.csv", host: "" } },
      csv,
      stop.signal,
    );
    await expect(sent).rejects.toThrow(Stopped);
  } finally {
    delete threads.birdcageWorkers;
  }
  expect(ended).toBe(true);
  expect(await countOf(db("recording").where({ unit_id: unitId }))).toBe(0);
  await sendFile(unitId, csv);
  expect(await countOf(db("recording").where({ unit_id: unitId }))).toBe(1);
});

describe("a file as proof", () => {
  test("a good recording of another unit, imported, closes no gate; a lead may take it, and the reason is printed", async () => {
    const { tag, unitId } = await takeIn();
    await fullTest(unitId);
    await valueOf(await mend(unitId));
    const id = await sendFile(unitId, await goodFile("knot", "r1", 901));
    await answerAll(tag);
    expect((await look(tag)).blocks).toContainEqual(
      expect.objectContaining({ code: "no-proof", elsewhere: true }),
    );
    expect(codeOf(await release(tag))).toBe("no-proof-to-release");
    expect(codeOf(await release(tag, lead, { limit: "as it is", reason: "it says grade A" }))).toBe(
      "no-proof-to-release",
    );
    expect(codeOf(await act("recording.take-as-proof", { recordingId: id, why: "I say so" }))).toBe(
      "not-allowed",
    );
    await valueOf(
      await act(
        "recording.take-as-proof",
        { recordingId: id, why: "tested at the other bench by Ida" },
        lead,
      ),
    );
    // another tester than the first test's: that still blocks, and is said on the certificate too
    const { token } = await valueOf(
      await release(tag, lead, { limit: "tested elsewhere", reason: "the bench is broken" }),
    );
    const { body } = one(await db("certificate").where({ token }).first("body"));
    expect(body.proofTaken).toEqual({ by: "Lead", why: "tested at the other bench by Ida" });
    expect(body.tester.source).toBe("import");
  });

  test("the same content twice is no second test, whoever takes it; one made before the mend counts for nothing either", async () => {
    const csv = await goodFile("knot", "r1", 902);
    const first = await takeIn();
    await sendFile(first.unitId, csv);
    const { tag, unitId } = await takeIn();
    const copy = await sendFile(unitId, csv);
    const twice = await act("recording.take-as-proof", { recordingId: copy, why: "why not" }, lead);
    expect(twice).toMatchObject({ ok: false, problem: { code: "not-a-proof", why: "repeated" } });
    // the same bytes under the name of a live controller prove no more
    await sendFile(unitId, csv, { source: "gamepad" });
    expect((await look(tag)).proofId).toBeNull();

    await valueOf(await mend(unitId));
    const old = await sendFile(unitId, await goodFile("knot", "r1", 903), {
      startedAgoMs: 40 * 24 * 3600_000,
    });
    await valueOf(
      await act("recording.take-as-proof", { recordingId: old, why: "it was fine last month" }, lead),
    );
    expect((await look(tag)).proofId).toBeNull();
    expect((await look(tag)).nextAction).not.toBe("release");
  });

  test("a recording played back does not close a work order's last gate", async () => {
    const { tag, unitId } = await takeIn();
    await fullTest(unitId);
    const { id: orderId } = await valueOf(
      await act("work.open", { unitId, targets: [], cleaningLevel: 0, calibrate: [] }),
    );
    await sendFile(unitId, await goodFile("knot", "r1", 904), { source: "playback" });
    const gate = () =>
      act("work.do", { orderId: orderId!, event: { kind: "gate", gate: "closed", why: "" }, tookMs: null });
    await db("recording").where({ unit_id: unitId, source: "simulated" }).delete();
    expect(await gate()).toMatchObject({ ok: false, problem: { code: "test-first", which: "closed" } });
    await fullTest(unitId);
    expect(codeOf(await gate())).toBe("done");
    expect((await look(tag)).proofId).not.toBeNull();
  });

  test("a file of another model is asked about before it is taken", async () => {
    const { unitId } = await takeIn({ profileKey: "dunlin", revision: null });
    const knots = await goodFile("knot", "r1", 905);
    await expect(sendFile(unitId, knots)).rejects.toMatchObject({
      problem: { code: "other-controller", lacks: expect.arrayContaining(["stick.left"]) },
    });
    await sendFile(unitId, knots, { sure: true });
    const both = await db("recording").where({ unit_id: unitId });
    expect(both).toHaveLength(1);
  });
});

test("what a live controller gives counts only under the test that the server opened for this unit", async () => {
  const { tag, unitId } = await takeIn();
  const other = await takeIn();
  const live = async (id: string, seed: number, startedAgoMs = 0) => {
    const csv = await goodFile("knot", "r1", seed);
    await sendFile(unitId, csv, { id, source: "gamepad", startedAgoMs });
    return (await look(tag)).proofId;
  };
  expect(await live(randomUUID(), 930)).toBeNull(); // never opened
  expect(await live((await openTest(db, technician, other.unitId)).id, 931)).toBeNull(); // of another unit
  expect(await live((await openTest(db, technician, unitId)).id, 932, 3600_000)).toBeNull(); // measured before it was opened
  const { id } = await openTest(db, technician, unitId);
  expect(await live(id, 933)).toBe(id);
  await expect(openTest(db, technician, randomUUID())).rejects.toMatchObject({
    problem: { code: "not-found" },
  });
});

describe("the model that was taken in", () => {
  test("a controller that was another model until now is noticed by its name", async () => {
    const knot = await takeIn();
    const name = "Bench pad 7";
    await sendFile(knot.unitId, await goodFile("knot", "r1", 910), {
      tester: { label: name, host: "" },
      source: "gamepad",
    });
    expect(await padHistory(db, name, "dunlin")).toEqual({ own: 0, others: [{ model: "Knot", units: 1 }] });
    expect(await padHistory(db, name, "knot")).toEqual({ own: 1, others: [] });
    expect(await padHistory(db, "never seen", "knot")).toEqual({ own: 0, others: [] });
  });

  test("it can be corrected as long as nothing rests on it, and then no more", async () => {
    const { tag, unitId } = await takeIn();
    const edit = async (profileKey: string) => {
      const { unit } = await look(tag);
      const { claim, swollen, liquid, intake, version } = unit;
      return act("unit.edit-intake", {
        unitId,
        version,
        profileKey,
        revision: null,
        claim,
        swollen,
        liquid,
        intake,
      });
    };
    expect(codeOf(await edit("no-such-model"))).toBe("not-found");
    expect(codeOf(await edit("dunlin"))).toBe("done");
    expect((await look(tag)).profile.id).toBe("dunlin");
    await valueOf(await act("function.check", { unitId, functionId: "radio", result: "pass", note: "" }));
    expect(codeOf(await edit("knot"))).toBe("model-fixed");
    expect(codeOf(await edit("dunlin"))).toBe("done");
  });

  test("when all nine trays are taken the answer says that it has none", async () => {
    for (let i = 0; i < 9; i++) await takeIn({ toTray: true });
    const tenth = await takeIn({ toTray: true });
    expect(tenth).toMatchObject({ tray: null });
    await db("unit").update({ tray: null });
    expect(await takeIn({ toTray: true })).toMatchObject({ tray: 1 });
  });
});

describe("what is said of a fault", () => {
  test("whether the claim named it is read from the claim, its earlier words too", async () => {
    const { tag, unitId } = await takeIn({
      profileKey: "dunlin",
      revision: null,
      claim: "Left stick drifts. Rest works",
    });
    const name = (place: string, change: object = {}) =>
      act("fault.add", {
        unitId,
        place,
        kind: "rest offset",
        words: "",
        foundWhen: "test",
        measure: null,
        recordingId: null,
        ...change,
      });
    await valueOf(await name("stick.left"));
    await valueOf(await name("stick.right"));
    await valueOf(await name("stick.right", { claimed: true }));
    const { unit, faults } = await look(tag);
    expect(faults.map((f) => [f.place, f.claimed])).toEqual([
      ["stick.left", true],
      ["stick.right", false],
      ["stick.right", true],
    ]);
    const { swollen, liquid, intake, version } = unit;
    await valueOf(
      await act("unit.edit-intake", {
        unitId,
        version,
        revision: null,
        claim: "no idea",
        swollen,
        liquid,
        intake,
      }),
    );
    await valueOf(await name("stick.left", { kind: "again" }));
    expect((await look(tag)).faults.at(-1)).toMatchObject({ kind: "again", claimed: true });
  });
});

describe("work and its end", () => {
  const named = async (unitId: string) =>
    valueOf(
      await act("fault.add", {
        unitId,
        place: "shell",
        kind: "creaks",
        words: "",
        foundWhen: "test",
        measure: null,
        recordingId: null,
      }),
    );

  test("a fault judged by hand is closed by hand, with what shows it, and the proof stands", async () => {
    const { tag, unitId } = await takeIn();
    const { id } = await named(unitId);
    await valueOf(await mend(unitId, { faultId: id, what: "Tightened the shell" }));
    await fullTest(unitId);
    const settle = (why: string) => act("fault.settle", { faultId: id!, version: 1, status: "mended", why });
    expect(codeOf(await settle(""))).toBe("needs-why-cured");
    expect(codeOf(await settle("pressed all round, silent"))).toBe("done");
    const { faults, proofId } = await look(tag);
    expect(faults[0]).toMatchObject({ status: "mended", statusWhy: "pressed all round, silent" });
    expect(proofId).not.toBeNull();
  });

  test("every wait that still runs is told at once, and what ran out does not call any more once the order is closed", async () => {
    const { unitId } = await takeIn();
    const { id: orderId } = await valueOf(
      await act("work.open", { unitId, targets: [], cleaningLevel: 0, calibrate: [] }),
    );
    for (const what of ["soak: shell", "cure: post"])
      await valueOf(
        await act("wait.start", {
          unitId,
          kind: what.startsWith("soak") ? "soak" : "cure",
          what,
          minutes: 30,
        }),
      );
    await fullTest(unitId);
    const gate = () =>
      act("work.do", { orderId: orderId!, event: { kind: "gate", gate: "closed", why: "" }, tookMs: null });
    expect(await gate()).toMatchObject({
      ok: false,
      problem: { code: "still-waiting", waits: [{ what: "soak: shell" }, { what: "cure: post" }] },
    });
    await db("wait")
      .where({ unit_id: unitId })
      .update({ ends_at: db.raw("now() - interval '1 minute'") });
    expect(codeOf(await gate())).toBe("done");
    expect(await openWaits(db, unitId)).toEqual([]);
  });

  test("a stick is calibrated by what it measures now, never by its figures of before the mend", async () => {
    const { unitId } = await takeIn({ profileKey: "dunlin", revision: null });
    const before = await sendFile(unitId, await goodFile("dunlin", null, 920), { source: "simulated" });
    await valueOf(await mend(unitId, { what: "New stick module" }));
    const write = (recordingId: string) =>
      act("calibration.write", {
        unitId,
        stick: "stick.left",
        part: "centre",
        recordingId,
        now: { centre: [0, 0], low: [-1, -1], high: [1, 1] },
        port: "made up",
      });
    expect(await write(before)).toMatchObject({
      ok: false,
      problem: { code: "no-calibration", problem: { code: "not-measured" } },
    });
    const unit = await unitById(db, unitId);
    const outlook = async () => (await calibrateView(db, unit)).sticks.find((s) => s.stick === "stick.left")!;
    expect(await outlook()).toMatchObject({ now: null, refused: null, mendedSince: true });
    const after = await sendFile(unitId, await goodFile("dunlin", null, 921), {
      source: "simulated",
      purpose: "spot",
      spot: { controls: ["stick.left"], force: "normal" },
    });
    expect(await outlook()).toMatchObject({ recordingId: after, mendedSince: false });
    expect(codeOf(await write(after))).toBe("done");
  });
});

describe("not tested is not sound", () => {
  test("never tested and filthy: no figure as if it were sound, and no decision to mend", async () => {
    const { tag, unitId } = await takeIn({
      intake: intakeSchema.parse({ grime: "strong", smell: "strong" }),
    });
    const { input } = await decideView(db, unitId);
    const { profile } = await look(tag);
    expect(new Set(input.untested.map((u) => u.place))).toEqual(
      new Set([...profile.controls, ...profile.functions].map((x) => x.id)),
    );
    const decide = async (disposition: "mend" | "strip") =>
      act("decision.take", {
        unitId,
        version: (await look(tag)).unit.version,
        disposition,
        route: null,
        why: "it will be fine",
      });
    expect(await decide("mend")).toMatchObject({
      ok: false,
      problem: { code: "untested", count: input.untested.length },
    });
    expect(codeOf(await decide("strip"))).toBe("done");
  });

  test("once all of it was tested and passed nothing is left unsaid", async () => {
    const { unitId } = await ready();
    expect((await decideView(db, unitId)).input.untested).toEqual([]);
  });
});

describe("prices", () => {
  const capsOf = async (unitId: string) => {
    const unit = await unitById(db, unitId);
    const { settings } = await loadSettings(db);
    return (await decideInput(db, { unit, profile: await modelById(db, unit.profile_id), settings })).caps;
  };
  test("a control that measured C elsewhere and a cracked outside lower what it can be sold as", async () => {
    const { unitId } = await ready();
    expect(await capsOf(unitId)).toEqual([]);
    await db("recording")
      .where({ unit_id: unitId })
      .update({
        analysis: db.raw(`jsonb_set(jsonb_set(analysis, '{controls,face.south,grade}', '"C"'),
          '{controls,face.south,reasons}',
          '[{"measure":"chatter","value":3,"limit":2,"grade":"C","note":""}]')`),
      });
    expect(await capsOf(unitId)).toEqual([{ cap: 2, what: "face.south" }]);
    const scuffs = [1, 2, 3].map((i) => ({ kind: "scratch" as const, x: 10 * i, y: 5, words: "" }));
    const marked = await ready({ intake: intakeSchema.parse({ marks: scuffs }) });
    expect(await capsOf(marked.unitId)).toEqual([{ cap: 1, what: "outside" }]);
  });

  test("a cracked cap that was changed is cracked no more, and is not told to a buyer", async () => {
    const mark = { kind: "crack" as const, x: 20, y: 20 };
    const { tag, unitId } = await ready({ intake: intakeSchema.parse({ marks: [{ ...mark, words: "" }] }) });
    const seen = async () => {
      const { condition, disclosures } = await releaseView(db, unitId);
      return [condition.condition, disclosures.some((d) => d.code === "marks")];
    };
    expect(await seen()).toEqual(["worn", true]);
    expect(codeOf(await act("mark.settle", { unitId, mark: { ...mark, x: 99 }, gone: "new cap" }))).toBe(
      "not-found",
    );
    await valueOf(await mend(unitId, { what: "New caps", marksGone: [mark] }));
    expect(await seen()).toEqual(["fine", false]);
    expect((await look(tag)).unit.intake.marks).toEqual([
      { ...mark, face: "front", words: "", gone: "mend 1: New caps" },
    ]);
    await valueOf(await act("mark.settle", { unitId, mark, gone: null }));
    expect(await seen()).toEqual(["worn", true]);
  });

  test("the floor holds what tax and returns take", async () => {
    const { unitId } = await ready();
    const floor = async () => (await releaseView(db, unitId)).price.floorMinor;
    const plain = await floor();
    const { settings, version } = await loadSettings(db);
    const set = (rates: object, v: number) =>
      act(
        "settings.save",
        { version: v, settings: { ...settings, rates: { ...settings.rates, ...rates } } },
        lead,
      );
    await valueOf(await set({ tax: "full" }, version));
    expect(await floor()).toBeGreaterThan(plain);
    await valueOf(await set({ returnBase: 0.3 }, version + 1));
    expect(await floor()).toBeGreaterThan(plain);
    await valueOf(await set({}, version + 2));
    expect(await floor()).toBe(plain);
  });

  test("a customer's unit that breaks on the way costs more than one that is handed back whole", async () => {
    const { id: customerId } = await valueOf(await act("customer.add", { name: "Mirela", contact: "" }));
    const { unitId } = await takeIn({
      profileKey: "dunlin",
      revision: null,
      origin: { source: "customer", customerId: customerId! },
    });
    const { buildProblem } = await import("@/core/decide/build");
    const { input } = await decideView(db, unitId);
    const { problem } = buildProblem({
      ...input,
      faults: [{ id: "1", number: 1, place: "stick.left", measure: "jumps" }],
    });
    expect(problem.giveUpBroken).toBe(problem.giveUp[0]! - input.market.asFoundMinor);
  });
});

describe("what a buyer is told", () => {
  test("a part that was only typed is told as it was written", async () => {
    const { unitId } = await ready();
    await valueOf(await mend(unitId, { what: "Changed the sticks", part: "magnetic upgrade" }));
    expect((await releaseView(db, unitId)).disclosures).toContainEqual({
      code: "typed-part",
      name: "magnetic upgrade",
      what: "Changed the sticks",
    });
  });

  test("an order that cleaned nothing does not say that it did", async () => {
    const { tag, unitId } = await takeIn();
    await fullTest(unitId);
    const { profile } = await look(tag);
    const slot = (await modelByKey(db, "knot"))!.body.slots!.find((s) => s.id === "dome.centre")!;
    const { id: orderId } = await valueOf(
      await act("work.open", {
        unitId,
        targets: [{ faultId: null, what: "Look inside", slot: slot.id, route: null }],
        cleaningLevel: 0,
        calibrate: [],
      }),
    );
    const { orderView } = await import("@/features/mend/view");
    for (;;) {
      const order = await orderView(db, unitId, technician);
      const next = order?.line.find((s) => !s.done);
      if (!order || !next) break;
      const did = (event: object) =>
        act("work.do", { orderId: orderId!, event: event as never, tookMs: 60_000 });
      if (next.phase === "apart") await valueOf(await did({ kind: "apart", step: next.step!.id }));
      else if (next.phase === "back") {
        for (const item of next.items) await valueOf(await did({ kind: "in", item }));
        await valueOf(await did({ kind: "back", step: next.step!.id }));
      } else if (next.key === "gate:open")
        await valueOf(await did({ kind: "gate", gate: "open", why: "by eye" }));
      else if (next.key === "gate:closed") {
        await fullTest(unitId);
        await valueOf(await did({ kind: "gate", gate: "closed", why: "" }));
        break;
      } else await valueOf(await did({ kind: "task", task: next.key }));
    }
    expect(profile.id).toBe("knot");
    const words = (await look(tag)).mends.map((m) => m.what);
    expect(words).toContain("Taken apart and put back by the work order");
    expect(words.join()).not.toMatch(/cleaned/);
  });
});

describe("parts", () => {
  test("a kit taken apart gives its pieces times the number, and can be taken back while they are whole", async () => {
    const made = await valueOf(
      await act("stock.receive", {
        part: "AS-MODULE",
        supplier: "old-mill-spares",
        pieces: 10,
        costMinor: 700,
        bin: "D",
        source: "bought",
      }),
    );
    const open = async () => (await db("batch").where({ id: made.id }).first())!;
    if ((await open()).status === "waiting")
      await db("batch").where({ id: made.id }).update({ status: "open" });
    const inside = shippedCatalogue().parts.find((p) => p.code === "AS-MODULE")!.contents;
    const lines = inside.map((c) => ({ part: c.part, good: 4 * c.count, bad: 0 }));
    const { codes } = (await valueOf(
      await act("stock.split", { batchId: made.id!, count: 4, lines, bin: "D", why: "" }),
    )) as unknown as {
      codes: string[];
    };
    const pieces = await db("batch").whereIn("code", codes);
    expect(pieces.reduce((s, b) => s + b.pieces, 0)).toBe(4 * inside.reduce((s, c) => s + c.count, 0));
    expect(pieces.reduce((s, b) => s + b.cost_minor, 0)).toBe(280);
    expect(await open()).toMatchObject({ on_hand: 6, value_minor: 420 });

    expect((await batchView(db, made.code!))!.lastSplit).toMatchObject({ count: 4, cost: 280, into: codes });
    expect(codeOf(await act("stock.join", { batchId: made.id! }))).toBe("done");
    expect(await open()).toMatchObject({ on_hand: 10, value_minor: 700 });
    expect(await db("batch").whereIn("code", codes).sum("on_hand as n").first()).toEqual({ n: "0" });
    expect(codeOf(await act("stock.join", { batchId: made.id! }))).toBe("not-found");

    const again = (await valueOf(
      await act("stock.split", {
        batchId: made.id!,
        count: 1,
        lines: lines.map((l) => ({ ...l, good: l.good / 4 })),
        bin: "D",
        why: "",
      }),
    )) as unknown as { codes: string[] };
    const piece = one((await db("batch").whereIn("code", again.codes))[0]);
    await valueOf(
      await act("stock.take", {
        batchId: piece.id,
        count: 1,
        for: { kind: "use", unitId: null },
        why: "tried",
      }),
    );
    expect(codeOf(await act("stock.join", { batchId: made.id! }))).toBe("batch-touched");
    expect((await open()).on_hand).toBe(9);
  });

  test("a donor's own part stays an original on the shelf; its entry is made when the catalogue has none", async () => {
    const donor = async () => {
      const unit = await takeIn({ profileKey: "curlew", revision: "wide" });
      const { version } = (await look(unit.tag)).unit;
      await valueOf(
        await act("unit.end", {
          unitId: unit.unitId,
          version,
          kind: "donor",
          known: "for parts",
          priceMinor: null,
        }),
      );
      return unit.unitId;
    };
    const takeCord = async (unitId: string) => {
      const cord = (await donorView(db, unitId)).parts.find((p) => p.kind === "cord")!;
      await valueOf(
        await act("donor.take", {
          unitId,
          slot: cord.slot,
          part: cord.parts[0]!,
          bin: "D",
          untestedWhy: "looks whole",
          forUnitId: null,
          forSlot: null,
        }),
      );
      return cord;
    };
    const cord = await takeCord(await donor());
    expect(cord.goesAs).toMatch(/own/);
    const { value: catalogue } = await loadCatalogue(db);
    const part = catalogue.parts.find((p) => p.code === cord.parts[0])!;
    expect(part).toMatchObject({ make: "original", kind: "cord" });
    // it fits another of its kind, and the next donor finds the same entry
    const { unitId } = await takeIn({ profileKey: "curlew", revision: "wide" });
    const batch = one(await db("batch").where({ part: part.code }).first("id"));
    expect(codeOf(await act("stock.reserve", { unitId, slot: cord.slot, batchId: batch.id, count: 1 }))).toBe(
      "done",
    );
    await takeCord(await donor());
    expect((await loadCatalogue(db)).value.parts).toHaveLength(catalogue.parts.length);
  });

  test("routes for magnets and wheels are not offered on contact sticks", async () => {
    const dunlin = (await modelByKey(db, "dunlin"))!.body;
    const offered = (await routesFor(db, dunlin, null)).map((r) => r.id);
    expect(offered).toContain("clean-contacts");
    for (const wrong of ["clean-magnets", "clean-bowl", "magnetic-dear", "magnetic-original"])
      expect(offered).not.toContain(wrong);
    const turnstone = (await modelByKey(db, "turnstone"))!.body;
    expect((await routesFor(db, turnstone, null)).map((r) => r.id)).toContain("clean-magnets");
  });
});

describe("lists, stages and the plan", () => {
  test("the list of units counts all of them and every one can be reached", async () => {
    const total = await countOf(db("unit"));
    const seen = new Set<string>();
    for (let page = 0; ; page++) {
      const found = await listUnits(db, {}, { page, size: 7, sort: { by: "receivedAt", down: false } });
      expect(found.total).toBe(total);
      if (found.units.length === 0) break;
      for (const u of found.units) {
        expect(seen.has(u.tag)).toBe(false);
        seen.add(u.tag);
      }
    }
    expect(seen.size).toBe(total);
  });

  test("a new rule of the shop moves the open units' stages at once", async () => {
    const { tag, unitId } = await ready();
    await db("recording")
      .where({ unit_id: unitId })
      .update({ grades: db.raw(`jsonb_set(grades, '{face.south}', '"C"')`) });
    const stageOf = async () => one(await db("unit").where({ id: unitId }).first("next_action")).next_action;
    const { settings, version } = await loadSettings(db);
    await valueOf(await act("settings.save", { version, settings: { ...settings, floor: "C" } }, lead));
    expect(await stageOf()).toBe("release");
    await valueOf(
      await act("settings.save", { version: version + 1, settings: { ...settings, floor: "B" } }, lead),
    );
    expect(await stageOf()).toBe("settle-blocks");
    expect((await look(tag)).nextAction).toBe("settle-blocks");
  });

  test("next for me is the first task that the day's plan gives me", async () => {
    const view = await dayView(db);
    expect(await nextFor(db, technician)).toEqual(view.tasks.find((t) => t.person === technician.id) ?? null);
  });

  test("a shop without a name releases nothing under another's", async () => {
    const { tag } = await ready();
    const row = one(await db("setting").where({ key: "shop" }).first("value"));
    await db("setting").where({ key: "shop" }).delete();
    expect((await loadSettings(db)).settings).toMatchObject({ shopName: "", town: "" });
    expect(codeOf(await release(tag))).toBe("shop-unnamed");
    await db("setting").insert({ key: "shop", value: JSON.stringify(row.value) });
  });
});
