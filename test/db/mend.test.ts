import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import type { DeedInput } from "@/contract/deeds";
import { intakeSchema } from "@/contract/intake";
import { itemsOf } from "@/core/mend/work";
import type { Actor } from "@/platform/deed/base";
import { dayView, nextFor } from "@/features/day/deeds";
import { heatOf } from "@/features/mend/heat";
import { windowsFrom } from "@/core/dayplan/hours";
import { tipsOf } from "@/features/mend/tips";
import { caseIn } from "@/features/case/credit";
import { unitView } from "@/features/units/view";
import { openWaits } from "@/features/waits/deeds";
import { damageOf } from "@/features/prove/damage";
import { orderView } from "@/features/mend/view";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";
import { one } from "@/core/base/one";

let db: Knex;
let lead: Actor;
let technician: Actor;

beforeAll(async () => {
  ({ db, lead, technician } = await openShop(8));
});
afterAll(() => closeShop(db));

const { act, takeIn, fullTest } = benchOf(() => ({ db, technician }));

async function knot(): Promise<{ unitId: string; tag: string; faultId: string }> {
  const unit = await takeIn();
  const fault = await valueOf(
    await act("fault.add", {
      unitId: unit.unitId,
      place: "face.south",
      kind: "misses",
      words: "",
      foundWhen: "test",
      claimed: false,
      measure: "decision",
      recordingId: null,
    }),
  );
  return { ...unit, faultId: fault.id! };
}

const target = (faultId: string) => ({
  faultId,
  what: "New dome sheet",
  slot: "dome.centre",
  route: "dome-dear",
});
async function openOrder(cleaningLevel = 0) {
  const unit = await knot();
  const { id } = await valueOf(
    await act("work.open", {
      unitId: unit.unitId,
      targets: [target(unit.faultId)],
      cleaningLevel,
      calibrate: [],
    }),
  );
  const work = (event: DeedInput<"work.do">["event"], tookMs: number | null = null, by = technician) =>
    act("work.do", { orderId: id!, event, tookMs }, by);
  return { ...unit, orderId: id!, work };
}
type Order = Awaited<ReturnType<typeof openOrder>>;
const STEPS = ["cells", "shell.fasteners", "halves", "board", "keys"];

async function takeApart(o: Order): Promise<void> {
  for (const step of STEPS) await valueOf(await o.work({ kind: "apart", step }, 90_000));
}
async function putBack(o: Order, from = STEPS): Promise<void> {
  const guide = (await orderView(db, o.unitId, technician))!.guide;
  for (const id of [...from].reverse()) {
    for (const item of itemsOf(guide.steps.find((s) => s.id === id)!)) await o.work({ kind: "in", item });
    await valueOf(await o.work({ kind: "back", step: id }, 60_000));
  }
}

test("a whole job: the fault stays open until the test after closing passes, minutes are logged, and the route learns", async () => {
  const o = await openOrder();
  await takeApart(o);
  expect((await unitView(db, o.tag, technician))!.nextAction).toBe("mend");
  await valueOf(await o.work({ kind: "task", task: "mend:1" }, 8 * 60_000));
  const mend = await db("mend").where({ unit_id: o.unitId }).first("outcome", "minutes", "route", "fault_id");
  expect(mend).toEqual({ outcome: null, minutes: 8, route: "dome-dear", fault_id: o.faultId });
  expect(codeOf(await o.work({ kind: "gate", gate: "open", why: "" }))).toBe("test-first");
  await valueOf(await o.work({ kind: "gate", gate: "open", why: "no leads here" }));
  await putBack(o);
  expect(codeOf(await o.work({ kind: "gate", gate: "closed", why: "in a hurry" }))).toBe("test-first");
  await fullTest(o.unitId);
  expect(await valueOf(await o.work({ kind: "gate", gate: "closed", why: "" }))).toEqual({ done: true });
  expect(await db("fault").where({ id: o.faultId }).first("status")).toEqual({ status: "mended" });
  expect(await db("mend").where({ unit_id: o.unitId }).orderBy("number").pluck("outcome")).toEqual([
    "worked",
    null,
  ]);
  expect(await db("mend").where({ unit_id: o.unitId }).orderBy("number").pluck("minutes")).toEqual([8, 13]); // 5 x 1.5 and 5 x 1
  const view = (await unitView(db, o.tag, technician))!;
  // the test that closed the order is later than all of its work: it is the proof
  expect(view.proofId).not.toBeNull();
  expect(view.blocks.map((b) => b.code)).not.toContain("no-proof");
  expect(codeOf(await o.work({ kind: "apart", step: "cells" }))).toBe("already");
});

