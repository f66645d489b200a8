import fc from "fast-check";

import { dayOf, daysBetween, daysLater, isZone, momentOf, startOf, weekdayOf } from "./days";

/**
 * Known answers worked out by hand from the zones' rules; three zones, both changes of the clock, and where
 * none is.
 */

const [DUBLIN, AUCKLAND, LIMA] = ["Europe/Dublin", "Pacific/Auckland", "America/Lima"];
const at = (iso: string) => new Date(iso);

test.each([
  ["2026-11-28T23:30:00Z", DUBLIN, "2026-11-28"],
  ["2026-11-28T23:30:00Z", AUCKLAND, "2026-11-29"], // 12:30 on the next day
  ["2026-11-29T02:30:00Z", LIMA, "2026-11-28"], // half past nine in the evening before
  ["2026-06-30T23:30:00Z", DUBLIN, "2026-07-01"], // an hour ahead in summer
])("at %s the clock in %s shows %s", (moment, zone, day) => expect(dayOf(at(moment), zone)).toBe(day));

test.each([
  // the clock goes from 1:00 to 2:00 on 29 March in Dublin, and from 2:00 back to 1:00 on 25 October
  ["2026-03-28", 540, DUBLIN, "2026-03-28T09:00:00.000Z"],
  ["2026-03-29", 540, DUBLIN, "2026-03-29T08:00:00.000Z"],
  ["2026-10-25", 540, DUBLIN, "2026-10-25T09:00:00.000Z"],
  ["2026-10-24", 1440, DUBLIN, "2026-10-24T23:00:00.000Z"],
  ["2026-10-25", 1440, DUBLIN, "2026-10-26T00:00:00.000Z"], // a day of 25 hours
  // 5 April: 3:00 back to 2:00 in Auckland; 27 September: 2:00 to 3:00
  ["2026-04-05", 540, AUCKLAND, "2026-04-04T21:00:00.000Z"],
  ["2026-04-04", 540, AUCKLAND, "2026-04-03T20:00:00.000Z"],
  ["2026-09-27", 540, AUCKLAND, "2026-09-26T20:00:00.000Z"],
  ["2026-11-28", 0, LIMA, "2026-11-28T05:00:00.000Z"],
])("%s, minute %d in %s is %s", (day, minute, zone, moment) =>
  expect(momentOf(day, minute, zone).toISOString()).toBe(moment),
);

test("a minute that the clock skips is as much later", () => {
  expect(momentOf("2026-03-29", 90, DUBLIN).toISOString()).toBe("2026-03-29T01:30:00.000Z"); // the clock shows 2:30
});

test("days are counted as a calendar does, over leap days and changes of the clock", () => {
  expect(daysLater("2028-02-28", 1)).toBe("2028-02-29");
  expect(daysLater("2026-03-28", 2)).toBe("2026-03-30");
  expect(daysLater("2026-01-01", -1)).toBe("2025-12-31");
  expect(daysBetween("2026-10-24", "2026-10-26")).toBe(2);
  expect(weekdayOf("2026-11-28")).toBe(5); // a Saturday
  expect(isZone("Europe/Dublin")).toBe(true);
  expect(isZone("Europe/Nowhere")).toBe(false);
});

const zone = fc.constantFrom(DUBLIN, AUCKLAND, LIMA, "Asia/Kathmandu", "America/St_Johns", "Pacific/Apia");
const moment = fc.date({ min: at("2000-01-01"), max: at("2099-12-31"), noInvalidDate: true });

test("every moment lies in its day: not before its start, and before the next one's", () => {
  fc.assert(
    fc.property(moment, zone, (m, z) => {
      const day = dayOf(m, z);
      expect(startOf(day, z).getTime()).toBeLessThanOrEqual(m.getTime());
      expect(m.getTime()).toBeLessThan(startOf(daysLater(day, 1), z).getTime());
    }),
  );
});

test("days there and back again are the same day, and their number is what was added", () => {
  fc.assert(
    fc.property(moment, fc.integer({ min: -4000, max: 4000 }), (m, n) => {
      const day = dayOf(m, "UTC");
      expect(daysLater(daysLater(day, n), -n)).toBe(day);
      expect(daysBetween(day, daysLater(day, n))).toBe(n);
      expect(weekdayOf(daysLater(day, 7 * n))).toBe(weekdayOf(day));
    }),
  );
});
