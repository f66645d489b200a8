import { readFileSync } from "node:fs";

import { seeded } from "../math/random";
import type { MappedControl } from "../input/input";
import { controlsOf, profileMap, profileSchema, rulesOf } from "../profile/profile";
import { analyse } from "../analyse/analyse";
import { simulateFullTest } from "../simulate/run";
import { canHide, toldOf, hideFaults, LEVELS, simulatedFaults } from "./hidden";
import { scoreOf } from "./score";

const models = ["turnstone", "knot"].map((m) =>
  profileSchema.parse(JSON.parse(readFileSync(`profiles/${m}.json`, "utf8"))),
);

test.each(LEVELS)(
  "level %i hides as many faults, on controls apart, and the full test shows each of them",
  (level) => {
    for (const [i, profile] of models.entries()) {
      const revision = profile.revisions[0]!.id;
      const hidden = hideFaults(profile, revision, level, seeded(level * 10 + i));
      expect(new Set(hidden.map((h) => h.place)).size).toBe(level);
      const controls = controlsOf(profile, revision) as MappedControl[];
      const map = profileMap(profile, revision);
      const recording = simulateFullTest(controls, {
        seed: 3,
        rateHz: 100,
        bits: 8,
        faults: simulatedFaults(profile, hidden),
      });
      const { analysis } = analyse(recording, map, rulesOf(profile));
      for (const h of hidden) {
        const result = analysis.controls[h.place]!;
        expect([h.place, h.measure, ["fail", "C"].includes(result.grade)]).toEqual([
          h.place,
          h.measure,
          true,
        ]);
      }
      const clean = controls.filter((c) => !hidden.some((h) => h.place === c.id));
      for (const c of clean) expect([c.id, analysis.controls[c.id]!.grade]).not.toEqual([c.id, "fail"]);
    }
  },
);

test("the seller tells less with each level", () => {
  const dunlin = models[0];
  const hidden = [{ place: "stick.left", measure: "restOffset" }];
  expect(LEVELS.map((l) => toldOf(dunlin!, hidden, l))).toEqual([
    {
      code: "fault",
      measure: "restOffset",
      control: expect.objectContaining({ id: "stick.left" }) as unknown,
    },
    { code: "something", control: expect.objectContaining({ id: "stick.left" }) as unknown },
    { code: "nothing" },
  ]);
  expect(
    canHide(
      dunlin!.controls.find((c) => c.id === "stick.left"),
      "restOffset",
    ),
  ).toBe(true);
  expect(
    canHide(
      dunlin!.controls.find((c) => c.id === "stick.left"),
      "fullPull",
    ),
  ).toBe(false);
  expect(canHide(undefined, "restOffset")).toBe(false);
});

describe("the score", () => {
  const hidden = [
    { place: "stick.left", measure: "restOffset" },
    { place: "face.south", measure: "decision" },
  ];
  const best = {
    hidden,
    named: ["stick.left", "face.south"],
    minutes: 9,
    bestMinutes: 9,
    chosenMinor: 1200,
    bestMinor: 1200,
    stepsLostMinor: null,
  };
  test("is full for every cause, the best decision and no more time than it takes", () =>
    expect(scoreOf(best).points).toBe(100));
  test("falls with a cause missed, one named wrongly, money lost and time spent", () => {
    expect(scoreOf({ ...best, named: ["stick.left"] })).toMatchObject({ points: 75, missed: ["face.south"] });
    expect(scoreOf({ ...best, named: [...best.named, "pad.up"] })).toMatchObject({
      wrong: ["pad.up"],
      points: 88,
    });
    expect(scoreOf({ ...best, chosenMinor: 600 })).toMatchObject({ lostMinor: 600, points: 88 });
    expect(scoreOf({ ...best, minutes: 18 }).points).toBe(88);
  });
  test("nothing done earns nothing, however quick", () =>
    expect(scoreOf({ ...best, named: [], minutes: 0, chosenMinor: null }).points).toBe(0));
});