const symptom = (unitId: string, place: string, measure: string | null, under?: string) =>
  act("fault.add", {
    unitId,
    place,
    kind: measure ?? "sticky below",
    words: "",
    foundWhen: "test",
    claimed: false,
    measure,
    recordingId: null,
    ...(under ? { under: under as never } : {}),
  });

test("three measures of one button are one fault, a fault behind the same part is explained, and one cure settles all", async () => {
  const o = await openOrder();
  // named in the order in which they are found: the worst speaks, and the same is not named twice
  await valueOf(await symptom(o.unitId, "face.south", "chatter"));
  await valueOf(await symptom(o.unitId, "face.south", "stuckAtRest"));
  expect(codeOf(await symptom(o.unitId, "face.south", "decision"))).toBe("already");
  // another button under the same dome sheet, and one of its own elsewhere
  const east = await valueOf(await symptom(o.unitId, "face.east", "decision"));
  // what a hand judged, at a place that the new sheet serves too: no test speaks of it
  const elsewhere = await valueOf(await symptom(o.unitId, "face.west", null));
  const view = async () => (await unitView(db, o.tag, technician))!;
  expect((await view()).faults.map((f) => [f.number, f.measure, f.symptoms.map((s) => s.measure)])).toEqual([
    [1, "stuckAtRest", ["decision", "chatter"]],
    [2, "decision", []],
    [3, null, []],
  ]);
  await takeApart(o);
  await valueOf(await o.work({ kind: "task", task: "mend:1" }, 60_000));
  await valueOf(await o.work({ kind: "gate", gate: "open", why: "no leads here" }));
  await putBack(o);
  await fullTest(o.unitId);
  await valueOf(await o.work({ kind: "gate", gate: "closed", why: "" }));
  const faults = await db("fault")
    .where({ unit_id: o.unitId })
    .orderBy("number")
    .select("id", "status", "status_why");
  expect(faults.map((f) => f.status)).toEqual(["mended", "mended", "open"]);
  expect(faults[1]).toMatchObject({ id: east.id, status_why: expect.stringMatching(/^Cured with it: /) });
  expect(faults[2]!.id).toBe(elsewhere.id);
  const blocks = (await view()).blocks.filter((b) => b.code === "open-fault");
  expect(blocks).toEqual([{ code: "open-fault", number: 3 }]);
});

test("a mend that a failing test lay behind has not cured it, whatever comes after", async () => {
  const first = await openOrder();
  const once = async (work: Order["work"], o: Order) => {
    await takeApart({ ...o, work });
    await valueOf(await work({ kind: "task", task: "mend:1" }, 60_000));
    await valueOf(await work({ kind: "gate", gate: "open", why: "no leads here" }));
    await putBack({ ...o, work });
  };
  await once(first.work, first);
  const { version } = one(await db("work_order").where({ id: first.orderId }).first("version"));
  await valueOf(await act("work.drop", { orderId: first.orderId, version, why: "asked the owner first" }));
  await fullTest(first.unitId, { bad: true });
  const { id } = await valueOf(
    await act("work.open", {
      unitId: first.unitId,
      targets: [target(first.faultId)],
      cleaningLevel: 0,
      calibrate: [],
    }),
  );
  const again = (event: DeedInput<"work.do">["event"], tookMs: number | null = null) =>
    act("work.do", { orderId: id!, event, tookMs });
  await once(again, first);
  await fullTest(first.unitId);
  await valueOf(await again({ kind: "gate", gate: "closed", why: "" }));
  const mends = await db("mend")
    .where({ unit_id: first.unitId, fault_id: first.faultId })
    .orderBy("number")
    .select("outcome", "credit");
  // it counts against the route as far as it had reached what is wrong
  expect(mends).toEqual([
    { outcome: "failed", credit: expect.any(Number) },
    { outcome: "worked", credit: null },
  ]);
  expect(mends[0]!.credit).toBeGreaterThan(0);
  expect(mends[0]!.credit).toBeLessThan(1);
});

