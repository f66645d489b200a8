import fc from "fast-check";

import { keptOf } from "./retention";

const at = (text: string) => new Date(`${text}Z`);
const texts = (dates: Date[]) => dates.map((d) => d.toISOString().slice(0, 16));

test("the newest of a day stands for it; older days give way to weeks, and weeks to months", () => {
  const nights = Array.from(
    { length: 400 },
    (_, i) => new Date(at("2026-11-28T03:00").getTime() - i * 24 * 3600_000),
  );
  const kept = texts(keptOf([...nights, at("2026-11-27T12:00")]));
  expect(kept.slice(0, 7)).toEqual([
    "2026-11-28T03:00",
    "2026-11-27T12:00",
    "2026-11-26T03:00",
    "2026-11-25T03:00",
    "2026-11-24T03:00",
    "2026-11-23T03:00",
    "2026-11-22T03:00",
  ]);
  // Sundays end the weeks before, the last nights end the months before
  expect(kept.slice(7)).toEqual([
    "2026-11-15T03:00",
    "2026-11-08T03:00",
    "2026-11-01T03:00",
    "2026-10-31T03:00",
    "2026-09-30T03:00",
    "2026-08-31T03:00",
    "2026-07-31T03:00",
    "2026-06-30T03:00",
    "2026-05-31T03:00",
    "2026-04-30T03:00",
    "2026-03-31T03:00",
    "2026-02-28T03:00",
    "2026-01-31T03:00",
    "2025-12-31T03:00",
  ]);
});

test("none, and one that is years old", () => {
  expect(keptOf([])).toEqual([]);
  expect(texts(keptOf([at("2020-01-01T00:00")]))).toEqual(["2020-01-01T00:00"]);
});

test("always the newest, never more than asked, and a second pass throws nothing more away", () => {
  fc.assert(
    fc.property(
      fc.array(fc.date({ min: at("2020-01-01T00:00"), max: at("2030-01-01T00:00"), noInvalidDate: true }), {
        minLength: 1,
        maxLength: 80,
      }),
      (taken) => {
        const kept = keptOf(taken);
        expect(kept[0]!.getTime()).toBe(Math.max(...taken.map((t) => t.getTime())));
        expect(kept.length).toBeLessThanOrEqual(7 + 5 + 12);
        expect(keptOf(kept).map(Number)).toEqual(kept.map(Number));
      },
    ),
  );
});
