import { dayOf, daysLater, momentOf, weekdayOf } from "@/core/days/days";

/** Working hours by day of the week on the shop's clock, as minutes from a moment. */

/** Of each day from Monday on, the spans that are worked, in minutes of the day. */
export type Hours = readonly (readonly (readonly [number, number])[])[];

/** Monday to Friday, nine to one and half past one to half past five. */
export const USUAL_HOURS: [number, number][][] = [1, 1, 1, 1, 1, 0, 0].map((works): [number, number][] =>
  works
    ? [
        [540, 780],
        [810, 1050],
      ]
    : [],
);
const USUAL_END = 17 * 60 + 30;

/** The spans that are worked on some days from a moment on, in minutes from it; what is past is cut off. */
export function windowsFrom(hours: Hours, from: Date, days: number, zone: string): [number, number][] {
  const today = dayOf(from, zone);
  const minutes = (day: string, minute: number) =>
    Math.round((momentOf(day, minute, zone).getTime() - from.getTime()) / 60_000);
  const windows: [number, number][] = [];
  for (let i = 0; i < days; i++) {
    const day = daysLater(today, i);
    for (const [a, b] of hours[weekdayOf(day)] ?? []) {
      const end = minutes(day, b);
      if (end > 0) windows.push([Math.max(0, minutes(day, a)), end]);
    }
  }
  return windows.sort((a, b) => a[0] - b[0]);
}

/** When the work of a day is over, as the house works. */
export const endOfDay = (day: string, zone: string): Date => momentOf(day, USUAL_END, zone);