test("of a fault that the retest leaves open what is cured goes, and the worst of what still fails speaks", async () => {
  const o = await openOrder();
  await valueOf(await symptom(o.unitId, "face.south", "stuckAtRest"));
  await takeApart(o);
  await valueOf(await o.work({ kind: "task", task: "mend:1" }, 60_000));
  await valueOf(await o.work({ kind: "gate", gate: "open", why: "no leads here" }));
  await putBack(o);
  await fullTest(o.unitId, { bad: true }); // it still misses, and is stuck no more
  await valueOf(await o.work({ kind: "gate", gate: "closed", why: "" }));
  const [fault] = (await unitView(db, o.tag, technician))!.faults;
  expect(fault).toMatchObject({ status: "open", measure: "decision", symptoms: [] });
});

test("two faults of one cause are put together, and a symptom with another cause is taken out again", async () => {
  const { unitId, tag, faultId } = await knot();
  const east = await valueOf(await symptom(unitId, "face.east", "decision"));
  await valueOf(await act("fault.join", { faultId: east.id!, version: 1, underId: faultId } as never));
  const faults = async () => (await unitView(db, tag, technician))!.faults;
  const both = await faults();
  expect(both.map((f) => [f.status, f.symptoms.map((s) => s.place)])).toEqual([
    ["open", ["face.east"]],
    ["withdrawn", []],
  ]);
  // what is measured there belongs to the same cause now
  await valueOf(await symptom(unitId, "face.east", "chatter"));
  expect((await faults())[0]!.symptoms.map((s) => s.measure)).toEqual(["decision", "chatter"]);
  await valueOf(await act("symptom.part", { symptomId: (await faults())[0]!.symptoms[0]!.id } as never));
  expect((await faults()).map((f) => [f.number, f.place, f.status])).toEqual([
    [1, "face.south", "open"],
    [2, "face.east", "withdrawn"],
    [3, "face.east", "open"],
  ]);
  expect(codeOf(await act("fault.join", { faultId, version: 99, underId: faultId } as never))).toBe(
    "not-found",
  );
});

test("a failing test after closing leaves the fault open and counts against the route", async () => {
  const o = await openOrder();
  await takeApart(o);
  await valueOf(await o.work({ kind: "task", task: "mend:1" }, 60_000));
  await valueOf(await o.work({ kind: "gate", gate: "open", why: "no leads here" }));
  await putBack(o);
  await fullTest(o.unitId, { bad: true });
  await valueOf(await o.work({ kind: "gate", gate: "closed", why: "" }));
  expect(await db("fault").where({ id: o.faultId }).first("status")).toEqual({ status: "open" });
  expect(await db("mend").where({ unit_id: o.unitId, fault_id: o.faultId }).first("outcome")).toEqual({
    outcome: "failed",
  });
});

test("an open unit blocks its release, by the lead too, and what is lost is logged and told", async () => {
  const o = await openOrder();
  await takeApart(o);
  await fullTest(o.unitId);
  const view = (await unitView(db, o.tag, lead))!;
  expect(view.blocks).toContainEqual(expect.objectContaining({ code: "apart", steps: 5 }));
  const release = {
    unitId: o.unitId,
    version: view.unit.version,
    priceMinor: 1000,
    warrantyDays: 30,
    known: "",
  };
  // the test while open is no proof: it would have to be later than the last step
  expect(codeOf(await act("unit.release", { ...release, limit: "cable only", reason: "wished" }, lead))).toBe(
    "firm-block",
  );
  await valueOf(
    await o.work({ kind: "explained", item: "clip:lip", fate: "broken", why: "tore as it was lifted" }),
  );
  expect(await damageOf(db, o.unitId)).toMatchObject([{ place: "upper lip", clipLost: true, madeGood: "" }]);
});

