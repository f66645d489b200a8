import type { Knex } from "knex";

import { one } from "@/core/base/one";
import { factSchema } from "@/core/case/facts";
import { caseIn } from "@/features/case/credit";
import { stillUnsettled } from "@/features/case/aged";
import { caseView } from "@/features/casefile/view";
import { findView } from "@/features/find/view";
import { advise } from "@/core/decide/advise";
import { decideInput } from "@/features/decide/input";
import { settleByRetest } from "@/features/mend/retest";
import { modelById } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { routeRecord } from "@/features/routes/deeds";
import { unitView } from "@/features/units/view";
import type { Actor } from "@/platform/deed/base";
import { benchOf, closeShop, codeOf, openShop, valueOf } from "./shop";
import { intakeSchema } from "@/contract/intake";

/** One unit, one case: every station feeds one list of facts, and a cure is earned. */

let db: Knex;
let technician: Actor;
const { act, takeIn, fullTest } = benchOf(() => ({ db, technician }));

beforeAll(async () => ({ db, technician } = await openShop(12)), 120_000);
afterAll(() => closeShop(db));

const viewOf = async (tag: string) => one(await unitView(db, tag, technician));
const find = async (tag: string) => one(await findView(db, await viewOf(tag)));
const factsOf = async (unitId: string) =>
  (await caseIn(db, one(await db("unit").where({ id: unitId }).first()))).facts;
const see = (unitId: string, kind: "place" | "function", target: string, outcome: string) =>
  act("find.observe", { unitId, kind, target, outcome, value: null, note: "" } as never);
const tryAt = (unitId: string, suspect: string, action: string) =>
  act("try.add", { unitId, suspect, action, expects: "it works", what: "as told" } as never);
async function cured(unitId: string, number: number): Promise<void> {
  const { id, version } = one(await db("attempt").where({ unit_id: unitId, number }).first("id", "version"));
  await valueOf(await act("try.settle", { tryId: id, version, outcome: "cured", undone: null } as never));
}
const southMisses = async (unitId: string) =>
  valueOf(
    await act("fault.add", {
      unitId,
      place: "face.south",
      kind: "misses",
      words: "",
      foundWhen: "test",
      measure: "decision",
      recordingId: null,
    }),
  );
const partOf = async (tag: string, kind: string) =>
  one((await viewOf(tag)).profile.wiring!.nodes.find((n) => n.kind === kind)).id;

const loaded = async (unitId: string) => {
  const unit = one(await db("unit").where({ id: unitId }).first());
  const { settings } = await loadSettings(db);
  return { unit, profile: await modelById(db, unit.profile_id), settings };
};

