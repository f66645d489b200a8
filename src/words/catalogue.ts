import { IntlMessageFormat } from "intl-messageformat";

import { mark } from "./figures";
import { inLanguage, LANGUAGE } from "./language";

/**
 * The values that a message wants: a number for a plural, whose forms hold none themselves; a text or a
 * number else.
 */
type Values<T extends string> = T extends `${string}{${infer Rest}`
  ? Rest extends `${infer Head}}${infer Tail}`
    ? Head extends `${infer Name}, plural,${string}`
      ? Record<Name, number> & (Tail extends `${string}}}${infer After}` ? Values<After> : unknown)
      : Record<Head, string | number> & Values<Tail>
    : unknown
  : unknown;
type Given<T extends string> = T extends `${string}{${string}` ? [Values<T>] : [];

/**
 * What people read of one feature, in English: a key and its text in ICU message syntax ({name}, {n, plural,
 * one {...} other {...}}). Returns the way to say them in the language of this installation; a key that is
 * not there, and a value that a text wants and does not get, do not compile.
 */
export function catalogue<const T extends Record<string, string>>(feature: string, english: T) {
  const texts = inLanguage(feature, english);
  const parsed = new Map<string, IntlMessageFormat>();
  return <K extends keyof T & string>(key: K, ...[values]: Given<T[K]>): string => {
    const text = texts[key] as string | undefined;
    if (text === undefined) throw new Error(`no text ${feature}.${key}`); // whoever comes past the compiler
    if (values === undefined && !/['{]/.test(text)) return text;
    let message = parsed.get(key);
    if (!message)
      parsed.set(key, (message = new IntlMessageFormat(text, LANGUAGE, undefined, { ignoreTag: true })));
    return String(message.format(written(text, (values ?? {}) as Record<string, string | number>)));
  };
}

/** Numbers among the values as the locale writes them, but for those that choose a plural. */
const written = (text: string, values: Record<string, string | number>): Record<string, string | number> =>
  Object.fromEntries(
    Object.entries(values).map(([name, value]) => [
      name,
      typeof value === "number" && !text.includes(`{${name}, plural`) ? mark(value) : value,
    ]),
  );
