import type { Settings } from "@/contract/deeds";
import { say } from "@/words/kit";

export { count, figure, figuresAsIn, localeOfFigures, mark } from "@/words/figures";

/**
 * Dates and money by the shop's locale: the only place that formats them. Figures are written in
 * words/figures.
 */

export type Shop = Pick<Settings, "locale" | "timeZone" | "currency">;

/** A figure as it stands in a field to be typed over: any locale's field reads it. */
export const typedFigure = (value: number, places: number): string => value.toFixed(places);
/** An amount as it stands in a field to be typed over: any locale's field reads it. */
export const typedAmount = (minor: number | null | undefined): string =>
  minor == null ? "" : (minor / 100).toFixed(2);

export const money = (minor: number | null, { locale, currency }: Shop): string =>
  minor === null
    ? say("notStated")
    : new Intl.NumberFormat(locale, { style: "currency", currency }).format(minor / 100);

const dated = (shop: Shop, iso: string, options: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat(shop.locale, { timeZone: shop.timeZone, ...options }).format(new Date(iso));

const DAY = /^\d{4}-\d{2}-\d{2}$/;

/** The day of a moment on the shop's clock; a day (YYYY-MM-DD) is itself wherever it is read. */
export const day = (at: string, shop: Shop): string =>
  dated(DAY.test(at) ? { ...shop, timeZone: "UTC" } : shop, at, {
    day: "numeric",
    month: "short",
    year: "numeric",
  });
export const dayAndTime = (iso: string, shop: Shop): string =>
  dated(shop, iso, { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
export const clockOf = (iso: string, shop: Shop): string =>
  dated(shop, iso, { hour: "2-digit", minute: "2-digit" });

/** "45 min", "3 h 20 min", "2 days 4 h". */
export function hoursText(minutes: number): string {
  const [d, h, m] = [Math.floor(minutes / 1440), Math.floor((minutes % 1440) / 60), Math.round(minutes % 60)];
  if (d) return `${d} ${d === 1 ? say("day") : say("days")}${h ? ` ${h} h` : ""}`;
  return h ? `${h} h${m ? say("mMin", { m }) : ""}` : say("mMin2", { m });
}
