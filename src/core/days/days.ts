import { DateTime, IANAZone } from "luxon";

/**
 * The shop's days and its clock, by the zone rules of the tz database (luxon on the platform's Intl). A
 * moment is a Date; a day is YYYY-MM-DD on the shop's clock, and no moment. The only place that turns one
 * into the other.
 */

/** YYYY-MM-DD. */
export type Day = string;

export const isZone = (zone: string): boolean => IANAZone.isValidZone(zone);

/** The day that the shop's clock shows at a moment. */
export const dayOf = (at: Date, zone: string): Day =>
  DateTime.fromJSDate(at, { zone }).toFormat("yyyy-MM-dd");

/** A number of days after a day; before it when negative. */
export const daysLater = (day: Day, days: number): Day =>
  DateTime.fromISO(day, { zone: "utc" }).plus({ days }).toFormat("yyyy-MM-dd");

/** Whole days from one day to another; negative when that was earlier. */
export const daysBetween = (from: Day, to: Day): number =>
  DateTime.fromISO(to, { zone: "utc" }).diff(DateTime.fromISO(from, { zone: "utc" }), "days").days;

/** The first moment of a day: midnight, or what follows it where the clock skips midnight. */
export const startOf = (day: Day, zone: string): Date =>
  DateTime.fromISO(day, { zone }).startOf("day").toJSDate();

/**
 * The moment at which the shop's clock shows a minute of a day, 0 to 1440; what the clock skips is as much
 * later.
 */
export function momentOf(day: Day, minute: number, zone: string): Date {
  if (minute >= 1440) return startOf(daysLater(day, 1), zone);
  return DateTime.fromISO(day, { zone })
    .set({ hour: Math.floor(minute / 60), minute: minute % 60, second: 0, millisecond: 0 })
    .toJSDate();
}

/** Monday is 0. */
export const weekdayOf = (day: Day): number => DateTime.fromISO(day, { zone: "utc" }).weekday - 1;