test("claim, intake, tests, answers, readings, findings, pieces, tries, mends and decisions stand in one list, nothing twice and nothing lost", async () => {
  const { tag, unitId } = await takeIn({
    claim: "face south is dead. It fell once",
    liquid: false,
    intake: intakeSchema.parse({
      rattle: "metal",
      grime: "slight",
      openedBefore: true,
      history: "never wet",
      told: ["fall", "child"],
    }),
  });
  await fullTest(unitId, { bad: true });
  const { profile } = await viewOf(tag);
  await act("function.check", { unitId, functionId: profile.functions[0]!.id, result: "pass", note: "" });
  const reading = { kind: "supply", supply: "main", openVolts: 1, loadedVolts: 0.6, loadAmps: 0.2 };
  await valueOf(
    await act("reading.take", { unitId, reading, instrument: "meter", host: "", tookMs: null } as never),
  );
  const contact = await partOf(tag, "dome");
  await valueOf(await see(unitId, "place", contact, "worn"));
  await valueOf(await act("fragment.add", { unitId, foundAt: "in the shell", what: "a clip" }));
  await valueOf(await tryAt(unitId, contact, "clean"));
  await valueOf(
    await act("fault.add", {
      unitId,
      place: "face.east",
      kind: "sticky",
      words: "",
      foundWhen: "opened",
      measure: null,
      recordingId: null,
    }),
  );
  await valueOf(
    await act("mend.add", {
      unitId,
      faultId: null,
      what: "new feet",
      part: "feet",
      minutes: 3,
      remark: "",
      opened: false,
      settlesFault: false,
    } as never),
  );
  const facts = await factsOf(unitId);
  for (const f of facts) expect(factSchema.parse(f)).toEqual(f);
  const kinds = new Set(facts.map((f) => f.kind));
  expect([...kinds].sort()).toEqual(
    [
      "function",
      "history",
      "intake",
      "measure",
      "mended",
      "observed",
      "piece",
      "reading",
      "told",
      "tried",
      "works",
    ].sort(),
  );
  // what was ticked is sure, what words say less so, and nothing stands twice; a child's hands make teeth likelier
  expect(
    facts
      .flatMap((f) => (f.kind === "history" ? [[f.what, f.doubt] as const] : []))
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  ).toEqual([
    ["fall", 0],
    ["opened", 0],
    ["teeth", 0.6],
  ]);
  expect(new Set(facts.map((f) => f.id)).size).toBe(facts.length);
  // every control of the recording that is good or fails says so
  const { analysis } = one(await db("recording").where({ unit_id: unitId }).first("analysis"));
  const good = Object.values(analysis.controls).filter((c) => c.grade === "A" || c.grade === "B").length;
  expect(facts.filter((f) => f.kind === "works")).toHaveLength(good);
  expect(facts.filter((f) => f.kind === "measure").map((f) => [f.place, f.measure])).toContainEqual([
    "face.south",
    "decision",
  ]);

  // the page of the case: newest first, and the figure of a part opens to what speaks of it
  const page = await caseView(db, await viewOf(tag), null);
  expect(page.standing + page.ended).toBe(facts.length);
  expect(page.lines[0]!.at >= page.lines.at(-1)!.at).toBe(true);
  const behind = await caseView(db, await viewOf(tag), contact);
  const shown = one((await find(tag)).causes.find((c) => c.node === contact));
  expect(behind.about!.probability).toBeCloseTo(shown.probability, 12);
  expect(behind.lines.map((l) => l.words)).toContainEqual(expect.stringMatching(/worn/));
  expect(behind.lines.every((l) => l.weight !== null)).toBe(true);
});

test("what a fact says is in the belief at once, and what was done since takes it out again", async () => {
  const { tag, unitId } = await takeIn({ profileKey: "dunlin" });
  const joint = await partOf(tag, "joint");
  await valueOf(await see(unitId, "place", joint, "cracked-joint"));
  const { newest } = await find(tag);
  expect(newest!.moved!.with).toBeGreaterThan(newest!.moved!.without + 0.1);
  await valueOf(await tryAt(unitId, joint, "resolder"));
  const { lines } = await caseView(db, await viewOf(tag), null);
  const line = lines.find((l) => l.kind === "observed")!;
  expect(lines.find((l) => l.kind === "tried")!.ends).toBe(1);
  expect(line.ended).toMatchObject({ how: "resoldered" });
  expect(line.moved).toBeNull();
});

test("faults that one part explains are offered as one, and joined they are one to the release", async () => {
  const { tag, unitId } = await takeIn({ profileKey: "avocet" });
  const name = (place: string) =>
    act("fault.add", {
      unitId,
      place,
      kind: "is dead",
      words: "",
      foundWhen: "test",
      measure: null,
      recordingId: null,
    });
  // a light, a touch surface and a bumper hang by one flex, and everything else works
  const { functions } = (await viewOf(tag)).profile;
  for (const f of functions)
    await act("function.check", {
      unitId,
      functionId: f.id,
      result: ["light.left", "touch.left"].includes(f.id) ? "fail" : "pass",
      note: "",
    });
  await valueOf(await see(unitId, "function", "bumper.left", "dead"));
  await valueOf(await name("light.left"));
  expect((await find(tag)).oneCause).toBeNull();
  await valueOf(await name("touch.left"));
  await valueOf(await name("bumper.left"));
  await valueOf(await see(unitId, "place", "flex.edge.left", "torn"));
  const { oneCause } = await find(tag);
  expect(oneCause).toMatchObject({ under: { number: 1 }, faults: [{ number: 2 }, { number: 3 }] });
  for (const f of oneCause!.faults)
    await valueOf(
      await act("fault.join", { faultId: f.id, version: f.version, underId: oneCause!.under.id } as never),
    );
  expect((await find(tag)).oneCause).toBeNull();
  const open = (await viewOf(tag)).blocks.filter((b) => b.code === "open-fault");
  expect(open).toEqual([{ code: "open-fault", number: 1 }]);
});

