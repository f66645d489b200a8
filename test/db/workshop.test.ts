import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import type { DeedInput, DeedName } from "@/contract/deeds";
import { intakeSchema } from "@/contract/intake";
import { profileMap } from "@/core/profile/profile";
import type { MappedControl } from "@/core/profile/input";
import { writeRecordingCsv } from "@/core/recording/csv";
import { simulateFullTest } from "@/core/simulate/run";
import { migrate, rollBack } from "@/db/migrate";
import type { Actor } from "@/service/base";
import { doDeed } from "@/service/deeds";
import { modelByKey } from "@/service/models";
import { insertPerson, personOfSession, signIn } from "@/service/people";
import { certificateByToken } from "@/service/certificate";
import { findView } from "@/service/find-view";
import { learntMinutes, readingsOf, referenceSheet } from "@/service/readings";
import { recordingById, storeRecording } from "@/service/recordings";
import { planView, wakeUps } from "@/service/allocate";
import { holdersOf } from "@/service/batches";
import { decisionsOf, routeRecord } from "@/service/decide";
import { donorView } from "@/service/donors";
import { partsOfUnit } from "@/service/needs";
import { answerByToken } from "@/service/questions";
import { addSlotsToShipped, shippedCatalogue } from "@/service/shipped";
import { benchView, unitView } from "@/service/views";
import { closeShop, codeOf, openShop, valueOf } from "./shop";

let db: Knex;
let lead: Actor;
let technician: Actor;

beforeAll(async () => {
  ({ db, lead, technician } = await openShop(12));
});
afterAll(() => closeShop(db));

const act = <D extends DeedName>(deed: D, input: DeedInput<D>, by = technician, requestId: string = randomUUID()) =>
  doDeed(db, by, deed, requestId, input);

const takeIn = async (change: Partial<DeedInput<"unit.take-in">> = {}) =>
  (await valueOf(
    await act("unit.take-in", {
      profileKey: "knot",
      revision: "r1",
      origin: { source: "single", seller: "", priceMinor: 100, carriageMinor: 0 },
      claim: "",
      swollen: false,
      liquid: false,
      intake: intakeSchema.parse({}),
      toTray: false,
      ...change,
    }),
  )) as { tag: string; unitId: string };

let knotCsv: Buffer;
async function fullTest(unitId: string, id: string = randomUUID()) {
  if (!knotCsv) {
    const profile = (await modelByKey(db, "knot"))!.body;
    const controls = profileMap(profile, "r1").controls as (MappedControl & { rim?: boolean })[];
    const rims = new Set(profile.controls.flatMap((c) => (c.kind === "button" && c.rim ? [c.id] : [])));
    const r = simulateFullTest(
      controls.map((c) => ({ ...c, rim: rims.has(c.id) })),
      { seed: 4, rateHz: 60, bits: 8, faults: {} },
    );
    knotCsv = Buffer.from([...writeRecordingCsv(r)].join(""));
  }
  const head = {
    id,
    unitId,
    purpose: "full" as const,
    source: "simulated" as const,
    tester: { label: "t", host: "h" },
    startedAgoMs: 0,
  };
  return storeRecording(db, technician, head, knotCsv);
}

test("fifty units taken in at once get fifty tags", async () => {
  const taken = await Promise.all(Array.from({ length: 50 }, () => takeIn()));
  expect(new Set(taken.map((t) => t.tag)).size).toBe(50);
});

test("twelve units that want a tray at once: nine get one each, the rest none", async () => {
  await db("unit").update({ tray: null });
  await Promise.all(Array.from({ length: 12 }, () => takeIn({ toTray: true })));
  const trays = await db("unit").whereNotNull("tray").pluck("tray");
  expect(trays.sort()).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9]);
  const { unitId } = await takeIn();
  expect(codeOf(await act("unit.to-tray", { unitId, tray: 3 }))).toBe("tray-taken");
});

test("one request id has one effect, however often and at once it comes", async () => {
  const { unitId } = await takeIn();
  const id = randomUUID();
  const input = { unitId, faultId: null, what: "Cleaned", part: "", minutes: 3, remark: "", opened: false, settlesFault: false };
  const replies = await Promise.all(Array.from({ length: 10 }, () => act("mend.add", input, technician, id)));
  expect(new Set(replies.map((r) => JSON.stringify(r))).size).toBe(1);
  expect(await db("mend").where({ unit_id: unitId })).toHaveLength(1);
  // somebody else cannot fetch that reply
  expect(codeOf(await act("mend.add", input, lead, id))).toBe("already");
});

