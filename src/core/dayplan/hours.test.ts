import { endOfDay, USUAL_HOURS, windowsFrom } from "./hours";

const EVERY_DAY = Array.from({ length: 7 }, (): [number, number][] => [[540, 600]]); // nine to ten

test.each([
  // by the day on which the clock changes: the spans in minutes from midnight UTC of the day before
  ["Europe/Dublin", "2026-10-24T00:00:00Z", [480, 1980, 3420]], // 9:00 is 8:00, then 9:00 UTC
  ["Europe/Dublin", "2026-03-28T00:00:00Z", [540, 1920, 3360]],
  ["Pacific/Auckland", "2026-09-25T12:00:00Z", [540, 1920, 3360]], // begins at midnight of the 26th there
  ["America/Lima", "2026-10-24T05:00:00Z", [540, 1980, 3420]], // no change at all
])("nine o'clock in %s is nine o'clock on each day from %s on", (zone, from, starts) =>
  expect(windowsFrom(EVERY_DAY, new Date(from), 3, zone)).toEqual(starts.map((s) => [s, s + 60])),
);

test("what is past is cut off, and a day off has no span", () => {
  const saturday = new Date("2026-11-28T10:00:00Z");
  expect(windowsFrom(USUAL_HOURS, saturday, 2, "Europe/Dublin")).toEqual([]);
  const monday = new Date("2026-11-30T10:00:00Z");
  expect(windowsFrom(USUAL_HOURS, monday, 1, "Europe/Dublin")).toEqual([
    [0, 180],
    [210, 450],
  ]);
});

test("the day's work ends by the shop's clock", () => {
  expect(endOfDay("2026-07-01", "Europe/Dublin").toISOString()).toBe("2026-07-01T16:30:00.000Z");
  expect(endOfDay("2026-12-01", "Europe/Dublin").toISOString()).toBe("2026-12-01T17:30:00.000Z");
});
