import { allOf, inTurn, oneOf } from "./lists";

test.each([
  [[], "", ""],
  [["a"], "a", "a"],
  [["a", "b"], "a and b", "a or b"],
  [["a", "b", "c"], "a and b and c", "a or b or c"],
])("%j in a sentence", (names, all, any) => {
  expect(allOf(names)).toBe(all);
  expect(oneOf(names)).toBe(any);
});

test("one after another", () => expect(inTurn(["clean", "calibrate"])).toBe("clean, then calibrate"));