test("a refused deed leaves nothing behind", async () => {
  const { unitId } = await takeIn();
  const before = await db("event").count("* as n");
  expect(
    codeOf(
      await act("mend.add", {
        unitId,
        faultId: randomUUID(),
        what: "x",
        part: "",
        minutes: 1,
        remark: "",
        opened: false,
        settlesFault: true,
      }),
    ),
  ).toBe("not-found");
  expect(await db("event").count("* as n")).toEqual(before);
});

test("the record of events cannot be changed, deleted or emptied", async () => {
  await takeIn();
  await expect(db("event").update({ kind: "x" })).rejects.toThrow(/append-only/);
  await expect(db("event").delete()).rejects.toThrow(/append-only/);
  await expect(db.raw("truncate event")).rejects.toThrow(/append-only/);
});

test("two who settle one fault at once: one is told", async () => {
  const { unitId } = await takeIn();
  const { id: faultId } = await valueOf(
    await act("fault.add", {
      unitId,
      place: "shell",
      kind: "crack",
      words: "",
      foundWhen: "test",
      claimed: false,
      measure: null,
      recordingId: null,
    }),
  );
  const both = await Promise.all(
    ["mended", "withdrawn"].map((status) =>
      act("fault.settle", { faultId: faultId!, version: 1, status: status as "mended", why: "said so" }),
    ),
  );
  expect(both.map(codeOf).sort()).toEqual(["changed-meanwhile", "done"]);
});

test("a release is blocked until a full test later than the last mend, every function answered and no fault open", async () => {
  const { unitId, tag } = await takeIn();
  const release = async (by = technician, limit = "", reason = "") => {
    const { unit } = (await unitView(db, tag, by))!;
    return act(
      "unit.release",
      { unitId, version: unit.version, priceMinor: null, warrantyDays: 10, known: "", limit, reason },
      by,
    );
  };
  expect(codeOf(await release())).toBe("no-proof-to-release");
  expect(codeOf(await release(lead, "cable only", "no radio"))).toBe("no-proof-to-release");
  expect((await fullTest(unitId)).grade).toBe("A");
  expect(codeOf(await release())).toBe("blocked");
  expect(codeOf(await release(technician, "cable only", "no radio"))).toBe("lead-only-limit");
  expect(codeOf(await release(lead, "cable only", ""))).toBe("limit-needs-reason");
  const view = (await unitView(db, tag, technician))!;
  const answerAll = async () => {
    for (const f of view.profile.functions) await act("function.check", { unitId, functionId: f.id, result: "pass", note: "" });
    for (const l of view.proofSheet) await act("proof.answer", { unitId, key: l.key, result: "pass" });
  };
  await answerAll();
  expect((await unitView(db, tag, technician))!.blocks).toEqual([]);
  await act("mend.add", {
    unitId,
    faultId: null,
    what: "New dome",
    part: "",
    minutes: 5,
    remark: "",
    opened: true,
    settlesFault: false,
  });
  expect(codeOf(await release())).toBe("no-proof-to-release");
  await fullTest(unitId);
  expect(new Set((await unitView(db, tag, technician))!.blocks.map((b) => b.code))).toEqual(new Set(["function", "proof"]));
  await answerAll();
  const { token } = await valueOf(await release());
  expect(Buffer.from(token!, "base64url").length * 8).toBeGreaterThanOrEqual(128);
  expect((await certificateByToken(db, token!))!.body.grade).toBe("A");
  expect(
    codeOf(await act("function.check", { unitId, functionId: view.profile.functions[0]!.id, result: "fail", note: "" })),
  ).toBe("closed");
  const now = (await unitView(db, tag, lead))!;
  expect(codeOf(await act("unit.reopen", { unitId, version: now.unit.version, why: "came back" }, lead))).toBe("done");
  expect((await certificateByToken(db, token!))!.revokedAt).not.toBeNull();
});

