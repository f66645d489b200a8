/** Figures as the shop's locale writes them: the only place that turns a number into what a person reads. */

// one shop in one process, but several copies of this module: the pages', the routes' and the threads'
const KEPT = Symbol.for("birdcage.locale");
type Kept = { [KEPT]?: { locale: string; currency: string } };

/**
 * From now on figures are written as this locale writes them; a page in the browser is told by its own mark
 * instead.
 */
export function figuresAsIn(locale: string, currency = "EUR"): void {
  (globalThis as Kept)[KEPT] = { locale, currency };
}
const kept = (): { locale?: string | undefined; currency?: string | undefined } =>
  (typeof document === "undefined" ? (globalThis as Kept)[KEPT] : document.documentElement.dataset) ?? {};
export const localeOfFigures = (): string => kept().locale ?? "en";
/** The one currency of the shop, for the digits of an amount that is typed or read. */
export const currencyOfFigures = (): string => kept().currency ?? "EUR";

const writers = new Map<string, Intl.NumberFormat>();
function written(value: number, least: number, most: number, useGrouping: boolean): string {
  const locale = localeOfFigures();
  const key = `${locale} ${least} ${most} ${useGrouping}`;
  let writer = writers.get(key);
  if (!writer) {
    const digits = { minimumFractionDigits: least, maximumFractionDigits: most };
    // what rounds to nothing is never a negative zero
    writers.set(
      key,
      (writer = new Intl.NumberFormat(locale, { ...digits, useGrouping, signDisplay: "negative" })),
    );
  }
  return writer.format(value);
}

/**
 * A measured or computed figure with so many decimal places (0 to 20), ungrouped as an instrument shows it.
 */
export const figure = (value: number, places = 0): string => written(value, places, places, false);
/** How many there are, in groups of thousands. */
export const count = (value: number): string => written(value, 0, 0, true);
/** A figure within a sentence or at an axis: as many places as it needs, three at most. */
export const mark = (value: number): string => written(value, 0, 3, false);
