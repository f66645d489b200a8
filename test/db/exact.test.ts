import type { Knex } from "knex";

import { one } from "@/core/base/one";
import { analysedAgain, recordingById } from "@/features/test/recordings";
import { loadSettings, saveValue } from "@/features/settings/settings";
import type { Actor } from "@/platform/deed/base";
import { benchOf, closeShop, openShop, valueOf } from "./shop";

/** Exact in the record: old recordings, presses over several tests, and what a release asks of them. */

let db: Knex;
let technician: Actor;
const { act, takeIn, fullTest, look, answerAll } = benchOf(() => ({ db, technician }));

beforeAll(async () => ({ db, technician } = await openShop(4)), 120_000);
afterAll(() => closeShop(db));

test("an old recording keeps what was stored; what today's measures see in it is told beside", async () => {
  const { unitId } = await takeIn();
  const { id } = await fullTest(unitId, { bad: true });
  expect(await analysedAgain(db, id as never)).toBeNull(); // analysed by today's measures
  // as a version of before stored it: good, without what it did not know
  const row = one(await db("recording").where({ id }).first("analysis"));
  const old = structuredClone(row.analysis) as unknown as {
    version: number;
    controls: Record<string, Record<string, unknown>>;
  };
  old.version = 1;
  for (const c of Object.values(old.controls)) {
    delete c.smallestSeen;
    delete c.idle;
    delete c.holdSag;
    c.grade = "A";
  }
  await db("recording")
    .where({ id })
    .update({ analysis: JSON.stringify(old), grade: "A" });
  const again = (await analysedAgain(db, id as never))!;
  expect(again.grade).toBe("fail");
  expect(again.differs).toContainEqual(
    expect.objectContaining({ control: "face.south", was: "A", now: "fail" }),
  );
  const stored = (await recordingById(db, id))!;
  expect([stored.grade, stored.analysis.version]).toEqual(["A", 1]);
  expect(stored.analysis.controls["face.south"]).toMatchObject({ grade: "A", smallestSeen: {}, idle: null });
}, 60_000);

test("presses of all tests are pooled for a release; work inside forgets them, a quick look adds none", async () => {
  const { tag, unitId } = await takeIn();
  await fullTest(unitId);
  const first = await look(tag);
  expect(first.risk.middle!).toBeLessThan(0.001);
  await fullTest(unitId);
  const second = await look(tag);
  expect(second.risk.middle!).toBeLessThan(first.risk.middle! / 10);
  await answerAll(tag);
  expect((await look(tag)).blocks.map((b) => b.code)).not.toContain("risk");

  await valueOf(
    await act("mend.add", {
      unitId,
      faultId: null,
      what: "Cleaned inside",
      part: "",
      minutes: 5,
      remark: "",
      opened: true,
      settlesFault: false,
      route: null,
      partMinor: 0,
      cause: "not-known",
    }),
  );
  expect((await look(tag)).risk.middle).toBeNull(); // nothing is known of them any more
});

test("a shop may ask for more: its own chance of a bad button blocks until the presses keep it", async () => {
  const { tag, unitId } = await takeIn();
  await fullTest(unitId);
  const { settings, version } = await loadSettings(db);
  await saveValue(db, "shop", version, { ...settings, prove: { ...settings.prove, releaseRisk: 0.0001 } });
  try {
    const view = await look(tag);
    expect(view.blocks).toContainEqual(
      expect.objectContaining({ code: "risk", where: "middle", aim: 0.0001 }),
    );
    expect(view.doubtful.length).toBeGreaterThan(0);
    await fullTest(unitId);
    expect((await look(tag)).blocks.map((b) => b.code)).not.toContain("risk");
  } finally {
    await saveValue(db, "shop", version + 1, settings);
  }
});