test("a swollen unit takes no test, no mend, no tray, and leaves only as scrap", async () => {
  const { unitId, tag } = await takeIn({ swollen: true });
  await expect(fullTest(unitId)).rejects.toMatchObject({ problem: { code: "quarantined" } });
  expect(codeOf(await act("unit.to-tray", { unitId, tray: 1 }))).toBe("quarantined");
  expect(
    codeOf(
      await act("mend.add", {
        unitId,
        faultId: null,
        what: "x",
        part: "",
        minutes: 1,
        remark: "",
        opened: true,
        settlesFault: false,
      }),
    ),
  ).toBe("quarantined");
  const { unit } = (await unitView(db, tag, technician))!;
  expect(
    codeOf(await act("unit.end", { unitId, version: unit.version, kind: "sold-as-found", known: "x", priceMinor: null })),
  ).toBe("quarantined");
  expect(
    codeOf(await act("unit.end", { unitId, version: unit.version, kind: "scrap", known: "handed over", priceMinor: null })),
  ).toBe("done");
});

test("a wet unit takes no test until it is signed off; getting wet again takes the sign-off back", async () => {
  const { unitId, tag } = await takeIn({ liquid: true });
  await expect(fullTest(unitId)).rejects.toMatchObject({ problem: { code: "wet" } });
  const dry = { opened: true, unplugged: true, inspected: true, dry: true } as const;
  expect(codeOf(await act("unit.clear-liquid", { unitId, version: 1, ...dry }))).toBe("done");
  await fullTest(unitId);
  expect((await unitView(db, tag, technician))!.nextAction).not.toBe("dry-out");
});

test("a recording is measured by the server, stored once, and tied to its unit", async () => {
  const { unitId } = await takeIn();
  const other = await takeIn();
  const id = randomUUID();
  const sent = await Promise.all(Array.from({ length: 4 }, () => fullTest(unitId, id)));
  expect(sent.every((s) => s.id === id && s.grade === "A")).toBe(true);
  expect(await db("recording").where({ unit_id: unitId })).toHaveLength(1);
  await expect(fullTest(other.unitId, id)).rejects.toMatchObject({ problem: { code: "already" } });
});

test("a password change ends sessions, and so does being stopped", async () => {
  const id = await insertPerson(db, "Passing", "technician", "first-password");
  const self: Actor = { id, name: "Passing", role: "technician", epoch: 1 };
  expect(codeOf(await act("person.change-password", { current: "not this one", next: "second-password" }, self))).toBe(
    "wrong-password",
  );
  expect(codeOf(await act("person.change-password", { current: "first-password", next: "second-password" }, self))).toBe("done");
  expect(await personOfSession(db, id, 1)).toBeNull();
  expect(await personOfSession(db, id, 2)).not.toBeNull();
  expect((await signIn(db, " PASSING ", "second-password", "10.0.0.9")).ok).toBe(true);
  await act("person.change", { personId: id, role: "technician", active: false }, lead);
  expect(await personOfSession(db, id, 2)).toBeNull();
  expect((await signIn(db, "Passing", "second-password", "10.0.0.9")).ok).toBe(false);
});

test("the stored hash is slow and salted", async () => {
  const rows = await db("person").select("password_hash");
  expect(rows.every((r) => /^\$argon2id\$v=19\$m=65536,t=3,p=1\$/.test(r.password_hash))).toBe(true);
  expect(new Set(rows.map((r) => r.password_hash)).size).toBe(rows.length);
});

