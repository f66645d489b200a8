import type { Settings } from "@/contract/deeds";
import {
  amountForm,
  digitsOf,
  type Minor,
  parseAmount,
  parseOptional,
  plainForm,
  writeAmount,
} from "@/core/money/money";
import { currencyOfFigures, localeOfFigures } from "@/words/figures";
import { say } from "@/words/kit";

export { count, currencyOfFigures, figure, figuresAsIn, localeOfFigures, mark } from "@/words/figures";

/**
 * Dates and money by the shop's locale: the only place that formats them. Figures are written in
 * words/figures.
 */

export type Shop = Pick<Settings, "locale" | "timeZone" | "currency">;

/** A figure as it stands in a field to be typed over: any locale's field reads it. */
export const typedFigure = (value: number, places: number): string => value.toFixed(places);
const form = () => amountForm(localeOfFigures(), currencyOfFigures());
/** What a person types as an amount of the shop's currency; null if it is none. */
export const readAmount = (text: string): Minor | null => parseAmount(text, form());
/** The same where leaving it empty means nothing. */
export const readOptionalAmount = (text: string): Minor | null => parseOptional(text, form());
/** An amount as it stands in a field to be typed over, in the shop's own marks. */
export const typedAmount = (minor: number | null | undefined): string =>
  minor == null ? "" : writeAmount(minor, form());
/** How an amount is typed here, for a field that wants one. */
export const amountExample = (): string => typedAmount(1250);
/** An amount as a file has it: a point, and the digits of the shop's currency. */
export const amountCell = (minor: number | null | undefined): string =>
  minor == null ? "" : writeAmount(minor, plainForm(digitsOf(currencyOfFigures())));
/** Minor units of the shop's currency in one of its units. */
export const minorInUnit = (): number => 10 ** digitsOf(currencyOfFigures());

export const money = (minor: number | null, { locale, currency }: Shop): string =>
  minor === null
    ? say("notStated")
    : new Intl.NumberFormat(locale, { style: "currency", currency }).format(minor / 10 ** digitsOf(currency));

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
