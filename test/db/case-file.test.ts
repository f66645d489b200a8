import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

import type { Knex } from "knex";

import { one } from "@/core/base/one";
import { type AdviceFile, adviceFileSchema, caseFileSchema } from "@/core/casefile/format";
import { adviceOn, caseFileByTag } from "@/features/decide/next";
import type { Actor } from "@/platform/deed/base";
import { benchOf, closeShop, openShop, valueOf } from "./shop";

/** A unit as a case file: what the command prints for it is what the pages of the unit show. */

let db: Knex;
let technician: Actor;
const { act, takeIn, fullTest } = benchOf(() => ({ db, technician }));
const dir = mkdtempSync(join(tmpdir(), "birdcage-case-"));

beforeAll(async () => ({ db, technician } = await openShop(14)), 120_000);
afterAll(() => closeShop(db));

const COMMAND = ["--import", "tsx", "src/cli/advise.ts"];
function printed(file: object | null): AdviceFile {
  const path = join(dir, "case.json");
  writeFileSync(path, JSON.stringify(file));
  const out = execFileSync(process.execPath, [...COMMAND, path], { encoding: "utf8" });
  return adviceFileSchema.parse(JSON.parse(out));
}

async function missing(): Promise<{ unitId: string; tag: string }> {
  const made = await takeIn({ claim: "bottom face button misses since it was dropped" });
  await fullTest(made.unitId, { bad: true });
  await valueOf(
    await act("fault.add", {
      unitId: made.unitId,
      place: "face.south",
      kind: "misses",
      words: "",
      foundWhen: "test",
      measure: "decision",
      recordingId: null,
    }),
  );
  return made;
}
const see = async (unitId: string, target: string, outcome: string) =>
  valueOf(await act("find.observe", { unitId, kind: "place", target, outcome, value: null, note: "" }));

/** What the pages work with, in the terms of the file. */
async function shown(tag: string) {
  const { advice } = one(await adviceOn(db, tag));
  const [first] = advice.acts;
  const checks = advice.checks[first!.index];
  return {
    value: advice.value,
    best: advice.best,
    next: first!.do === "check" ? checks!.id : advice.options[first!.index]?.route.id,
    loss: advice.spread.loss,
  };
}

test("the command prints for a unit's file what its pages show, before and after a new fact", async () => {
  const { unitId, tag } = await missing();
  for (const seen of [null, "torn"]) {
    if (seen) await see(unitId, "row.face", seen);
    const file = await caseFileByTag(db, tag);
    // what is handed on is whole: it reads again as what it was
    expect(caseFileSchema.parse(JSON.parse(JSON.stringify(file)))).toEqual(JSON.parse(JSON.stringify(file)));
    const out = printed(file);
    const page = await shown(tag);
    expect(out.expectedMinor).toBeCloseTo(page.value, 6);
    expect(out.lossChance).toBeCloseTo(page.loss, 9);
    expect(out.disposition).toBe(page.best);
    expect(out.next?.route ?? out.next?.id).toBe(page.next);
  }
}, 120_000);

test("what was looked at is in the file, and looking again is no act any more", async () => {
  const { unitId, tag } = await missing();
  const before = printed(await caseFileByTag(db, tag));
  const look = one(before.acts.find((a) => a.act === "check" && a.id.startsWith("look.")));
  await see(unitId, look.place!, "sound");
  const after = printed(await caseFileByTag(db, tag));
  expect(after.acts.map((a) => a.id)).not.toContain(look.id);
  const share = (a: AdviceFile) =>
    a.causes.filter((c) => c.parts.includes(look.place!)).reduce((s, c) => s + c.probability, 0);
  expect(share(after)).toBeLessThan(share(before));
}, 120_000);

test("a file that cannot be read is one line and exit 2: none, no JSON, a control that the model has not", async () => {
  const { tag } = await missing();
  const file = one(await caseFileByTag(db, tag));
  const run = (text: string | null) => {
    const path = join(dir, "bad.json");
    if (text !== null) writeFileSync(path, text);
    const { status, stderr, stdout } = spawnSync(
      process.execPath,
      [...COMMAND, ...(text === null ? [] : [path])],
      { encoding: "utf8" },
    );
    expect(stdout).toBe("");
    expect(stderr.trim().split("\n")).toHaveLength(1);
    return [status, stderr];
  };
  expect(run(null)).toEqual([2, expect.stringContaining("Name one case")]);
  expect(run("{")).toEqual([2, expect.stringContaining("not valid")]);
  const lost = { kind: "works", place: "face.nowhere", at: "2026-11-02T09:00:00Z" };
  expect(run(JSON.stringify({ ...file, facts: [lost] }))).toEqual([
    2,
    expect.stringContaining("face.nowhere"),
  ]);
}, 120_000);
