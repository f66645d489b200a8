import { readFileSync } from "node:fs";

import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import type { DeedInput } from "@/contract/deeds";
import { intakeSchema } from "@/contract/intake";
import { migrate, rollBack } from "@/platform/db/migrate";
import type { Actor } from "@/platform/deed/base";
import { modelByKey } from "@/features/models/deeds";
import { insertPerson, signIn } from "@/features/people/deeds";
import { certificateByToken } from "@/features/certificate/view";
import { findView } from "@/features/find/view";
import { learntMinutes, readingsOf, referenceSheet } from "@/features/test/readings";
import { recordingById } from "@/features/test/recordings";
import { decisionsOf } from "@/features/decide/view";
import { routeRecord } from "@/features/routes/deeds";
import { answerByToken } from "@/features/questions/deeds";
import { openSession, personOfToken } from "@/features/account/sessions";
import { renewShipped } from "@/features/models/shipped";
import { benchView } from "@/features/bench/view";
import { listUnits, searchUnits } from "@/features/units/list";
import { unitView } from "@/features/units/view";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";
import { one } from "@/core/base/one";
import { countOf } from "@/platform/db/joined";

let db: Knex;
let lead: Actor;
let technician: Actor;

beforeAll(async () => {
  ({ db, lead, technician } = await openShop(12));
});
afterAll(() => closeShop(db));

const { act, takeIn, fullTest, answerAll, release: releaseOf } = benchOf(() => ({ db, technician }));

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
  const input = {
    unitId,
    faultId: null,
    what: "Cleaned",
    part: "",
    minutes: 3,
    remark: "",
    opened: false,
    settlesFault: false,
  };
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
  await expect(db("event").update({ kind: "tray" })).rejects.toThrow(/append-only/);
  await expect(db("event").delete()).rejects.toThrow(/append-only/);
  await expect(db.raw("truncate event")).rejects.toThrow(/append-only/);
});

test("a unit is found by any part of its tag, its complaint or its model, by short words and long ones, and by nothing else", async () => {
  const { tag } = await takeIn({ claim: "the zq rattles like a 100%_bell" });
  const found = async (q: string) =>
    (await listUnits(db, { q }, { page: 0, size: 100, sort: { by: "tag", down: true } })).units.map(
      (u) => u.tag,
    );
  for (const q of [tag, tag.slice(2), tag.toLowerCase(), "zq", "like a 100%_b", "KNOT"])
    expect(await found(q)).toContain(tag);
  for (const q of ["100_b", "zzq", "dunlin"]) expect(await found(q)).not.toContain(tag);
  expect((await searchUnits(db, "zq")).map((u) => u.tag)).toEqual([tag]);
  expect((await searchUnits(db, "knot")).length).toBe(8);
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
  const release = (by = technician, limit = "", reason = "") => releaseOf(tag, by, { limit, reason });
  expect(codeOf(await release())).toBe("no-proof-to-release");
  expect(codeOf(await release(lead, "cable only", "no radio"))).toBe("no-proof-to-release");
  expect((await fullTest(unitId)).grade).toBe("A");
  expect(codeOf(await release())).toBe("blocked");
  expect(codeOf(await release(technician, "cable only", "no radio"))).toBe("lead-only-limit");
  expect(codeOf(await release(lead, "cable only", ""))).toBe("limit-needs-reason");
  const view = (await unitView(db, tag, technician))!;
  await answerAll(tag);
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
  expect(new Set((await unitView(db, tag, technician))!.blocks.map((b) => b.code))).toEqual(
    new Set(["function", "proof"]),
  );
  await answerAll(tag);
  const { token } = await valueOf(await release());
  expect(Buffer.from(token!, "base64url").length * 8).toBeGreaterThanOrEqual(128);
  expect((await certificateByToken(db, token!))!.body.grade).toBe("A");
  expect(
    codeOf(
      await act("function.check", {
        unitId,
        functionId: view.profile.functions[0]!.id,
        result: "fail",
        note: "",
      }),
    ),
  ).toBe("closed");
  const now = (await unitView(db, tag, lead))!;
  expect(
    codeOf(await act("unit.reopen", { unitId, version: now.unit.version, why: "came back" }, lead)),
  ).toBe("done");
  expect((await certificateByToken(db, token!))!.revokedAt).not.toBeNull();
});

