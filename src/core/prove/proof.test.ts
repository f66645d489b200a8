import { careFor } from "./care";
import { coversOf, isCovered, usualPartDays } from "./cover";
import {
  HOUSE_PROVE,
  judgeProof,
  NOTHING_ASKED,
  proofBlocks,
  proofSheet,
  type Proving,
  triggersOf,
} from "./proof";
import { daysLater } from "@/core/days/days";

const at = (day: number, hour = 9) => new Date(Date.UTC(2026, 10, day, hour));

describe("the complaint's own trigger", () => {
  test.each([
    ["left stick drifts to the left", ["slow"]],
    ["works only when tilted", ["angle"]],
    ["cuts out when the cable is touched", ["angle", "tug", "tap"]],
    ["misses after half an hour of play", ["warm"]],
    ["face east when pressed on the side of it", ["rim"]],
    ["trigger stays silent", ["as-told"]],
    ["untested", []],
    ["works, kept as a reference", []],
    ["works fine, selling because upgraded", []],
    ["", []],
  ])("%j asks for %j", (claim, triggers) => expect(triggersOf(claim)).toEqual(triggers));
});

test("the sheet asks for what the unit has and how it came, nothing else", () => {
  const unit = {
    claims: [""],
    grime: ["none"],
    hygiene: ["none"],
    smell: ["none"],
    rattle: ["none"],
    fell: false,
    cellsOut: null,
    cleanedByOrder: false,
    radio: false,
    builtInCell: false,
  } as const;
  const keys = (change: object) => proofSheet({ ...unit, ...change }).map((i) => i.key);
  expect(keys({})).toEqual(["silence", "last-look"]);
  expect(keys({ claims: ["stick drifts"], radio: true, builtInCell: true, grime: ["strong"] })).toEqual([
    "trigger.slow",
    "silence",
    "cleaned",
    "last-look",
    "bond",
    "storage",
  ]);
  expect(keys({ grime: ["strong"], cleanedByOrder: true })).toEqual(["silence", "last-look"]);
  expect(keys({ hygiene: ["slight", "none"] })).toEqual(["silence", "cleaned", "last-look"]);
  // what was told and seen at the door comes back: a fall is knocked, a rattle listened for, cells put back
  expect(keys({ rattle: ["plastic", "none"], fell: true, cellsOut: "lid 3" })).toEqual([
    "trigger.tap",
    "silence",
    "rattle",
    "last-look",
    "cells",
  ]);
  // what was written over at the door is still asked
  expect(keys({ claims: ["works only when tilted", ""], smell: ["strong", "none"] })).toEqual([
    "trigger.angle",
    "silence",
    "cleaned",
    "last-look",
  ]);
});

test("a complaint's own words are the reason where both a complaint and a fall ask for it", () => {
  const asks = {
    grime: [],
    hygiene: [],
    smell: [],
    rattle: [],
    fell: true,
    cellsOut: null,
    cleanedByOrder: false,
  } as const;
  const whole = { ...asks, radio: false, builtInCell: false };
  const whyOf = (claims: string[]) => proofSheet({ ...whole, claims })[0]!.why;
  expect(whyOf(["rattles when shaken"])).toEqual({ code: "claim", words: "rattles when shaken" });
  expect(whyOf([""])).toEqual({ code: "fell" });
});

test("the charge is judged by its figure, not by what was said", () => {
  expect(judgeProof("storage", 0.45, "fail", HOUSE_PROVE)).toBe("pass");
  expect(judgeProof("storage", 0.95, "pass", HOUSE_PROVE)).toBe("fail");
  expect(judgeProof("storage", null, "pass", HOUSE_PROVE)).toBe("cannot");
  expect(judgeProof("silence", null, "fail", HOUSE_PROVE)).toBe("fail");
});