test("what was named by hand and settled, and what was broken and made good, stays in the list as over", async () => {
  const { tag, unitId } = await takeIn({ profileKey: "dunlin" });
  const name = (kind: string, under?: string) =>
    act("fault.add", {
      unitId,
      place: "stick.left",
      kind,
      words: "",
      foundWhen: "opened",
      measure: null,
      recordingId: null,
      ...(under ? { under: under as never } : {}),
    });
  const { id } = await valueOf(await name("worn box"));
  await valueOf(await name("jumps about", id));
  const lines = async () => (await caseView(db, await viewOf(tag), null)).lines;
  const named = async () =>
    (await lines())
      .filter((l) => l.words.startsWith("Named by hand"))
      .map((l) => [l.words, l.ended?.how ?? null]);
  expect(await named()).toEqual([
    ["Named by hand: left stick, jumps about", null],
    ["Named by hand: left stick, worn box", null],
  ]);
  const { version } = one(await db("fault").where({ id }).first("version"));
  await valueOf(
    await act("fault.settle", { faultId: id!, version, status: "withdrawn", why: "it was the lead" }),
  );
  expect((await named()).map(([, how]) => how)).toEqual(["settled", "settled"]);
  expect((await find(tag)).causes).toEqual([]);
});

test("a model without wiring has its case too: nothing is weighed, and a failed reading blocks all the same", async () => {
  const { tag, unitId } = await takeIn({ profileKey: "dunlin" });
  const view = await viewOf(tag);
  const { wiring: _, ...bare } = view.profile;
  const reading = { kind: "supply", supply: "main", openVolts: 1, loadedVolts: 0.6, loadAmps: 0.2 };
  await valueOf(
    await act("reading.take", { unitId, reading, instrument: "meter", host: "", tookMs: null } as never),
  );
  const page = await caseView(db, { ...view, profile: bare }, null);
  expect(page.wired).toBe(false);
  const line = one(page.lines.find((l) => l.kind === "reading"));
  expect([line.words, line.moved]).toEqual(["Read at the bench: supply, fail", null]);
  const unit = one(await db("unit").where({ id: unitId }).first());
  expect(await stillUnsettled(db, unit, bare)).toEqual({
    readings: [{ reading: "supply", subject: "main", verdict: "fail" }],
    broken: [],
  });
});

test("a whole recording is one piece of news, told by what failed in it", async () => {
  const { tag, unitId } = await takeIn();
  await fullTest(unitId, { bad: true });
  const bad = one((await find(tag)).newest);
  expect(bad.words).toMatch(/^face south: /);
  expect(bad.moved!.with).toBeGreaterThan(bad.moved!.without);
  await fullTest(unitId);
  expect(one((await find(tag)).newest).words).toMatch(/^\d+ controls good in one test$/);
});

test("a claim and a fault named by hand count before anything is recorded", async () => {
  const { tag, unitId } = await takeIn({ profileKey: "dunlin", claim: "left stick drifts" });
  const told = await find(tag);
  expect(told.causes[0]!.because.map((b) => b.what).join()).toMatch(/told: .*left stick/);
  await valueOf(
    await act("fault.add", {
      unitId,
      place: "stick.left",
      kind: "jumps about",
      words: "",
      foundWhen: "test",
      measure: null,
      recordingId: null,
    }),
  );
  expect((await find(tag)).seen).toMatchObject([{ id: "stick.left", outcome: "jumps" }]);
});

