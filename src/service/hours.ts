import "server-only";

import type { Hours } from "@/contract/mend";

/** Working hours by day of the week in the shop's own time, as moments. */

/** Monday to Friday, nine to one and half past one to half past five. */
export const USUAL_HOURS: Hours = [1, 1, 1, 1, 1, 0, 0].map((works): [number, number][] =>
  works
    ? [
        [540, 780],
        [810, 1050],
      ]
    : [],
);

type Local = { year: number; month: number; day: number; weekday: number };
function localDate(at: Date, timeZone: string): Local {
  const parts = Object.fromEntries(
    new Intl.DateTimeFormat("en-GB", { timeZone, year: "numeric", month: "2-digit", day: "2-digit", weekday: "short" })
      .formatToParts(at)
      .map((p) => [p.type, p.value]),
  );
  return {
    year: Number(parts.year),
    month: Number(parts.month),
    day: Number(parts.day),
    weekday: ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"].indexOf(parts.weekday!),
  };
}

/** The moment at which the shop's clock shows this minute of this day. */
function momentOf(d: Local, minute: number, timeZone: string): Date {
  const guess = Date.UTC(d.year, d.month - 1, d.day, 0, minute);
  const shown = Object.fromEntries(
    new Intl.DateTimeFormat("en-GB", {
      timeZone,
      year: "numeric",
      month: "2-digit",
      day: "2-digit",
      hour: "2-digit",
      minute: "2-digit",
      hourCycle: "h23",
    })
      .formatToParts(new Date(guess))
      .map((p) => [p.type, p.value]),
  );
  const offset =
    Date.UTC(Number(shown.year), Number(shown.month) - 1, Number(shown.day), Number(shown.hour), Number(shown.minute)) - guess;
  return new Date(guess - offset);
}

/** The working times of some days from a moment on, in minutes from it; what is past is cut off. */
export function windowsFrom(hours: Hours, from: Date, days: number, timeZone: string): [number, number][] {
  const windows: [number, number][] = [];
  for (let i = 0; i < days; i++) {
    const date = localDate(new Date(from.getTime() + i * 86_400_000), timeZone);
    for (const [a, b] of hours[date.weekday]!) {
      const start = Math.round((momentOf(date, a, timeZone).getTime() - from.getTime()) / 60_000);
      const end = Math.round((momentOf(date, b, timeZone).getTime() - from.getTime()) / 60_000);
      if (end > 0) windows.push([Math.max(0, start), end]);
    }
  }
  return windows.sort((a, b) => a[0] - b[0]);
}

/** The end of a day on the shop's clock. */
export const endOfDay = (isoDate: string, timeZone: string): Date => {
  const [year, month, day] = isoDate.split("-").map(Number);
  return momentOf({ year: year!, month: month!, day: day!, weekday: 0 }, 17 * 60 + 30, timeZone);
};
