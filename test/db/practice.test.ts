import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import { hiddenFaultsSchema } from "@/core/practice/hidden";
import { houseDatabase, practiceDatabase } from "@/platform/db/connection";
import type { Actor } from "@/platform/deed/base";
import { doDeed } from "@/features/deeds";
import {
  beginExercise,
  endExercise,
  exercisesOf,
  hardCases,
  preparePractice,
} from "@/features/practice/deeds";
import { lookInside, practiceFaults } from "@/features/practice/inside";
import { benchOf, closeShop, openShop, valueOf } from "./shop";
import { one } from "@/core/base/one";

let db: Knex;
let technician: Actor;

beforeAll(async () => {
  ({ db, technician } = await openShop(4));
});
afterAll(async () => {
  await practiceDatabase().destroy();
  await houseDatabase().destroy();
  await db.raw("drop schema if exists practice cascade");
  await closeShop(db);
});

const { act, ready, release, look, fullTest, answerAll } = benchOf(() => ({ db, technician }));
const inPractice = <D extends Parameters<typeof doDeed>[2]>(deed: D, input: object) =>
  doDeed(practiceDatabase(), technician, deed, randomUUID(), input);

test("before anybody practised there is nothing to show, and no bench is made for looking", async () => {
  expect(await exercisesOf(technician)).toEqual([]);
  expect((await db.raw("select to_regnamespace('practice') as name")).rows[0].name).toBeNull();
});

test("an exercise lies apart, is scored by what was named and decided, and is ended once", async () => {
  const before = await db("event").count("* as n").first();
  const { tag } = await beginExercise(technician, 2, "knot", null);
  const bench = practiceDatabase();
  const unit = one(await bench("unit").where({ tag }).first("id"));
  const [open] = await exercisesOf(technician);
  expect(open).toMatchObject({ tag, ended: false, hidden: [], score: null }); // what is hidden is not told
  const hidden = hiddenFaultsSchema.parse(
    one(await bench("exercise").where({ unit_id: unit.id }).first("hidden")).hidden,
  );
  expect(hidden).toHaveLength(2);
  expect(Object.values((await practiceFaults(bench, unit.id))!.buttons!)).toHaveLength(2);

  await valueOf(
    await inPractice("fault.add", {
      unitId: unit.id,
      place: hidden[0]!.place,
      kind: "misses",
      words: "",
      foundWhen: "test",
      claimed: false,
      measure: hidden[0]!.measure,
      recordingId: null,
    }),
  );
  const { version } = one(await bench("unit").where({ id: unit.id }).first("version"));
  await valueOf(
    await inPractice("decision.take", {
      unitId: unit.id,
      version,
      disposition: "scrap",
      route: null,
      why: "to see",
    }),
  );
  const score = await endExercise(technician, open!.id);
  expect(score).toMatchObject({ found: [hidden[0]!.place], missed: [hidden[1]!.place], wrong: [] });
  const { steps } = score.review;
  expect(steps!.map((x) => [x.act, x.id])).toEqual([["end", "scrap"]]);
  expect(score.lostMinor).toBe(steps!.reduce((sum, x) => sum + x.lostMinor, 0));
  expect(score.review.chosen).toBe("scrap");
  await expect(endExercise(technician, open!.id)).rejects.toMatchObject({ problem: { code: "already" } });
  expect((await exercisesOf(technician))[0]!.hidden).toEqual(hidden);
  expect(await db("event").count("* as n").first()).toEqual(before);
  expect(await db("unit").where({ seller: "practice" })).toEqual([]);
});

