import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { HOUSE_LIMITS } from "../grade/limits";
import type { MappedControl } from "../input/input";
import { analyse } from "../analyse/analyse";
import { simulateFullTest } from "../simulate/run";
import { controlsOf, functionsOf, type ModelProfile, profileMap, profileSchema, rulesOf } from "./profile";

const folder = join(__dirname, "../../../profiles");
const shipped = readdirSync(folder).map((f): ModelProfile =>
  profileSchema.parse(JSON.parse(readFileSync(join(folder, f), "utf8"))),
);
const byId = (id: string) => shipped.find((p) => p.id === id)!;

test("seven models ship, each valid", () => {
  expect(shipped.map((p) => p.id).sort()).toEqual([
    "avocet",
    "curlew",
    "dunlin",
    "knot",
    "sanderling",
    "turnstone",
    "whimbrel",
  ]);
});

test.each(shipped.map((p) => [p.id, p] as const))(
  "a healthy %s passes its full test with grade A",
  (_id, profile) => {
    const controls = controlsOf(profile, null) as MappedControl[];
    const r = simulateFullTest(controls, { seed: 11, rateHz: 100, bits: 10, faults: {} });
    const { analysis } = analyse(r, profileMap(profile, null), rulesOf(profile));
    expect(Object.entries(analysis.controls).filter(([, c]) => c.grade !== "A")).toEqual([]);
    expect(Object.keys(analysis.controls)).toHaveLength(controls.length);
  },
);

test("what a revision does not have is left out", () => {
  const turnstone = byId("turnstone");
  expect(functionsOf(turnstone, "a").some((f) => f.id === "haptic")).toBe(true);
  expect(functionsOf(turnstone, "b").some((f) => f.id === "haptic")).toBe(false);
});

test("limits: the model's change the house's, and what it does not name stays", () => {
  const limits = rulesOf(byId("turnstone")).limitsFor("stick.left");
  expect(limits.stick.restOffset.C).toBe(0.1);
  expect(limits.stick.reachMin).toEqual(HOUSE_LIMITS.stick.reachMin);
});

test.each([
  [{ format: "other" }, "format"],
  [{ version: 2 }, "version"],
  [{ controls: [] }, "controls"],
  [{ surprise: 1 }, ""],
])("a profile with %j is refused", (change, path) => {
  const parsed = profileSchema.safeParse({ ...byId("dunlin"), ...change });
  expect(parsed.success).toBe(false);
  expect(parsed.error!.issues[0]!.path.join(".")).toBe(path);
});

test("two controls with one id, and a revision that is not listed, are refused", () => {
  const dunlin = byId("dunlin");
  expect(
    profileSchema.safeParse({ ...dunlin, controls: [dunlin.controls[0], dunlin.controls[0]] }).success,
  ).toBe(false);
  const stray = { ...dunlin.controls[0]!, revisions: ["r9"] };
  expect(profileSchema.safeParse({ ...dunlin, controls: [stray] }).error!.issues[0]!.message).toContain(
    '"r9"',
  );
});
