import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import { intakeSchema } from "@/contract/intake";
import type { Id } from "@/core/base/ids";
import { solve } from "@/features/decide/input";
import { decideView } from "@/features/decide/view";
import { doDeed } from "@/features/deeds";
import { loadSettings, loadTools } from "@/features/settings/settings";
import type { Actor } from "@/platform/deed/base";
import { benchOf, closeShop, openShop, valueOf } from "./shop";

/** What the shop does not do is not proposed, and Decide says which rule left it out. */

let db: Knex;
let lead: Actor;
let technician: Actor;
const { act, takeIn } = benchOf(() => ({ db, technician }));

beforeAll(async () => ({ db, lead, technician } = await openShop(16)), 120_000);
afterAll(() => closeShop(db));

const ruled = async (house: { copiesForSale?: boolean; sensorOnlyOnSound?: boolean }) => {
  const { settings, version } = await loadSettings(db);
  await valueOf(
    await doDeed(db, lead, "settings.save", randomUUID(), {
      version,
      settings: { ...settings, house: { copiesForSale: true, sensorOnlyOnSound: false, ...house } },
    }),
  );
};
async function drifting(intake: object = {}): Promise<Id<"unit">> {
  const { unitId } = await takeIn({
    profileKey: "dunlin",
    revision: "r1",
    intake: intakeSchema.parse(intake),
    origin: { source: "single", seller: "", priceMinor: 800, carriageMinor: 0 },
  });
  for (const [place, measure] of [
    ["stick.left", "restOffset"],
    ["stick.left.click", "decision"],
  ])
    await valueOf(
      await act("fault.add", {
        unitId,
        place: place!,
        kind: "bad",
        words: "",
        foundWhen: "test",
        measure: measure!,
        recordingId: null,
      }),
    );
  return unitId as Id<"unit">;
}
const adviceOn = async (unitId: Id<"unit">) => solve((await decideView(db, unitId)).input);
const makes = (advice: Awaited<ReturnType<typeof adviceOn>>) =>
  new Set(advice.options.flatMap((o) => o.route.part?.make ?? []));
const reasons = (advice: Awaited<ReturnType<typeof adviceOn>>, route: string) =>
  advice.skipped.filter((s) => s.route === route).map((s) => s.why);

test("copies are offered until the shop says that it sells none, and then only for what it keeps", async () => {
  const forSale = await drifting();
  const own = await drifting({ use: "own-testing" });
  expect([...makes(await adviceOn(forSale))].some((m) => m !== "original")).toBe(true);
  await ruled({ copiesForSale: false });
  const now = await adviceOn(forSale);
  expect([...makes(now)].filter((m) => m !== "original")).toEqual([]);
  expect(reasons(now, "module-dear")).toContain("house-copy");
  expect([...makes(await adviceOn(own))].some((m) => m !== "original")).toBe(true);
  await ruled({});
});

test("with a dead click new sensors are left out where the shop says so, and the whole stick is not", async () => {
  const unitId = await drifting();
  expect((await adviceOn(unitId)).options.some((o) => o.route.school === "sensor")).toBe(true);
  await ruled({ sensorOnlyOnSound: true });
  const now = await adviceOn(unitId);
  expect(now.options.some((o) => o.route.school === "sensor" && o.places.includes("stick.left"))).toBe(false);
  expect(reasons(now, "sensors-dear")).toContain("house-sensor");
  expect(now.options.some((o) => o.route.id.startsWith("module"))).toBe(true);
  await ruled({});
});

test("a tool that is neither owned nor stood in for leaves its routes out, with that reason", async () => {
  const unitId = await drifting();
  const { value, version } = await loadTools(db);
  const save = (tools: readonly string[], at: number) =>
    doDeed(db, lead, "tools.save", randomUUID(), { version: at, tools: [...tools] });
  await valueOf(
    await save(
      value.filter((t) => !t.startsWith("iron-")),
      version,
    ),
  );
  const now = await adviceOn(unitId);
  expect(now.options.some((o) => o.route.tools.includes("fine iron"))).toBe(false);
  expect(reasons(now, "module-dear")).toContain("tools");
  await valueOf(await save(value, version + 1));
});