test("a case of the shop that came back can be taken again, its faults hidden", async () => {
  const u = await ready({ claim: "face south misses" });
  const { id: faultId } = await valueOf(
    await act("fault.add", {
      unitId: u.unitId,
      place: "face.south",
      kind: "misses",
      words: "",
      foundWhen: "test",
      claimed: true,
      measure: "decision",
      recordingId: null,
    }),
  );
  const mend = { unitId: u.unitId, faultId: faultId!, part: "", minutes: 5, remark: "", opened: true };
  await valueOf(
    await act("mend.add", {
      ...mend,
      what: "Cleaned",
      settlesFault: false,
      route: "clean-pads",
      outcome: "failed",
    }),
  );
  await valueOf(await act("mend.add", { ...mend, what: "New dome", settlesFault: true }));
  await fullTest(u.unitId);
  await answerAll(u.tag);
  await valueOf(await release(u.tag));
  expect(await hardCases(db)).toEqual([
    expect.objectContaining({
      tag: u.tag,
      claim: "face south misses",
      hidden: [{ place: "face.south", measure: "decision", part: "dome.face.south" }],
    }),
  ]);
  const { tag } = await beginExercise(technician, 3, "", u.tag);
  expect(one(await practiceDatabase()("unit").where({ tag }).first("claim")).claim).toBe("face south misses");
  await expect(beginExercise(technician, 3, "", "B-9999")).rejects.toMatchObject({
    problem: { code: "not-found" },
  });
  expect((await look(u.tag)).unit.ending).toBe("released");
});

test("when the workshop's people are others than those of the practice bench, it begins anew", async () => {
  await practiceDatabase()("person").where({ id: technician.id }).update({ name: "Somebody" });
  await practiceDatabase()("person").insert({ name: technician.name, role: "technician", password_hash: "" });
  await preparePractice();
  expect(await exercisesOf(technician)).toEqual([]);
  expect(await practiceDatabase()("person").orderBy("name").pluck("id")).toEqual(
    await db("person").orderBy("name").pluck("id"),
  );
});

test("the inside answers by what is hidden, the same question alike; a mend that reaches it takes it away", async () => {
  const { tag } = await beginExercise(technician, 1, "knot", null);
  const bench = practiceDatabase();
  const { id: unitId } = one(await bench("unit").where({ tag }).first("id"));
  const mine = () => bench("exercise").where({ unit_id: unitId });
  const place = "face.south";
  await mine().update({
    hidden: JSON.stringify([{ place, measure: "decision", part: "dome.face.south" }]),
  });
  const looked = await lookInside(technician, unitId, "look.dome.face.south");
  expect(await lookInside(technician, unitId, "look.dome.face.south")).toBe(looked);
  expect(await lookInside(technician, unitId, "test.face.south")).toBe("dead");
  expect(await lookInside(technician, unitId, "test.face.east")).toBe("works");
  const seen = await bench("observation").where({ unit_id: unitId }).orderBy("at").pluck("target");
  expect(seen).toEqual(["look.dome.face.south", "look.dome.face.south", "face.south", "face.east"]);
  await expect(lookInside(technician, unitId, "look.no-such-part")).rejects.toMatchObject({
    problem: { code: "not-found" },
  });
  const fault = await valueOf(
    await inPractice("fault.add", {
      unitId,
      place,
      kind: "misses",
      words: "",
      foundWhen: "test",
      measure: "decision",
      recordingId: null,
    }),
  );
  const mend = (route: string) =>
    inPractice("mend.add", {
      unitId,
      faultId: fault.id,
      what: "tried",
      part: "",
      minutes: 5,
      remark: "",
      opened: true,
      settlesFault: false,
      route,
      partMinor: 0,
    });
  const isBad = async () => place in ((await practiceFaults(bench, unitId))!.buttons ?? {});
  expect(await isBad()).toBe(true);
  // a way that does not act on a dome leaves it as it was, however often
  for (let i = 0; i < 3; i++) await valueOf(await mend("antenna-new"));
  expect(await isBad()).toBe(true);
  // one that does works as often as it is said to: of some tries one does
  for (let i = 0; i < 12 && (await isBad()); i++) await valueOf(await mend("dome-dear"));
  expect(await isBad()).toBe(false);
  const [open] = await exercisesOf(technician);
  const score = await endExercise(technician, open!.id);
  expect(score.review.held).toMatchObject([{ part: "dome.face.south" }]);
  expect(score.review.steps!.length).toBeGreaterThan(0);
});