describe("readings at the bench", () => {
  const reading = (over: object = {}) => ({
    kind: "latch" as const,
    functionId: "strap",
    tugs: 14,
    held: 14,
    releases: 2,
    letGo: 2,
    ...over,
  });
  const take = (unitId: string, r: DeedInput<"reading.take">["reading"]) =>
    act("reading.take", { unitId, reading: r, instrument: "typed by hand", host: "test", tookMs: 60_000 });

  test("the server judges them, and the function gets that answer with the evidence behind it", async () => {
    const { unitId, tag } = await takeIn();
    expect(await take(unitId!, reading())).toMatchObject({ ok: true, value: { verdict: "pass" } });
    expect(await take(unitId!, reading({ held: 12 }))).toMatchObject({ ok: true, value: { verdict: "fail" } });
    const view = (await unitView(db, tag!, technician))!;
    expect(view.checks.find((c) => c.functionId === "strap")).toMatchObject({
      result: "fail",
      note: expect.stringContaining("Slipped 2 of 14"),
    });
    expect(await readingsOf(db, unitId!)).toHaveLength(1); // the latest of its kind and subject
    const rows = await db("function_check").where({ unit_id: unitId, function_id: "strap" }).select("reading_id", "took_ms");
    expect(rows.every((r) => r.reading_id !== null && r.took_ms === 60_000)).toBe(true);
  });

  test("what the profile does not have, or cannot be, is refused", async () => {
    const { unitId } = await takeIn();
    expect(codeOf(await take(unitId!, reading({ functionId: "rail" })))).toBe("not-found");
    expect(codeOf(await take(unitId!, reading({ held: 20 })))).toBe("bad-input");
    expect(codeOf(await take(unitId!, { kind: "supply", supply: "left", openVolts: 3, loadedVolts: null, loadAmps: null }))).toBe(
      "not-found",
    );
    const wet = await takeIn({ liquid: true });
    expect(codeOf(await take(wet.unitId!, reading()))).toBe("wet");
  });

  test("the shop's own minutes are learnt per model", async () => {
    const { unitId } = await takeIn();
    await take(unitId!, reading());
    const learnt = await learntMinutes(db, "knot");
    expect(learnt.latch).toMatchObject({ median: 1 });
    expect(learnt.latch!.cases).toBeGreaterThanOrEqual(1);
    expect(await learntMinutes(db, "avocet")).toEqual({});
  });

  test("only a healthy unit becomes a reference; then it is no work, and others are held against it", async () => {
    const { unitId, tag } = await takeIn();
    const version = (await unitView(db, tag!, technician))!.unit.version;
    expect(codeOf(await act("unit.set-reference", { unitId: unitId!, version, on: true }))).toBe("not-healthy");
    await fullTest(unitId!);
    expect(codeOf(await act("unit.set-reference", { unitId: unitId!, version, on: true }))).toBe("done");
    expect((await benchView(db)).next.map((l) => l.tag)).not.toContain(tag);
    const other = await takeIn();
    await fullTest(other.unitId!);
    const shown = (await unitView(db, other.tag!, technician))!;
    const analysis = (await recordingById(db, shown.recordings[0]!.id))!.analysis;
    const sheet = (await referenceSheet(db, { id: other.unitId! }, "knot", analysis, []))!;
    expect(sheet.units.map((u) => u.tag)).toEqual([tag]);
    expect(sheet.controls["face.south"]![0]).toMatchObject({
      name: "missRateUpper95",
      references: 1,
      difference: 0,
      outside: null,
    });
  });
});

describe("the way to the cause", () => {
  test("what was seen moves the causes, and what is withdrawn does not", async () => {
    const { unitId, tag } = await takeIn();
    const find = async () => (await findView(db, (await unitView(db, tag!, technician))!))!;
    expect((await find()).causes).toEqual([]);
    for (const target of ["face.west", "face.east", "face.south"])
      await act("find.observe", { unitId: unitId!, kind: "function", target, outcome: "dead", value: null, note: "" });
    await act("find.observe", { unitId: unitId!, kind: "function", target: "pad.up", outcome: "works", value: null, note: "" });
    expect((await find()).causes[0]!.node).toBe("row.face");
    await act("find.observe", {
      unitId: unitId!,
      kind: "place",
      target: "main.chip",
      outcome: "corrosion-strong",
      value: null,
      note: "",
    });
    const seen = (await find()).observations.at(-1)!;
    expect(codeOf(await act("find.withdraw", { observationId: seen.id }))).toBe("done");
    expect((await find()).observations.map((o) => o.id)).not.toContain(seen.id);
    expect(Number((await db("observation").where({ unit_id: unitId }).count("* as n"))[0]!.n)).toBe(5); // withdrawn, not gone
  });

  test("two people settle one try: the second is told", async () => {
    const { unitId } = await takeIn();
    await act("try.add", { unitId: unitId!, suspect: "row.face", action: "clean", expects: "it answers", what: "clean" });
    const { id } = await db("attempt").where({ unit_id: unitId }).first();
    const both = await Promise.all(
      (["cured", "same"] as const).map((outcome) => act("try.settle", { tryId: id, version: 1, outcome, undone: null })),
    );
    expect(both.map(codeOf).sort()).toEqual(["changed-meanwhile", "done"]);
  });

  test("an unmatched piece blocks; parts that are not there are refused", async () => {
    const { unitId, tag } = await takeIn();
    await act("fragment.add", { unitId: unitId!, foundAt: "in the shell", what: "a tooth" });
    const blocks = async () => (await unitView(db, tag!, technician))!.blocks.filter((b) => b.code === "fragment");
    expect(await blocks()).toEqual([{ code: "fragment", number: 1 }]);
    const { id } = await db("fragment").where({ unit_id: unitId }).first();
    expect(codeOf(await act("fragment.match", { fragmentId: id, version: 1, matchedTo: "no.such.part", explained: "" }))).toBe(
      "not-found",
    );
    expect(codeOf(await act("fragment.match", { fragmentId: id, version: 1, matchedTo: "strap.eye", explained: "" }))).toBe(
      "done",
    );
    expect(await blocks()).toEqual([]);
  });
});

