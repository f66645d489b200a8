import type { Knex } from "knex";

import { one } from "@/core/base/one";
import { adviceFor, keptAdvice } from "@/features/decide/kept";
import { decideInput } from "@/features/decide/input";
import { nextView } from "@/features/decide/next";
import { findView } from "@/features/find/view";
import { modelById } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { unitView } from "@/features/units/view";
import type { Id } from "@/core/base/ids";
import type { Actor } from "@/platform/deed/base";
import { benchOf, closeShop, openShop, valueOf } from "./shop";

/** One next act for Find and Decide, kept until a fact changes it. */

let db: Knex;
let technician: Actor;
const { act, takeIn, fullTest } = benchOf(() => ({ db, technician }));

beforeAll(async () => ({ db, technician } = await openShop(12)), 120_000);
afterAll(() => closeShop(db));

async function inputOf(unitId: string) {
  const unit = one(await db("unit").where({ id: unitId }).first());
  const { settings } = await loadSettings(db);
  return decideInput(db, { unit, profile: await modelById(db, unit.profile_id), settings });
}
const idOf = (unitId: string) => unitId as Id<"unit">;
async function missing(): Promise<{ unitId: string; tag: string }> {
  const made = await takeIn({ claim: "bottom face button misses" });
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

test("without a named fault there is nothing to weigh a check against", async () => {
  const { unitId } = await takeIn({ claim: "" });
  expect(await nextView(db, idOf(unitId))).toBeNull();
});

test("what is advised is kept, with its age, until a fact changes what it rests on", async () => {
  const { unitId } = await missing();
  const before = await inputOf(unitId);
  expect(keptAdvice(idOf(unitId), before)).toBeNull();
  const [first, same] = await Promise.all([
    adviceFor(idOf(unitId), before),
    adviceFor(idOf(unitId), await inputOf(unitId)),
  ]);
  expect(same).toBe(first); // asked twice, worked out once
  const kept = one(keptAdvice(idOf(unitId), await inputOf(unitId)));
  expect([kept.fresh, kept.at]).toEqual([true, first.at.toISOString()]);

  // the row behind the key is seen cracked: the old answer stays to be shown, told as old
  for (const finding of ["torn", "cracked-joint"])
    await valueOf(
      await act("find.observe", {
        unitId,
        kind: "place",
        target: "row.face",
        outcome: finding,
        value: null,
        note: "",
      } as never),
    );
  const after = await inputOf(unitId);
  const old = one(keptAdvice(idOf(unitId), after));
  expect([old.fresh, old.at]).toEqual([false, first.at.toISOString()]);
  const anew = await adviceFor(idOf(unitId), after);
  expect(anew).not.toBe(first);
  // a bridge of wire hardly helped a worn dome; now it is what helps
  const bridge = (a: typeof anew) =>
    a.advice.options.find((o) => o.route.id === "wire-bridge")?.chance.mean ?? 0;
  expect(bridge(first)).toBeLessThan(0.3);
  expect(bridge(anew)).toBeGreaterThan(0.5);
});

test("the checks that are weighed are among those that Find proposes, and what was answered is not asked again", async () => {
  const { unitId, tag } = await missing();
  const next = one(await nextView(db, idOf(unitId)));
  const wanted = next.checks;
  expect(wanted.length).toBeGreaterThan(3);
  const view = one(await unitView(db, tag, technician));
  const proposed = one(await findView(db, view, wanted)).advice.proposals.map((p) => p.check.id);
  for (const id of wanted) expect(proposed).toContain(id);

  const [asked] = next.checks;
  const check = one(one(await findView(db, view, wanted)).advice.proposals.find((p) => p.check.id === asked));
  await act("find.observe", {
    unitId,
    kind: check.check.kind === "test" ? "function" : "check",
    target: check.check.kind === "test" ? check.check.target : check.check.id,
    outcome: check.outcomes[1]!.code,
    value: null,
    note: "",
  } as never);
  const later = one(await nextView(db, idOf(unitId)));
  expect(later.digest).not.toBe(next.digest);
  expect(later.checks).not.toContain(asked);
});

test("every act is of value by what it leads to: the first of them is the advice itself", async () => {
  const { unitId } = await missing();
  const { advice } = await adviceFor(idOf(unitId), await inputOf(unitId));
  const values = advice.acts.map((a) => a.value);
  expect([...values].sort((a, b) => b - a)).toEqual(values);
  expect(advice.upper).toBeGreaterThanOrEqual(advice.value - 1e-6);
  if (advice.best === "mend") expect(advice.acts[0]!.value).toBeCloseTo(advice.value, 6);
});