test("a loose bit that fits nothing keeps the shell open", async () => {
  const o = await openOrder();
  for (const step of STEPS.slice(0, 2)) await valueOf(await o.work({ kind: "apart", step }));
  await valueOf(await o.work({ kind: "task", task: "mend:1" }, 1000));
  await valueOf(
    await act("fragment.add", { unitId: o.unitId, foundAt: "under the board", what: "white tooth" }),
  );
  await valueOf(await o.work({ kind: "gate", gate: "open", why: "no leads here" }));
  const guide = (await orderView(db, o.unitId, technician))!.guide;
  const into = async (id: string) => {
    for (const item of itemsOf(guide.steps.find((s) => s.id === id)!))
      await valueOf(await o.work({ kind: "in", item }));
  };
  await into("shell.fasteners");
  await valueOf(await o.work({ kind: "back", step: "shell.fasteners" }));
  await into("cells");
  expect(codeOf(await o.work({ kind: "back", step: "cells" }))).toBe("loose-fragments");
  const fragment = one(await db("fragment").where({ unit_id: o.unitId }).first("id"));
  await valueOf(
    await act("fragment.match", {
      fragmentId: fragment.id,
      version: 1,
      matchedTo: null,
      explained: "from another unit's gear, put in its bag",
    }),
  );
  await valueOf(await o.work({ kind: "back", step: "cells" }));
});

test("many who tick at once: every tick counts once, and nothing is lost", async () => {
  const o = await openOrder();
  await valueOf(await o.work({ kind: "apart", step: "cells" }));
  const items = ["piece:door", "piece:cells", "piece:strap"];
  const replies = await Promise.all(
    [...items, ...items].map((item, i) => o.work({ kind: "in", item }, null, i % 2 ? technician : lead)),
  );
  expect(replies.filter((r) => r.ok)).toHaveLength(3);
  expect((await orderView(db, o.unitId, technician))!.leftOut).toEqual([]);
});

test("what soaks is timed by the server, and neither power nor closing comes before it is dry", async () => {
  const o = await openOrder(2);
  await takeApart(o);
  for (const task of ["clean:shell", "clean:contacts", "clean:padboard", "clean:domes"])
    await o.work({ kind: "task", task }, 60_000);
  const waits = await openWaits(db, o.unitId);
  expect(waits.map((w) => w.what)).toContain("soak and dry: dome sheet");
  for (const task of ["clean:strap", "clean:keys", "mend:1"])
    await valueOf(await o.work({ kind: "task", task }, 60_000));
  // what was cleaned is in the case
  const cleaned = async () =>
    (await caseIn(db, one(await db("unit").where({ id: o.unitId }).first()))).facts.flatMap((f) =>
      f.kind === "mended" && f.how === "cleaned" ? [f.place] : [],
    );
  expect(await cleaned()).toEqual(["shell", "contacts", "padboard", "domes", "strap", "keys"]);
  expect(codeOf(await o.work({ kind: "gate", gate: "open", why: "no leads here" }))).toBe("still-waiting");
  for (const w of await openWaits(db, o.unitId))
    await valueOf(await act("wait.seen", { waitId: w.id, outcome: "dry early, by the fan" }));
  await valueOf(await o.work({ kind: "gate", gate: "open", why: "no leads here" }));
  const seen = one(await db("wait").where({ unit_id: o.unitId }).first("id"));
  expect(codeOf(await act("wait.seen", { waitId: seen.id, outcome: "" }))).toBe("already");
});

test("an order is changed while it runs: what is done stays in it, and the rest keeps its number", async () => {
  const o = await openOrder();
  const order = async () => (await orderView(db, o.unitId, technician))!;
  const second = { faultId: null, what: "Light flex", slot: "flex.light.link", route: null };
  const change = async (targets: DeedInput<"work.change">["targets"]) =>
    act("work.change", {
      orderId: o.orderId,
      version: (await order()).version,
      targets,
      cleaningLevel: 0,
      calibrate: [],
    });
  await valueOf(await change([target(o.faultId), second]));
  expect((await order()).body.targets.map((t) => t.key)).toEqual([1, 2]);
  await takeApart(o);
  await valueOf(await o.work({ kind: "task", task: "mend:2" }, 1000));
  expect(codeOf(await change([target(o.faultId)]))).toBe("already");
  await valueOf(await change([second]));
  expect((await order()).body.targets.map((t) => t.key)).toEqual([2]);
  expect((await order()).line.find((s) => s.key === "mend:2")!.done).toBe(true);
  expect(
    codeOf(
      await act("work.change", {
        orderId: o.orderId,
        version: 1,
        targets: [second],
        cleaningLevel: 0,
        calibrate: [],
      }),
    ),
  ).toBe("changed-meanwhile");
});