describe("deciding and buying", () => {
  const sum = (xs: (number | null)[]) => xs.reduce<number>((a, b) => a + (b ?? 0), 0);
  const faulty = async (change: Partial<DeedInput<"unit.take-in">> = {}) => {
    const { unitId } = await takeIn(change);
    const fault = await valueOf(
      await act("fault.add", {
        unitId: unitId!,
        place: "face.south",
        kind: "presses",
        words: "",
        foundWhen: "test",
        claimed: false,
        measure: null,
        recordingId: null,
      }),
    );
    return { unitId: unitId!, faultId: fault.id! };
  };
  const version = async (unitId: string): Promise<number> => (await db("unit").where({ id: unitId }).first("version")).version;

  test("units of one lot that arrive at once: the shares add up to the cent, with those still to come", async () => {
    const lot = await valueOf(
      await act("lot.add", { code: "DB-1", seller: "x", priceMinor: 9999, carriageMinor: 2, unitsPromised: 5 }),
    );
    const origin = { source: "lot" as const, lotId: lot.id! };
    await Promise.all(Array.from({ length: 4 }, () => takeIn({ origin, claim: "untested" })));
    const four = await db("unit").where({ lot_id: lot.id }).pluck("lot_share_minor");
    expect(sum(four)).toBeLessThan(10_001); // one is still to come and carries its part
    await takeIn({ origin, claim: "untested" });
    expect(sum(await db("unit").where({ lot_id: lot.id }).pluck("lot_share_minor"))).toBe(10_001);
    const spreads = await db("lot_spread").where({ lot_id: lot.id });
    expect(spreads).toHaveLength(5);
    for (const s of spreads) expect(sum(s.shares.map((x: { minor: number }) => x.minor))).toBe(10_001);
  }, 120_000);

  test("a shipped model from before there were part slots gets them as a new version; a changed one stays", async () => {
    const strip = async (key: string, change: object) => {
      const row = await db("model_profile").where({ key }).orderBy("version", "desc").first();
      const { slots: _s, market: _m, guide: _g, ...body } = row.body;
      await db("model_profile").insert({
        key,
        version: row.version + 1,
        body: JSON.stringify({ ...body, ...change }),
        by: row.by,
      });
    };
    await strip("sanderling", {});
    await strip("curlew", { summary: "changed by the shop" });
    await addSlotsToShipped(db);
    expect((await modelByKey(db, "sanderling"))!.body.slots!.length).toBeGreaterThan(0);
    expect((await modelByKey(db, "curlew"))!.body.slots).toBeUndefined();
    expect((await modelByKey(db, "sanderling"))!.body.guide!.steps.length).toBeGreaterThan(4);
    const { version } = (await modelByKey(db, "sanderling"))!;
    await addSlotsToShipped(db);
    expect((await modelByKey(db, "sanderling"))!.version).toBe(version);
  });

  test("a decision keeps what was advised and what was chosen; another than the advised one needs a reason", async () => {
    const { unitId } = await faulty();
    const take = async (disposition: "scrap" | "mend", why: string) =>
      act("decision.take", { unitId, version: await version(unitId), disposition, route: null, why });
    expect(codeOf(await take("scrap", ""))).toBe("needs-why");
    expect(codeOf(await take("scrap", "the shell is wanted whole"))).toBe("done");
    const [kept] = await decisionsOf(db, unitId);
    expect(kept!.disposition).toBe("scrap");
    expect(kept!.advised.best).not.toBe("scrap");
    expect(kept!.forecast!.value).toBe(0);
    const { tag } = await db("unit").where({ id: unitId }).first("tag");
    expect((await unitView(db, tag, technician))!.line.find((s) => s.station === "decide")!.word).toBe("scrap");
  });

  test("a failed retest and an opened fault count against a route, a cure for it", async () => {
    const before = (await routeRecord(db)).find((t) => t.route === "clean-pads" && t.model === "knot");
    const log = async (settlesFault: boolean) => {
      const { unitId, faultId } = await faulty();
      await act("mend.add", {
        unitId,
        faultId,
        what: "cleaned",
        part: "",
        minutes: 9,
        remark: "",
        opened: true,
        settlesFault,
        route: "clean-pads",
      });
      return faultId;
    };
    await log(false);
    const cured = await log(true);
    await log(true);
    const row = () => routeRecord(db).then((r) => r.find((t) => t.route === "clean-pads" && t.model === "knot")!);
    expect([(await row()).worked, (await row()).failed]).toEqual([2 + (before?.worked ?? 0), 1 + (before?.failed ?? 0)]);
    const { version: v } = await db("fault").where({ id: cured }).first("version");
    await act("fault.settle", { faultId: cured, version: v, status: "open", why: "it is back" });
    expect([(await row()).worked, (await row()).failed]).toEqual([1 + (before?.worked ?? 0), 2 + (before?.failed ?? 0)]);
  });

  test("a customer's answer counts once, locks and unlocks work, and cannot be changed afterwards", async () => {
    const customer = await valueOf(await act("customer.add", { name: "C", contact: "" }));
    const { unitId, faultId } = await faulty({ origin: { source: "customer", customerId: customer.id! } });
    const option = { key: "dome", words: "new dome sheet", priceMinor: 900, days: 3, warrantyDays: 90 };
    const sent = await valueOf(
      await act("question.send", {
        unitId,
        days: 5,
        body: { v: 1, findings: "", faults: [{ faultId, number: 1, found: "face south", options: [option] }] },
      }),
    );
    const mend = () =>
      act("mend.add", { unitId, faultId, what: "x", part: "", minutes: 1, remark: "", opened: true, settlesFault: false });
    expect(codeOf(await mend())).toBe("yes-awaited");
    // another symptom of the same place waits with it
    const like = await valueOf(
      await act("fault.add", {
        unitId,
        place: "face.south",
        kind: "chatter",
        words: "",
        foundWhen: "test",
        claimed: false,
        measure: "chatter",
        recordingId: null,
      }),
    );
    const atLike = { unitId, faultId: like.id!, what: "x", part: "", minutes: 1, remark: "", opened: true, settlesFault: false };
    expect(codeOf(await act("mend.add", atLike))).toBe("yes-awaited");
    const post = (requestId: string, choice: string, changes = false) =>
      answerByToken(db, sent.token!, {
        requestId,
        confirmed: true,
        answer: { name: "C", words: "", changes, choices: [{ faultId, choice }] },
      });
    const id = randomUUID();
    const both = await Promise.all([post(id, "dome"), post(id, "dome")]);
    expect(both.map((r) => r.ok)).toEqual([true, true]);
    expect(await post(randomUUID(), "no")).toMatchObject({ ok: false, problem: { code: "question-over", why: "answered" } });
    expect(await post(randomUUID(), "nothing", true)).toMatchObject({ ok: false, problem: { code: "bad-input" } });
    expect(await db("answer").where({ fault_id: faultId })).toHaveLength(1);
    expect(codeOf(await mend())).toBe("done");
    expect(await post(randomUUID(), "no", true)).toEqual({ ok: true });
    expect(codeOf(await mend())).toBe("no-was-said");
    await expect(db("answer").where({ fault_id: faultId }).update({ choice: "dome" })).rejects.toThrow("append-only");
    await db("question")
      .where({ unit_id: unitId })
      .update({ expires_at: new Date(Date.now() - 1000) });
    expect(await post(randomUUID(), "dome", true)).toMatchObject({
      ok: false,
      problem: { code: "question-over", why: "expired" },
    });
  });
});