test("a radio is not called dead before its bond to a former host was cleared, with the model's own steps", async () => {
  const { unitId } = await takeIn();
  const radio = (bondCleared?: true) =>
    act("function.check", {
      unitId,
      functionId: "radio",
      result: "fail",
      note: "",
      ...(bondCleared ? { bondCleared } : {}),
    });
  expect(await radio()).toMatchObject({
    problem: { code: "clear-the-bond", steps: expect.stringContaining("home") as unknown },
  });
  expect(await db("function_check").where({ unit_id: unitId })).toEqual([]);
  expect(codeOf(await radio(true))).toBe("done");
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
    codeOf(
      await act("unit.end", {
        unitId,
        version: unit.version,
        kind: "sold-as-found",
        known: "x",
        priceMinor: null,
      }),
    ),
  ).toBe("quarantined");
  expect(
    codeOf(
      await act("unit.end", {
        unitId,
        version: unit.version,
        kind: "scrap",
        known: "handed over",
        priceMinor: null,
      }),
    ),
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
  const sent = await Promise.all(Array.from({ length: 4 }, () => fullTest(unitId, { id })));
  expect(sent.every((s) => s.id === id && s.grade === "A")).toBe(true);
  expect(await db("recording").where({ unit_id: unitId })).toHaveLength(1);
  await expect(fullTest(other.unitId, { id })).rejects.toMatchObject({ problem: { code: "already" } });
});

