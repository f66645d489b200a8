import { minuteOf, segmentsOf, widthOf, xOf } from "./axis";

const segments = segmentsOf(
  [
    [0, 60],
    [30, 120],
    [900, 1000],
    [5000, 5100],
  ],
  2000,
);

test("hours that touch are one stretch, and what lies beyond is left out", () => {
  expect(segments.map((s) => [s.from, s.to])).toEqual([
    [0, 120],
    [900, 1000],
  ]);
});
test("a place leads back to its minute, in full fives", () => {
  for (const minute of [0, 45, 120, 905, 1000])
    expect(minuteOf(segments, xOf(segments, minute))).toBe(minute);
  expect(minuteOf(segments, xOf(segments, 47))).toBe(45);
});
test("a night is a narrow gap, and nothing falls into it", () => {
  expect(xOf(segments, 900) - xOf(segments, 120)).toBeLessThan(20);
  expect(xOf(segments, 500)).toBe(xOf(segments, 900));
  expect(xOf(segments, 99_999)).toBe(widthOf(segments));
  expect(minuteOf(segments, 1e6)).toBe(1000);
});
