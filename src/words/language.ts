import { drawnOut } from "./drawn-out";

/**
 * How a language says a text: by its catalogue and key, or out of the English where it has none of its own.
 */
type Says = (feature: string, key: string, english: string) => string;

/**
 * The languages of an installation: English, and the drawn-out English that shows where a text is not taken
 * from a catalogue and where a longer one would be cut off. The server is told by LANGUAGE_OF_SHOP, a page by
 * its own lang.
 */
const LANGUAGES = {
  en: (_feature, _key, english) => english,
  "en-x-drawn": (_feature, _key, english) => drawnOut(english),
} as const satisfies Record<string, Says>;
type Language = keyof typeof LANGUAGES;

const isLanguage = (name: string | undefined): name is Language =>
  name !== undefined && Object.hasOwn(LANGUAGES, name);
const asked = typeof document === "undefined" ? process.env.LANGUAGE_OF_SHOP : document.documentElement.lang;
export const LANGUAGE: Language = isLanguage(asked) ? asked : "en";

/** The texts of one catalogue in the language of the installation. */
export function inLanguage<T extends Record<string, string>>(
  feature: string,
  english: T,
): Record<keyof T, string> {
  if (LANGUAGE === "en") return english;
  const says: Says = LANGUAGES[LANGUAGE];
  return Object.fromEntries(
    Object.entries(english).map(([key, text]) => [key, says(feature, key, text)]),
  ) as Record<keyof T, string>;
}