test("a password change ends sessions, and so does being stopped", async () => {
  const id = await insertPerson(db, "Passing", "technician", "first-password");
  const from = { agent: "a browser", address: "10.0.0.9" };
  const [here, elsewhere] = [await openSession(db, id, from), await openSession(db, id, from)];
  const self: Actor = (await personOfToken(db, here, true))!;
  expect(
    codeOf(await act("person.change-password", { current: "not this one", next: "second-password" }, self)),
  ).toBe("wrong-password");
  expect(
    codeOf(await act("person.change-password", { current: "first-password", next: "second-password" }, self)),
  ).toBe("done");
  expect(await personOfToken(db, elsewhere, true)).toBeNull();
  expect(await personOfToken(db, here, true)).toMatchObject({ id, name: "Passing" });
  expect((await signIn(db, " PASSING ", "second-password", "10.0.0.9")).ok).toBe(true);
  await act("person.change", { personId: id, role: "technician", active: false }, lead);
  expect(await personOfToken(db, here, true)).toBeNull();
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
    expect(await take(unitId!, reading({ held: 12 }))).toMatchObject({
      ok: true,
      value: { verdict: "fail" },
    });
    const view = (await unitView(db, tag!, technician))!;
    expect(view.checks.find((c) => c.functionId === "strap")).toMatchObject({
      result: "fail",
      note: expect.stringContaining("Slipped 2 of 14"),
    });
    expect(await readingsOf(db, unitId!)).toHaveLength(1); // the latest of its kind and subject
    const rows = await db("function_check")
      .where({ unit_id: unitId, function_id: "strap" })
      .select("reading_id", "took_ms");
    expect(rows.every((r) => r.reading_id !== null && r.took_ms === 60_000)).toBe(true);
  });

  test("what the profile does not have, or cannot be, is refused", async () => {
    const { unitId } = await takeIn();
    expect(codeOf(await take(unitId!, reading({ functionId: "rail" })))).toBe("not-found");
    expect(codeOf(await take(unitId!, reading({ held: 20 })))).toBe("bad-input");
    expect(
      codeOf(
        await take(unitId!, {
          kind: "supply",
          supply: "left",
          openVolts: 3,
          loadedVolts: null,
          loadAmps: null,
        }),
      ),
    ).toBe("not-found");
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
    expect(codeOf(await act("unit.set-reference", { unitId: unitId!, version, on: true }))).toBe(
      "not-healthy",
    );
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
      await act("find.observe", {
        unitId: unitId!,
        kind: "function",
        target,
        outcome: "dead",
        value: null,
        note: "",
      });
    await act("find.observe", {
      unitId: unitId!,
      kind: "function",
      target: "pad.up",
      outcome: "works",
      value: null,
      note: "",
    });
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
    expect(await countOf(db("observation").where({ unit_id: unitId }))).toBe(5); // withdrawn, not gone
  });

  test("two people settle one try: the second is told", async () => {
    const { unitId } = await takeIn();
    await act("try.add", {
      unitId: unitId!,
      suspect: "row.face",
      action: "clean",
      expects: "it answers",
      what: "clean",
    });
    const { id } = one(await db("attempt").where({ unit_id: unitId }).first());
    const both = await Promise.all(
      (["cured", "same"] as const).map((outcome) =>
        act("try.settle", { tryId: id, version: 1, outcome, undone: null }),
      ),
    );
    expect(both.map(codeOf).sort()).toEqual(["changed-meanwhile", "done"]);
  });

  test("an unmatched piece blocks; parts that are not there are refused", async () => {
    const { unitId, tag } = await takeIn();
    await act("fragment.add", { unitId: unitId!, foundAt: "in the shell", what: "a tooth" });
    const blocks = async () =>
      (await unitView(db, tag!, technician))!.blocks.filter((b) => b.code === "fragment");
    expect(await blocks()).toEqual([{ code: "fragment", number: 1 }]);
    const { id } = one(await db("fragment").where({ unit_id: unitId }).first());
    expect(
      codeOf(
        await act("fragment.match", { fragmentId: id, version: 1, matchedTo: "no.such.part", explained: "" }),
      ),
    ).toBe("not-found");
    expect(
      codeOf(
        await act("fragment.match", { fragmentId: id, version: 1, matchedTo: "strap.eye", explained: "" }),
      ),
    ).toBe("done");
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
  const version = async (unitId: string): Promise<number> =>
    one(await db("unit").where({ id: unitId }).first("version")).version;

  test("units of one lot that arrive at once: the shares add up to the cent, with those still to come", async () => {
    const lot = await valueOf(
      await act("lot.add", {
        code: "DB-1",
        seller: "x",
        priceMinor: 9999,
        carriageMinor: 2,
        unitsPromised: 5,
      }),
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

  test("nine equal ones of a lot come in by one form: each with its tag and its share, one spread, none on a tray", async () => {
    const lot = await valueOf(
      await act("lot.add", {
        code: "L-NINE",
        seller: "x",
        priceMinor: 9001,
        carriageMinor: 0,
        unitsPromised: 9,
      }),
    );
    const origin = { source: "lot" as const, lotId: lot.id!, count: 9 };
    const { tag } = await takeIn({ origin, claim: "untested", toTray: true });
    const rows = await db("unit").where({ lot_id: lot.id }).orderBy("tag");
    expect(rows.map((r) => [r.claim, r.tray])).toEqual(Array.from({ length: 9 }, () => ["untested", null]));
    const numbers = rows.map((r) => Number(/\d+/.exec(r.tag)![0]));
    expect(rows[0]!.tag).toBe(tag);
    expect(numbers).toEqual(Array.from({ length: 9 }, (_, i) => numbers[0]! + i));
    expect(sum(rows.map((r) => r.lot_share_minor!))).toBe(9001);
    expect(await db("lot_spread").where({ lot_id: lot.id })).toHaveLength(1);
    expect(await db("event").whereIn("unit_id", rows.map((r) => r.id)).where({ kind: "unit-taken-in" })).toHaveLength(9); // prettier-ignore
    const rest = {
      profileKey: "knot",
      revision: "r1",
      claim: "",
      swollen: false,
      liquid: false,
      toTray: false,
    };
    for (const count of [0, 21, 1.5]) {
      const sent = { ...rest, intake: intakeSchema.parse({}), origin: { ...origin, count } };
      expect((await act("unit.take-in", sent)).ok).toBe(false);
    }
    expect(await db("unit").where({ lot_id: lot.id })).toHaveLength(9);
  });

  test("a carriage bill that comes after a lot is sold is booked on what was sold, to the cent", async () => {
    const lot = await valueOf(
      await act("lot.add", { code: "L-BILL", seller: "made up", priceMinor: 3000, carriageMinor: 0 }),
    );
    const origin = { source: "lot" as const, lotId: lot.id! };
    const units = [await takeIn({ origin }), await takeIn({ origin }), await takeIn({ origin })];
    for (const { unitId } of units) {
      const { version } = one(await db("unit").where({ id: unitId }).first("version"));
      const end = { unitId, version, kind: "sold-as-found" as const, known: "drifts", priceMinor: 900 };
      await valueOf(await act("unit.end", end));
    }
    const before = await db("unit").where({ lot_id: lot.id }).orderBy("tag").pluck("lot_share_minor");
    const { version } = (await db("lot").where({ id: lot.id }).first("version"))!;
    const bill = { lotId: lot.id!, version, carriageMinor: 1001 };
    await valueOf(await act("lot.carriage", bill));
    const after = await db("unit").where({ lot_id: lot.id }).orderBy("tag").pluck("lot_share_minor");
    expect(sum(after)).toBe(4001);
    after.forEach((share, i) => expect(share).toBeGreaterThan(before[i]!));
    const spread = await db("lot_spread").where({ lot_id: lot.id }).orderBy("at", "desc").first();
    expect(spread!.why).toBe("the bill for the carriage");
    // somebody who saw the lot before it was booked books nothing over it
    expect((await act("lot.carriage", bill)).ok).toBe(false);
  });

  test("a carriage bill that comes before anything of the lot does is carried by what comes first", async () => {
    const lot = await valueOf(
      await act("lot.add", { code: "L-EARLY", seller: "made up", priceMinor: 3000, carriageMinor: 0 }),
    );
    await valueOf(await act("lot.carriage", { lotId: lot.id!, version: 1, carriageMinor: 450 }));
    expect((await act("lot.carriage", { lotId: lot.id!, version: 1, carriageMinor: 900 })).ok).toBe(false);
    await takeIn({ origin: { source: "lot", lotId: lot.id! } });
    expect(await db("unit").where({ lot_id: lot.id }).pluck("lot_share_minor")).toEqual([3450]);
  });

  test("a shipped model that nobody changed gets its newer version, once; a changed one stays", async () => {
    const before = JSON.parse(readFileSync("test/data/knot-before-caps.json", "utf8")) as object;
    const store = async (body: object): Promise<number> => {
      const row = one(await db("model_profile").where({ key: "knot" }).orderBy("version", "desc").first());
      await db("model_profile").insert({
        key: "knot",
        version: row.version + 1,
        body: JSON.stringify(body),
        by: row.by,
      });
      return row.version + 1;
    };
    const changed = await store({ ...before, summary: "changed by the shop" });
    await renewShipped(db);
    expect((await modelByKey(db, "knot"))!.version).toBe(changed);

    const untouched = await store(before);
    await renewShipped(db);
    const now = (await modelByKey(db, "knot"))!;
    expect(now.version).toBe(untouched + 1);
    expect(now.body.slots!.map((s) => s.kind)).toContain("cell-contact");
    expect(now.body.wiring!.nodes.map((n) => n.kind)).toContain("dome");
    await renewShipped(db);
    expect((await modelByKey(db, "knot"))!.version).toBe(now.version);
  });

  test("a decision keeps what was advised and what was chosen; another than the advised one needs a reason", async () => {
    const { unitId } = await faulty();
    const take = async (disposition: "strip" | "mend", why: string) =>
      act("decision.take", { unitId, version: await version(unitId), disposition, route: null, why });
    expect(codeOf(await take("strip", ""))).toBe("needs-why");
    expect(codeOf(await take("strip", "the shell is wanted whole"))).toBe("done");
    const [kept] = await decisionsOf(db, unitId);
    expect(kept!.disposition).toBe("strip");
    expect(kept!.advised.best).not.toBe("strip");
    expect(kept!.forecast!.value).toBeLessThan(0);
    const { tag } = one(await db("unit").where({ id: unitId }).first("tag"));
    expect((await unitView(db, tag, technician))!.line.find((s) => s.station === "decide")!.said).toEqual({
      code: "decided",
      disposition: "strip",
    });
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
      return { unitId, faultId };
    };
    await log(false);
    const first = await log(true);
    const second = await log(true);
    const cured = first.faultId;
    const row = () =>
      routeRecord(db).then((r) => r.find((t) => t.route === "clean-pads" && t.model === "knot")!);
    // a cure that nobody tested is none yet
    expect((await row()).worked).toBe(before?.worked ?? 0);
    await fullTest(first.unitId);
    await fullTest(second.unitId);
    expect([(await row()).worked, (await row()).failed]).toEqual([
      2 + (before?.worked ?? 0),
      1 + (before?.failed ?? 0),
    ]);
    const { version: v } = one(await db("fault").where({ id: cured }).first("version"));
    await act("fault.settle", { faultId: cured, version: v, status: "open", why: "it is back" });
    expect([(await row()).worked, (await row()).failed]).toEqual([
      1 + (before?.worked ?? 0),
      2 + (before?.failed ?? 0),
    ]);
  });

  test("a customer's answer counts once, locks and unlocks work, and cannot be changed afterwards", async () => {
    const customer = await valueOf(await act("customer.add", { name: "C", contact: "" }));
    const { unitId, faultId } = await faulty({ origin: { source: "customer", customerId: customer.id! } });
    const option = { key: "dome", words: "new dome sheet", priceMinor: 900, days: 3, warrantyDays: 90 };
    const sent = await valueOf(
      await act("question.send", {
        unitId,
        days: 5,
        body: {
          v: 1,
          findings: "",
          faults: [{ faultId, number: 1, found: "face south", options: [option] }],
        },
      }),
    );
    const mend = () =>
      act("mend.add", {
        unitId,
        faultId,
        what: "x",
        part: "",
        minutes: 1,
        remark: "",
        opened: true,
        settlesFault: false,
      });
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
    const atLike = {
      unitId,
      faultId: like.id!,
      what: "x",
      part: "",
      minutes: 1,
      remark: "",
      opened: true,
      settlesFault: false,
    };
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
    expect(await post(randomUUID(), "no")).toMatchObject({
      ok: false,
      problem: { code: "question-over", why: "answered" },
    });
    expect(await post(randomUUID(), "nothing", true)).toMatchObject({
      ok: false,
      problem: { code: "bad-input" },
    });
    expect(await db("answer").where({ fault_id: faultId })).toHaveLength(1);
    expect(codeOf(await mend())).toBe("done");
    expect(await post(randomUUID(), "no", true)).toEqual({ ok: true });
    expect(codeOf(await mend())).toBe("no-was-said");
    await expect(db("answer").where({ fault_id: faultId }).update({ choice: "dome" })).rejects.toThrow(
      "append-only",
    );
    await db("question")
      .where({ unit_id: unitId })
      .update({ expires_at: new Date(Date.now() - 1000) });
    expect(await post(randomUUID(), "dome", true)).toMatchObject({
      ok: false,
      problem: { code: "question-over", why: "expired" },
    });
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
