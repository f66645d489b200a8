import { failsAtOnce } from "./surprise";

const grades = (bad: number, good: number, untested = 0) => [
  ...Array.from({ length: bad }, () => "fail" as const),
  ...Array.from({ length: good }, () => "B" as const),
  ...Array.from({ length: untested }, () => "untested" as const),
];

test("half of the controls and more failing at once puts the tester in doubt; fewer speak of the unit", () => {
  expect(failsAtOnce(grades(9, 9))).toEqual({ bad: 9, all: 18 });
  expect(failsAtOnce(grades(8, 10))).toBeNull();
});

test("what nobody measured counts on neither side, and a few controls tell nothing", () => {
  expect(failsAtOnce(grades(2, 1, 20))).toBeNull();
  expect(failsAtOnce(grades(3, 1, 20))).toEqual({ bad: 3, all: 4 });
});
