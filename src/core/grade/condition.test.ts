import { conditionOf } from "./condition";

const of = (kinds: string[], more: object = {}) =>
  conditionOf({ marks: kinds.map((kind) => ({ kind })), smell: "none", cleaned: false, damages: 0, ...more });

test.each([
  [[], "fine"],
  [["scratch"], "light"],
  [["scratch", "scuff", "scuff"], "marked"],
  [["scratch", "scratch", "scratch", "scratch", "scratch", "scuff"], "worn"],
  [["crack"], "worn"],
  [["label-glue"], "marked"],
])("marks %j are %s", (kinds, condition) => expect(of(kinds).condition).toBe(condition));

test("what was cleaned away counts no more, a crack still does", () => {
  expect(of(["sticky", "label-glue"], { cleaned: true, smell: "strong" })).toEqual({
    condition: "fine",
    reasons: [],
  });
  expect(of(["sticky", "crack"], { cleaned: true }).condition).toBe("worn");
});

test("damage of our own and a smell are never better than marked, and each rule is told with its count", () => {
  expect(of([], { damages: 2 })).toEqual({
    condition: "marked",
    reasons: [{ rule: "shop-damage", count: 2 }],
  });
  expect(of(["scratch"], { smell: "slight" }).condition).toBe("marked");
});