test("the last step is taken back, but not a logged mend; what was taken back teaches no minutes", async () => {
  const o = await openOrder();
  await valueOf(await o.work({ kind: "apart", step: "cells" }, 3000));
  const learned = async () =>
    (await orderView(db, o.unitId, technician))!.line.find((s) => s.key === "apart:cells")!;
  const before = (await learned()).learned.cases;
  await valueOf(await act("work.undo", { orderId: o.orderId }));
  expect(await learned()).toMatchObject({ done: false, learned: { cases: before - 1 } });
  expect((await unitView(db, o.tag, technician))!.blocks.map((b) => b.code)).not.toContain("apart");
  expect(codeOf(await act("work.undo", { orderId: o.orderId }))).toBe("not-found");
  await valueOf(await o.work({ kind: "task", task: "mend:1" }, 1000));
  expect(codeOf(await act("work.undo", { orderId: o.orderId }))).toBe("logged-mend");
});

test("a wait goes on from now when it is prolonged after its end", async () => {
  const { id } = (await valueOf(
    await act("wait.start", { unitId: null, kind: "charge", what: "charge", minutes: 10 }),
  )) as {
    id: string;
  };
  await db("wait")
    .where({ id })
    .update({ ends_at: db.raw("now() - interval '1 hour'") });
  await valueOf(await act("wait.move", { waitId: id, minutes: 5 }));
  const left = one(await db("wait").where({ id }).first("ends_at")).ends_at.getTime() - Date.now();
  expect(left).toBeGreaterThan(4.5 * 60_000);
  expect(left).toBeLessThan(5.5 * 60_000);
});

test("minutes are learnt by step and person, first time against later", async () => {
  const o = await openOrder();
  await valueOf(await o.work({ kind: "apart", step: "cells" }, 120_000));
  const view = (await orderView(db, o.unitId, technician))!;
  const step = view.line.find((s) => s.key === "apart:cells")!;
  expect(step.learned.cases).toBeGreaterThan(1);
  expect(step.learned.first).not.toBeNull();
  expect(step.learned.later).not.toBeNull();
});

test("the branch follows the revision seen inside, and not while its steps are apart", async () => {
  const unit = (await valueOf(
    await act("unit.take-in", {
      profileKey: "turnstone",
      revision: null,
      origin: { source: "single", seller: "", priceMinor: 100, carriageMinor: 0 },
      claim: "",
      swollen: false,
      liquid: false,
      intake: intakeSchema.parse({}),
      toTray: false,
    }),
  )) as { unitId: string };
  const { id } = (await valueOf(
    await act("work.open", {
      unitId: unit.unitId,
      targets: [{ faultId: null, what: "Look inside", slot: "module.left", route: null }],
      cleaningLevel: 0,
      calibrate: [],
    }),
  )) as { id: string };
  const ids = async () =>
    (await orderView(db, unit.unitId, technician))!.line
      .filter((s) => s.phase === "apart")
      .map((s) => s.step!.id);
  expect(await ids()).toEqual(expect.arrayContaining(["trigger.plugs", "trigger.leads"]));
  await valueOf(await act("work.revision", { orderId: id, revision: "b" }));
  expect(await ids()).not.toContain("trigger.plugs");
  for (const step of ["cells", "grips", "shell.fasteners", "halves", "trigger.leads"])
    await valueOf(await act("work.do", { orderId: id, event: { kind: "apart", step }, tookMs: null }));
  expect(codeOf(await act("work.revision", { orderId: id, revision: "a" }))).toBe("work");
  expect(await db("unit").where({ id: unit.unitId }).first("revision")).toEqual({ revision: "b" });
});

test("solder work counts the heat of each chip and wants open holes before joints", async () => {
  const { unitId } = await knot();
  const heat = (change: Partial<DeedInput<"heat.add">>) =>
    act("heat.add", {
      unitId,
      job: "contacts",
      celsius: 360,
      exception: "",
      method: "wick",
      chips: ["main chip"],
      shielded: "",
      holes: [],
      joints: [],
      ...change,
    });
  expect(codeOf(await heat({ celsius: 400 }))).toBe("too-hot");
  expect(codeOf(await heat({ joints: ["filled"] }))).toBe("holes-first");
  await valueOf(
    await heat({
      joints: ["filled"],
      holes: [1, 2].map((hole) => ({ hole, gaugeMm: 1.2, ringIntact: true })),
    }),
  );
  await valueOf(await heat({ celsius: 400, exception: "ground plane, from beneath" }));
  expect((await heatOf(db, unitId)).chips).toEqual([{ chip: "main chip", cycles: 2, state: "good" }]);
});