test("the heat's credit goes when the search by halves names the lead that a hand had moved", async () => {
  const { tag, unitId } = await takeIn({ profileKey: "dunlin" });
  const lead = await partOf(tag, "lead");
  const motor = "motor.heavy";
  await valueOf(await see(unitId, "function", motor, "intermittent"));
  const chip = "drive.chip"; // it drives that motor through the lead
  await valueOf(await tryAt(unitId, chip, "reheat"));
  await cured(unitId, 1);
  const share = async () => (await find(tag)).tries[0]!.share;
  expect(await share()).toBe(1);
  const chipBefore = (await find(tag)).causes.find((c) => c.node === chip)?.probability ?? 0;

  await valueOf(await act("halving.start", { unitId, pair: "open-closed" }));
  const search = async () => one(await db("halving").where({ unit_id: unitId }).first());
  const add = async (what: string, node: string | null) => {
    const { id, version } = await search();
    return act("halving.add-item", { halvingId: id, version, what, node } as never);
  };
  const had = (await search()).items.some((i) => i.node === lead);
  expect(codeOf(await add("the lead", lead))).toBe(had ? "already" : "done");
  expect(codeOf(await add("a screw under the label", null))).toBe("done");
  expect(codeOf(await add("a screw under the label", null))).toBe("already");
  expect((await search()).items.map((i) => i.what)).toContain("a screw under the label");
  // half by half towards the lead
  while (!(await search()).closed) {
    const { id, version } = await search();
    const now = one((await find(tag)).halvings[0]).now;
    if (now.state !== "ask") break;
    const result = now.switch.includes(lead) ? "fails" : "works";
    await valueOf(await act("halving.step", { halvingId: id, version, result }));
  }
  expect((await search()).ended_at).not.toBeNull();
  expect(codeOf(await add("too late", null))).toBe("already");
  const after = await find(tag);
  expect(after.tries[0]!.share).toBe(0);
  expect(after.causes[0]!.node).toBe(lead);
  expect(after.causes.find((c) => c.node === chip)?.probability ?? 0).toBeLessThan(chipBefore);
  // the end of the search is a fact of the case
  const lines = (await caseView(db, await viewOf(tag), null)).lines.map((l) => l.words);
  expect(lines).toContainEqual(expect.stringMatching(/^The search by halves came down to: /));
  expect(lines).toContainEqual(expect.stringMatching(/Try 1, reheat .* credit taken back/));
});

test("two mends of one fault before one test share its cure, and the record of their routes gets a share each", async () => {
  const before = await routeRecord(db);
  const { unitId } = await takeIn();
  await fullTest(unitId, { bad: true });
  const fault = await southMisses(unitId);
  const mend = async (route: string) =>
    valueOf(
      await act("mend.add", {
        unitId,
        faultId: fault.id!,
        what: route,
        part: "",
        minutes: 5,
        remark: "",
        opened: true,
        settlesFault: true,
        route,
      } as never),
    );
  await mend("clean-pads");
  await mend("dome-dear");
  await fullTest(unitId);
  const credits = await db("mend").where({ unit_id: unitId }).orderBy("number").pluck("credit");
  expect(credits.reduce((s: number, c) => s + Number(c), 0)).toBeCloseTo(1, 9);
  for (const c of credits) expect(Number(c)).toBeGreaterThan(0);
  const worked = (rows: typeof before, route: string) =>
    rows.find((r) => r.route === route && r.model === "knot")?.worked ?? 0;
  const after = await routeRecord(db);
  const gained = ["clean-pads", "dome-dear"].map((r) => worked(after, r) - worked(before, r));
  expect(gained[0]! + gained[1]!).toBeCloseTo(1, 9);
});