describe("what still blocks", () => {
  const proving = (change: Partial<Proving>): Proving => ({ ...NOTHING_ASKED, ...change });
  const tested = (day: number, tester = "simulated bench", by = "oona") => ({
    startedAt: at(day),
    tester,
    by,
  });
  const sheet = proofSheet({
    claims: [""],
    grime: ["none"],
    hygiene: ["none"],
    smell: ["none"],
    rattle: ["none"],
    fell: false,
    cellsOut: null,
    cleanedByOrder: false,
    radio: false,
    builtInCell: false,
  });
  const answer = (key: string, day: number, result: "pass" | "fail" | "cannot" = "pass") => ({
    key,
    result,
    value: null,
    at: at(day),
  });

  test("a line that nobody answered, failed or could not do; an answer before the last mend is none", () => {
    expect(proofBlocks(proving({ sheet }), null, [tested(5)], null)).toEqual([
      { code: "proof", key: "silence", result: "not-done" },
      { code: "proof", key: "last-look", result: "not-done" },
    ]);
    const answers = [answer("silence", 6, "cannot"), answer("last-look", 6)];
    expect(proofBlocks(proving({ sheet, answers }), null, [tested(5)], null)).toEqual([
      { code: "proof", key: "silence", result: "cannot" },
    ]);
    expect(proofBlocks(proving({ sheet, answers }), null, [tested(8)], at(7))).toHaveLength(2);
  });

  test("a mend for now waits for a second full test, well apart from the first", () => {
    const p = proving({ unsure: [{ what: "provisional", number: 2, since: at(3) }] });
    const block = { code: "second-test", what: "provisional", number: 2 };
    expect(proofBlocks(p, null, [], at(3))).toEqual([{ ...block, due: null }]);
    expect(proofBlocks(p, null, [tested(4)], at(3))).toEqual([{ ...block, due: at(7) }]);
    expect(proofBlocks(p, null, [tested(4), tested(5)], at(3))).toEqual([{ ...block, due: at(7) }]);
    expect(proofBlocks(p, null, [tested(4), tested(7)], at(3))).toEqual([]);
  });

  test("another tester than the baseline's needs a reference unit that vouches for it", () => {
    const other = tested(9, "gamepad other");
    const reference = (day: number, grade: "A" | "fail", tester = "gamepad other") => ({
      tester,
      at: at(day),
      grade,
    });
    const codes = (references: Proving["references"]) =>
      proofBlocks(proving({ references }), tested(2), [other], null).map((b) => b.code);
    expect(codes([])).toEqual(["other-tester"]);
    expect(codes([reference(9, "A")])).toEqual([]);
    expect(codes([reference(3, "A")])).toEqual(["other-tester"]);
    expect(codes([reference(9, "A", "simulated bench")])).toEqual(["other-tester"]);
  });

  test("a reference unit that failed last puts the bench in doubt until one passes", () => {
    const references = [{ tester: "simulated bench", at: at(4), grade: "fail" as const }];
    expect(proofBlocks(proving({ references }), tested(2), [tested(9)], null)).toEqual([
      { code: "bench-doubt", at: at(4) },
    ]);
    const again = [...references, { tester: "simulated bench", at: at(9), grade: "B" as const }];
    expect(proofBlocks(proving({ references: again }), tested(2), [tested(9)], null)).toEqual([]);
  });

  test("with a second pair of hands asked for, the one who mended does not prove", () => {
    const p = proving({ menders: ["oona"], rules: { ...HOUSE_PROVE, otherHand: true } });
    expect(proofBlocks(p, null, [tested(5)], null)).toEqual([{ code: "same-hand", person: "oona" }]);
    expect(proofBlocks(p, null, [tested(5, "simulated bench", "bram")], null)).toEqual([]);
    expect(proofBlocks(proving({ menders: ["oona"] }), null, [tested(5)], null)).toEqual([]);
  });

  test("a fault at which a customer was not asked", () =>
    expect(proofBlocks(proving({ unasked: [2] }), null, [tested(5)], null)).toEqual([
      { code: "customer", number: 2 },
    ]));
});

describe("cover", () => {
  const covers = coversOf({
    handedOn: "2026-02-20",
    unitDays: 10,
    parts: [{ id: "p1", name: "left stick", days: 30 }],
  });
  test("runs from the handover, over the end of a month", () => {
    expect(daysLater("2026-02-20", 10)).toBe("2026-03-02");
    expect(covers.map((c) => [c.what, c.until])).toEqual([
      ["unit", "2026-03-02"],
      ["part", "2026-03-22"],
    ]);
    expect(coversOf({ handedOn: "2026-02-20", unitDays: 0, parts: [] })).toEqual([]);
  });
  test("a used part has the house's shorter days, and none at all when it says nought", () => {
    const rules = { partWarrantyDays: 180, usedPartWarrantyDays: 60 };
    expect([usualPartDays(false, rules), usualPartDays(true, rules)]).toEqual([180, 60]);
    const none = coversOf({
      handedOn: "2026-02-20",
      unitDays: 10,
      parts: [{ id: "p1", name: "dome", days: 0 }],
    });
    expect(none.map((c) => c.what)).toEqual(["unit"]);
  });
  test("the one that ends first stands first, also when it is a part", () => {
    const mixed = coversOf({
      handedOn: "2026-01-01",
      unitDays: 90,
      parts: [
        { id: "long", name: "module", days: 365 },
        { id: "short", name: "dome", days: 30 },
      ],
    });
    expect(mixed.map((c) => c.fittedId)).toEqual(["short", null, "long"]);
    // a part may be out of its cover while the unit's still runs: then the unit's holds
    expect(isCovered(mixed, "2026-02-15", "short")).toBe(true);
    expect(isCovered(mixed, "2026-06-01", "short")).toBe(false);
    expect(isCovered(mixed, "2026-06-01", "long")).toBe(true);
  });
  test("a part outlasts the unit's own cover only for itself", () => {
    expect(isCovered(covers, "2026-03-02", null)).toBe(true);
    expect(isCovered(covers, "2026-03-03", null)).toBe(false);
    expect(isCovered(covers, "2026-03-03", "p1")).toBe(true);
    expect(isCovered(covers, "2026-03-23", "p1")).toBe(false);
  });
});

test("care advice follows the cause first, each once", () =>
  expect(
    careFor({
      causes: ["liquid", "dirt"],
      histories: ["teeth", "liquid", "sudden"],
      families: ["button-dome", "port"],
      power: ["built-in"],
    }),
  ).toEqual(["dry-away", "no-food", "out-of-reach-of-teeth", "plug-straight", "store-half-full"]));