test("calibration: refused for what was not measured, by unit, stick and recording", async () => {
  const { unitId } = await knot();
  const table = { centre: [0, 0] as const, low: [-1, -1] as const, high: [1, 1] as const };
  const { id } = (await fullTest(unitId)) as { id: string };
  const write = (change: Partial<DeedInput<"calibration.write">>) =>
    act("calibration.write", {
      unitId,
      stick: "stick.left",
      part: "centre",
      recordingId: id,
      now: table,
      port: "test",
      ...change,
    });
  expect(codeOf(await write({}))).toBe("no-calibration");
  expect(codeOf(await write({ recordingId: randomUUID() }))).toBe("not-found");
});

test("notes: proposed, confirmed, offered confirmed first", async () => {
  const add = (words: string) =>
    act("tip.add", { model: "knot", step: "board", kind: "tip", words, source: "a peer", unitId: null });
  await valueOf(await add("older"));
  await valueOf(await add("newer"));
  const older = (await tipsOf(db, "knot")).find((t) => t.words === "older")!;
  await valueOf(await act("tip.settle", { tipId: older.id, state: "confirmed" }));
  expect((await tipsOf(db, "knot")).map((t) => t.words)).toEqual(["older", "newer"]);
  expect(
    codeOf(
      await act("tip.add", {
        model: "nowhere",
        step: null,
        kind: "tip",
        words: "x",
        source: "",
        unitId: null,
      }),
    ),
  ).toBe("not-found");
});

describe("the day's plan", () => {
  test("open work is planned within hours and skill; a pin and a due day are kept; what awaits an answer is held", async () => {
    await valueOf(
      await act(
        "person.set-hours",
        { personId: technician.id, skill: 1, hours: Array.from({ length: 7 }, () => [[0, 1440]]) },
        lead,
      ),
    );
    await valueOf(
      await act(
        "person.set-hours",
        { personId: lead.id, skill: 4, hours: Array.from({ length: 7 }, () => [[0, 1440]]) },
        lead,
      ),
    );
    expect(
      codeOf(
        await act("person.set-hours", {
          personId: lead.id,
          skill: 4,
          hours: Array.from({ length: 7 }, () => []),
        }),
      ),
    ).toBe("not-allowed");
    const o = await openOrder();
    const before = await dayView(db, 40);
    const mine = before.tasks.filter((t) => t.tag === o.tag);
    expect(mine.map((t) => t.title)).toEqual(
      expect.arrayContaining(["Take apart, 5 steps", "Full test, closed"]),
    );
    expect(before.tasks.every((t) => t.kind === "wait" || t.person !== null)).toBe(true);
    expect(before.makespan).toBeLessThanOrEqual(before.firstCome.makespan);
    expect(before.makespan).toBeGreaterThanOrEqual(before.bound.makespan);
    const open = mine.find((t) => t.title.startsWith("Take apart"))!;
    const startAt = new Date(Date.parse(before.from) + 240 * 60_000).toISOString();
    await valueOf(await act("plan.pin", { task: open.task, personId: lead.id, startAt }));
    const after = await dayView(db, 40);
    const pinned = after.tasks.find((t) => t.task === open.task)!;
    expect(pinned).toMatchObject({ person: lead.id, pinned: true });
    expect(Date.parse(pinned.startAt)).toBeGreaterThanOrEqual(Date.parse(startAt));
    await valueOf(await act("plan.unpin", { task: open.task }));
    expect((await dayView(db, 40)).pins).toEqual([]);
    expect(await nextFor(db, technician)).not.toBeNull();
  });
  test("hours are the shop's own clock, over the change to winter time too", () => {
    const hours = Array.from({ length: 7 }, (): [number, number][] => [[540, 600]]);
    const from = new Date("2026-10-24T00:00:00Z"); // clocks go back on the 25th
    expect(windowsFrom(hours, from, 3, "Europe/Dublin")).toEqual([
      [480, 540],
      [1980, 2040],
      [3420, 3480],
    ]);
  });
});