test("Decide reckons with what Find holds: another finding is another route, and the untested keeps its odds", async () => {
  const { tag, unitId } = await takeIn();
  await fullTest(unitId, { bad: true });
  await southMisses(unitId);
  const asked = async () => {
    const { unit, profile, settings } = await loaded(unitId);
    return decideInput(db, { unit, profile, settings });
  };
  const leads = (input: Awaited<ReturnType<typeof asked>>) =>
    one(input.causes!["face.south"]![0]).parts[0]!.kind;
  const before = await asked();
  expect(leads(before)).toBe("dome");
  expect(before.untested.length).toBeGreaterThan(2);
  for (const u of before.untested) expect(u.bad).toBeGreaterThan(0);
  // what several of them share is counted once
  expect(before.hiddenBad).toBeGreaterThan(Math.max(...before.untested.map((u) => u.bad)));
  expect(before.hiddenBad).toBeLessThan(before.untested.reduce((s, u) => s + u.bad, 0));
  const works = async (route: string) =>
    advise(await asked()).options.find((o) => o.route.id === route && o.places.includes("face.south"))?.chance
      .mean ?? 0;
  expect(await works("dome-dear")).toBeGreaterThan(0.6);
  expect(await works("wire-bridge")).toBeLessThan(0.3);

  await valueOf(await see(unitId, "place", await partOf(tag, "dome"), "sound"));
  await valueOf(await see(unitId, "place", "dome.face.south", "sound"));
  await valueOf(await see(unitId, "place", "row.face", "torn"));
  await valueOf(await see(unitId, "place", "row.face", "cracked-joint"));
  expect(leads(await asked())).toBe("trace");
  expect(await works("wire-bridge")).toBeGreaterThan(0.5);
  expect(await works("dome-dear")).toBeLessThan(0.2);
});

test("a failed mend counts against its route only as far as it had reached what is wrong", async () => {
  /** A new dome sheet for a button that then still misses, with what was seen of it before. */
  const inVain = async (findings: [string, string][]): Promise<number> => {
    const { unitId } = await takeIn();
    await fullTest(unitId, { bad: true });
    for (const [place, finding] of findings) await valueOf(await see(unitId, "place", place, finding));
    const { id: faultId } = await southMisses(unitId);
    const { id: orderId } = await valueOf(
      await act("work.open", {
        unitId,
        targets: [{ faultId: faultId!, what: "New dome sheet", slot: "dome.centre", route: "dome-dear" }],
        cleaningLevel: 0,
        calibrate: [],
      } as never),
    );
    const work = (event: object) => act("work.do", { orderId, event, tookMs: 1000 } as never);
    for (const step of ["cells", "shell.fasteners", "halves", "board", "keys"])
      await valueOf(await work({ kind: "apart", step }));
    await valueOf(await work({ kind: "task", task: "mend:1" }));
    await fullTest(unitId, { bad: true });
    // the closing test settles what it came to
    await db("mend").where({ unit_id: unitId, fault_id: faultId! }).update({ outcome: null });
    const unit = one(await db("unit").where({ id: unitId }).first());
    const test = one(await db("recording").where({ unit_id: unitId }).orderBy("started_at", "desc").first());
    await db.transaction((trx) =>
      settleByRetest(
        { db: trx, actor: technician, note: () => undefined } as never,
        unit,
        [faultId!],
        { grades: test.grades, analysis: test.analysis } as never,
        new Date(0),
      ),
    );
    const mend = one(
      await db("mend").where({ unit_id: unitId, fault_id: faultId! }).first("outcome", "credit"),
    );
    expect(mend.outcome).toBe("failed");
    return mend.credit!;
  };
  const likely = await inVain([["dome.face.south", "torn"]]);
  const wrong = await inVain([
    ["dome.face.south", "sound"],
    ["row.face", "cracked-joint"],
  ]);
  expect(likely).toBeGreaterThan(0.3);
  expect(wrong).toBeLessThan(likely / 4);
  const { failed } = one((await routeRecord(db)).find((r) => r.route === "dome-dear" && r.model === "knot"));
  expect(failed).toBeCloseTo(likely + wrong, 6);
});
