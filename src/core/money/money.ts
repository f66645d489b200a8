/**
 * Money is a whole number of minor units of the shop's one currency, of which a unit has one, a hundred or a
 * thousand. This is the only place that reads or adds it.
 */

export type Minor = number;

/** How many digits a currency has behind its mark: none, two or three (ISO 4217, by the platform's own list). */
export const digitsOf = (currency: string): number =>
  new Intl.NumberFormat("en", { style: "currency", currency }).resolvedOptions().maximumFractionDigits ?? 2;

/** How a shop writes amounts: the digits of its currency, and the marks of its locale. */
export type AmountForm = { digits: number; decimal: string; group: string };
/** As files have it: a point, and nothing between thousands. */
export const plainForm = (digits: number): AmountForm => ({ digits, decimal: ".", group: "" });
const TWO = plainForm(2);

export function amountForm(locale: string, currency: string): AmountForm {
  const parts = new Intl.NumberFormat(locale, { useGrouping: true }).formatToParts(1_234_567.5);
  const mark = (type: "decimal" | "group") => parts.find((p) => p.type === type)?.value ?? "";
  return { digits: digitsOf(currency), decimal: mark("decimal") || ".", group: mark("group") };
}

const SPACES = /[\s\u00a0\u202f'\u2019]/g;

/**
 * Reads what a person types as minor units; null if it is no amount. Either mark is taken for the decimal one,
 * but where it can only be the locale's own mark between thousands: "1,234" is a thousand and more in a locale
 * that writes it so, and "12,50" is twelve and a half in any.
 * @example parseAmount("12,5") // 1250
 */
export function parseAmount(text: string, form: AmountForm = TWO): Minor | null {
  const typed = text.trim().replace(SPACES, "");
  const group = form.group === "." || form.group === "," ? form.group : "";
  const grouped = group
    ? new RegExp(`^(\\d{1,3}(?:\\${group}\\d{3})+)(?:\\${group === "." ? "," : "."}(\\d+))?$`).exec(typed)
    : null;
  const match = grouped ?? /^(\d{1,9})(?:[.,](\d+))?$/.exec(typed);
  const fraction = match?.[2] ?? "";
  if (!match || fraction.length > form.digits) return null;
  const whole = match[1]!.replace(/\D/g, "");
  return whole.length > 9 ? null : Number(whole + fraction.padEnd(form.digits, "0"));
}

/** The same where leaving it empty means nothing, such as a carriage. */
export const parseOptional = (text: string, form: AmountForm = TWO): Minor | null =>
  text.trim() === "" ? 0 : parseAmount(text, form);

/** An amount in digits, with the form's decimal mark and nothing between thousands. */
export function writeAmount(minor: Minor, { digits, decimal }: AmountForm): string {
  const text = String(Math.abs(minor)).padStart(digits + 1, "0");
  const sign = minor < 0 ? "-" : "";
  const at = text.length - digits;
  return digits === 0 ? sign + text : `${sign}${text.slice(0, at)}${decimal}${text.slice(at)}`;
}

export const addUp = (amounts: readonly (Minor | null)[]): Minor =>
  amounts.reduce<Minor>((sum, a) => sum + (a ?? 0), 0);
