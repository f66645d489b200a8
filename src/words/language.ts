import { drawnOut } from "./drawn-out";

/**
 * The language of the installation: English, or the drawn-out English that shows where a text is not taken from a catalogue and
 * where a longer one would be cut off. The server is told by LANGUAGE_OF_SHOP, a page by its own lang.
 */
const LANGUAGES = ["en", "en-x-drawn"] as const;
type Language = (typeof LANGUAGES)[number];

const asked = typeof document === "undefined" ? process.env.LANGUAGE_OF_SHOP : document.documentElement.lang;
export const LANGUAGE: Language = LANGUAGES.find((l) => l === asked) ?? "en";

/** The texts of one feature in the language of the installation; another language brings its own here, by the keys of the English. */
export function inLanguage<T extends Record<string, string>>(english: T): Record<keyof T, string> {
  if (LANGUAGE === "en") return english;
  return Object.fromEntries(Object.entries(english).map(([key, text]) => [key, drawnOut(text)])) as Record<
    keyof T,
    string
  >;
}