describe("parts", () => {
  const receive = async (part: string, pieces: number, costMinor: number, by = technician) =>
    (await valueOf(await act("stock.receive", { part, supplier: "tidewater-parts", pieces, costMinor, bin: "A1" }, by))) as {
      id: string;
      code: string;
    };
  const batch = (id: string) => db("batch").where({ id }).first();
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
  const dunlin = (change: Partial<DeedInput<"unit.take-in">> = {}) => takeIn({ profileKey: "dunlin", ...change });
  const use = (batchId: string, count = 1) => act("stock.take", { batchId, count, for: { kind: "use", unitId: null }, why: "" });
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
    await valueOf(await act("stock.reserve", { unitId: mine.unitId, slot: "module.left", batchId: id, count: 1 }));
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
      await act("batch.judge", { batchId: made.id, version: (await batch(made.id)).version, verdict: "accept", why: "" }),
    );
    const customer = await valueOf(await act("customer.add", { name: "Ottoline Ferris", contact: "at the lock" }));
    const owned = await dunlin({ origin: { source: "customer", customerId: customer.id! } });
    await valueOf(await fit(made.id, owned.unitId, "module.left"));
    await valueOf(await act("stock.reserve", { unitId: held.unitId, slot: "module.left", batchId: made.id, count: 1 }));
    const { version } = await batch(made.id);
    expect(codeOf(await act("batch.judge", { batchId: made.id, version, verdict: "reject", why: "" }))).toBe(
      "limit-needs-reason",
    );
    await valueOf(await act("batch.judge", { batchId: made.id, version, verdict: "reject", why: "stiff after a week" }));
    expect(await batch(made.id)).toMatchObject({ status: "rejected", reserved: 0 });
    expect(codeOf(await fit(made.id, held.unitId, "module.left"))).toBe("batch-locked");
    expect(await holdersOf(db, made.id)).toMatchObject([{ tag: owned.tag, owner: "Ottoline Ferris", contact: "at the lock" }]);
    // a unit that carries a piece of it cannot leave, until the piece is out
    const recalls = async () => (await unitView(db, owned.tag, lead))!.blocks.filter((b) => b.code === "recall");
    expect(await recalls()).toEqual([{ code: "recall", batch: made.code }]);
    // what is taken out of a unit again stays locked
    const { id } = await db("fitted").where({ unit_id: owned.unitId }).first("id");
    await valueOf(await act("fitted.remove", { fittedId: id, to: "stock", bin: null, why: "recalled" }));
    expect(await db("batch").where({ from_batch_id: made.id }).first()).toMatchObject({ status: "rejected", on_hand: 1 });
    expect(await holdersOf(db, made.id)).toEqual([]);
    expect(await recalls()).toEqual([]);
    const now = await batch(made.id);
    // nobody accepts it back, not even who leads
    const back = { batchId: made.id, version: now.version, verdict: "accept" as const, why: "looks fine" };
    expect(codeOf(await act("batch.judge", back, lead))).toBe("batch-locked");
    await valueOf(await act("batch.dispose", { batchId: made.id, version: now.version, how: "electrical waste" }));
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
    const event = await db("event").where({ kind: "batch-split" }).orderBy("id", "desc").first("body");
    expect(event.body.short).toEqual([
      { part: "PRY", listed: 1, found: 0 },
      { part: "SWABS", listed: 10, found: 9 },
    ]);
    expect(codeOf(await act("stock.split", { batchId: id, count: 1, lines, bin: "B2", why: "" }))).toBe("stock-short");
  });

  test("a donor: parts by their evidence, untested only with a reason, cost shares that add up, and the lot spread again", async () => {
    const lot = await valueOf(
      await act("lot.add", { code: "L-D", seller: "s", priceMinor: 3000, carriageMinor: 0, unitsPromised: null }),
    );
    const other = await takeIn({ origin: { source: "lot", lotId: lot.id! } });
    const { unitId, tag } = await takeIn({ origin: { source: "lot", lotId: lot.id! } });
    await fullTest(unitId);
    const before = await db("unit").where({ id: unitId }).first("lot_share_minor", "version");
    await valueOf(
      await act("unit.end", { unitId, version: before.version, kind: "donor", known: "cracked shell", priceMinor: null }),
    );
    const spread = await db("unit").whereIn("id", [unitId, other.unitId]).orderBy("tag").pluck("lot_share_minor");
    expect(spread.reduce((a: number, b: number) => a + b, 0)).toBe(3000);
    expect(spread[1]).toBeLessThan(before.lot_share_minor);
    const view = await donorView(db, unitId);
    const state = (slot: string) => view.parts.find((p) => p.slot === slot)!.state;
    expect(view.parts.reduce((s, p) => s + p.shareMinor, 0)).toBe(view.costMinor);
    expect([state("dome.centre"), state("antenna.radio")]).toEqual(["good", "unknown"]);
    const asked = { unitId, bin: "D1", untestedWhy: "", forUnitId: null, forSlot: null };
    expect(codeOf(await act("donor.take", { ...asked, slot: "antenna.radio", part: "AN-60-D" }))).toBe("test-in-donor-first");
    await valueOf(await act("donor.judge", { unitId, slot: "antenna.radio", state: "bad", words: "torn at the clip" }));
    expect(codeOf(await act("donor.take", { ...asked, slot: "antenna.radio", part: "AN-60-D", untestedWhy: "x" }))).toBe(
      "part-gone",
    );
    const dome = view.parts.find((p) => p.slot === "dome.centre")!;
    const taken = await valueOf(await act("donor.take", { ...asked, slot: "dome.centre", part: dome.parts[0]! }));
    const row = await batch(taken.id!);
    expect(row).toMatchObject({ donor_unit_id: unitId, pieces: 1, condition: "tested good", source: "donor" });
    const after = await donorView(db, unitId);
    expect(after.parts.reduce((s, p) => s + p.shareMinor, 0)).toBe(after.costMinor);
    expect(after.parts.find((p) => p.slot === "dome.centre")).toMatchObject({ state: "gone", taken: { batch: taken.code } });
    expect(codeOf(await act("donor.take", { ...asked, slot: "dome.centre", part: dome.parts[0]! }))).toBe("part-gone");
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
    const apply = (lines: ReturnType<typeof line>[]) => act("plan.apply", { lines, choices: [], valueMinor: 1000 });
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
    for (const u of [a, b]) expect(await db("event").where({ unit_id: u.unitId, kind: "part-swapped" })).toHaveLength(1);
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
    await valueOf(await act("batch.read", { batchId: made.id, number: 1, reading, instrument: "hand", tookMs: 1000 }));
    expect(await batch(made.id)).toMatchObject({ on_hand: 3, value_minor: 1500 });
  });

  test("the next plan may take what an earlier plan promised; what a hand put aside asks for nothing more", async () => {
    const donor = await takeIn();
    await fullTest(donor.unitId);
    const { version } = await db("unit").where({ id: donor.unitId }).first("version");
    await valueOf(await act("unit.end", { unitId: donor.unitId, version, kind: "donor", known: "parts", priceMinor: null }));
    const unit = await takeIn();
    await fault(unit.unitId, "pad.left");
    await db("unit").where({ id: unit.unitId }).update({ next_action: "mend" });
    const slot = "dome.centre";
    const freed = async () =>
      (await planView(db, 20)).problem.donors.find((d) => d.id === donor.unitId)?.frees.some((f) => f.slot === slot) ?? false;
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
    const line = await db("order_line").where({ part: "FLUX" }).first("id", "order_id");
    const arrive = () =>
      act("stock.receive", { part: "FLUX", supplier: "", pieces: 10, costMinor: 1010, bin: "C1", orderLineId: line.id });
    await valueOf(await arrive());
    expect(codeOf(await arrive())).toBe("already");
    expect(await db("purchase_order").where({ id: line.order_id }).first("status")).toEqual({ status: "arrived" });
    const head = "batch,part,supplier,bin,on_hand,cost\r\n";
    const batches = async () => (await db("batch").pluck("id")).length;
    const n = await batches();
    const good = ",SOLDER,tidewater-parts,C1,100,8.90\r\n";
    expect(
      codeOf(await act("stock.import", { kind: "stock", text: `${head}${good},NOPE,,C1,1,1.00\r\n`, version: 1 }, lead)),
    ).toBe("csv");
    expect(await batches()).toBe(n);
    expect(await valueOf(await act("stock.import", { kind: "stock", text: head + good, version: 1 }, lead))).toEqual({
      changed: 1,
    });
    expect(codeOf(await act("stock.import", { kind: "stock", text: head + good, version: 1 }))).toBe("not-allowed");
  });

  test("a parked unit comes up when its part lies on the shelf", async () => {
    const { unitId, tag } = await dunlin();
    await fault(unitId, "trigger.left");
    await db("unit").where({ id: unitId }).update({ next_action: "wait" });
    const waiting = async () => (await wakeUps(db)).filter((w) => w.tag === tag);
    expect(await waiting()).toEqual([]);
    await receive("TS-DUN-L-O", 1, 420);
    expect(await waiting()).toEqual([{ tag, slot: "left trigger sensor", part: "TS-DUN-L-O", from: "stock" }]);
  });
});

test("migrations go down to nothing and up again", async () => {
  await rollBack(db);
  const left = await db("information_schema.tables")
    .where({ table_schema: "public" })
    .whereRaw("table_name not like 'knex%'")
    .pluck("table_name");
  expect(left).toEqual([]);
  await migrate(db);
  expect(await db("counter").first()).toMatchObject({ key: "unit-tag", last: 100 });
});
