import { readFileSync } from "node:fs";
import { join } from "node:path";

import { analyse } from "../analyse/analyse";
import { graphOf } from "../diagnosis/graph";
import type { MappedControl } from "../input/input";
import { simulateFullTest } from "../simulate/run";
import { halfOf, halvesOf, likePlace, listedAs } from "./half";
import { controlsOf, type ModelProfile, profileMap, profileSchema, rulesOf } from "./profile";

const shipped = (id: string): ModelProfile =>
  profileSchema.parse(JSON.parse(readFileSync(join(__dirname, `../../../profiles/${id}.json`), "utf8")));
const pair = shipped("avocet");
const halves = halvesOf(pair);
const left = halves[0]!;
const right = halves[1]!;

test("a pair has two models of a half, each a profile by itself; one body has none, and a half none again", () => {
  expect(halves.map((h) => [h.id, h.name])).toEqual([
    ["avocet-left", "Avocet, left half"],
    ["avocet-right", "Avocet, right half"],
  ]);
  for (const h of halves) expect(profileSchema.parse(JSON.parse(JSON.stringify(h)))).toEqual(h);
  expect(halvesOf(shipped("dunlin"))).toEqual([]);
  expect(halvesOf(left)).toEqual([]);
  expect(() => halfOf(pair, "upper")).toThrow(TypeError);
  expect([listedAs(left), listedAs(pair)]).toEqual(["avocet", "avocet"]);
});

test("the two halves are the pair: nothing of it is lost, and nothing is in both", () => {
  const ids = (of: ModelProfile, list: (p: ModelProfile) => readonly { id: string }[]) =>
    list(of).map((x) => x.id);
  for (const list of [
    (p: ModelProfile) => p.controls,
    (p: ModelProfile) => p.functions,
    (p: ModelProfile) => p.guide!.fasteners,
    (p: ModelProfile) => p.guide!.cables,
    (p: ModelProfile) => p.guide!.pieces,
  ]) {
    const both = [...ids(left, list), ...ids(right, list)];
    expect(new Set(both).size).toBe(both.length);
    expect(both.sort()).toEqual([...ids(pair, list)].sort());
  }
  expect(left.power).toHaveLength(1);
  expect(left.accessories.map((a) => a.id)).toEqual(["strap.left"]);
  expect(right.accessories.map((a) => a.id)).toEqual(["strap.right"]);
});

test("a half opens by its own steps: none of the other half, and not by sliding the halves apart", () => {
  const steps = left.guide!.steps;
  expect(steps.find((s) => s.id === "l.fasteners")!.after).toEqual([]);
  expect(steps.some((s) => s.id === "apart" || s.id.startsWith("r."))).toBe(false);
  // what lies behind a slot of the left half is the same as in the pair, but for the other half's
  for (const s of left.slots!) expect(steps.some((x) => x.reaches.includes(s.id))).toBe(true);
  expect(left.guide!.surfaces.map((s) => s.id)).toEqual(
    expect.arrayContaining(["shell", "rail", "lkeys", "lboard"]),
  );
  expect(left.guide!.surfaces.some((s) => s.id === "rkeys" || s.id === "rboard")).toBe(false);
  expect(left.guide!.solder.flatMap((j) => j.slots).some((s) => s.includes("right"))).toBe(false);
  expect(left.guide!.calibration!.sticks).toEqual(["stick.left"]);
});

test("inside it rests on what it rests on in the pair", () => {
  const whole = graphOf(pair.wiring!, null);
  for (const h of halves) {
    const graph = graphOf(h.wiring!, null);
    for (const c of [...h.controls, ...h.functions]) {
      const names = (g: typeof graph) => (g.restsOn.get(c.id) ?? []).map((i) => g.nodes[i]!.id).sort();
      expect([c.id, names(graph)]).toEqual([c.id, names(whole)]);
    }
  }
});

test("its plan is as wide as its own outline, with all controls on it", () => {
  for (const h of halves) {
    expect(h.plan.width).toBeLessThan(pair.plan.width * 0.6);
    for (const c of h.controls) {
      expect(c.at.x).toBeGreaterThan(0);
      expect(c.at.x).toBeLessThan(h.plan.width);
    }
  }
});

test.each(halves.map((h) => [h.id, h] as const))("a healthy %s passes its full test", (_id, half) => {
  const controls = controlsOf(half, null) as MappedControl[];
  const r = simulateFullTest(controls, { seed: 7, rateHz: 60, bits: 10, faults: {} });
  const { analysis } = analyse(r, profileMap(half, null), rulesOf(half));
  expect(Object.entries(analysis.controls).filter(([, c]) => c.grade !== "A")).toEqual([]);
});

test.each([
  ["stick.left", "stick.right"],
  ["right.upper", "left.upper"],
  ["bumper.left", "bumper.right"],
  ["touch.right", "touch.left"],
])("what wears like %s is %s", (place, like) => {
  expect(likePlace(pair, place)).toBe(like);
});

test("what is there once has no like place", () => {
  expect(likePlace(pair, "latch")).toBeNull();
  expect(likePlace(pair, "no.such.place")).toBeNull();
});

test("a half that names no half's steps comes without a guide, and one without prices as if it were sold alone", () => {
  const plain: ModelProfile = {
    ...pair,
    guide: { ...pair.guide!, steps: pair.guide!.steps.map(({ half: _half, ...s }) => s) },
  };
  delete plain.halfMarket;
  const half = halfOf(plain, "left");
  expect(half.guide).toBeUndefined();
  expect(half.market).toBeUndefined();
  expect(half.half!.soldAlone).toBe(true);
});
