import fc from "fast-check";

import { addUp, amountForm, digitsOf, parseAmount, parseOptional, plainForm, writeAmount } from "./money";

test.each([
  ["12", 1200],
  ["12.5", 1250],
  [" 12,50 ", 1250],
  ["0", 0],
  ["-1", null],
  ["12.345", null],
  ["twelve", null],
  ["", null],
  ["1e3", null],
])("%j reads as %j minor units", (text, minor) => {
  expect(parseAmount(text)).toBe(minor);
});

test.each([
  ["JPY", 0],
  ["EUR", 2],
  ["CHF", 2],
  ["KWD", 3],
])("%s has %i digits behind its mark", (currency, digits) => expect(digitsOf(currency)).toBe(digits));

test.each([
  ["en-IE", "EUR", "1,234.50", 123_450],
  ["en-IE", "EUR", "1,234", 123_400],
  ["en-IE", "EUR", "12,50", 1250],
  ["de-DE", "EUR", "1.234,50", 123_450],
  ["de-DE", "EUR", "1.234", 123_400],
  ["de-DE", "EUR", "12.50", 1250],
  ["de-CH", "CHF", "1\u2019234.50", 123_450],
  ["fr-FR", "EUR", "1\u202f234,50", 123_450],
  ["ja-JP", "JPY", "1,234", 1234],
  ["ja-JP", "JPY", "1250", 1250],
  ["ja-JP", "JPY", "12.5", null],
  ["en-KW", "KWD", "1.250", 1250],
  ["en-KW", "KWD", "1,250", 1_250_000],
  ["en-KW", "KWD", "1.2505", null],
  ["de-DE", "EUR", "1.23.456", null],
  ["en-IE", "EUR", "1,23", 123],
])("in %s, %s: %j is %j minor units", (locale, currency, text, minor) => {
  expect(parseAmount(text, amountForm(locale, currency))).toBe(minor);
});

test("amounts survive being written and read in any locale and currency, and add up to the last unit", () => {
  const forms = [
    plainForm(2),
    ...["en-IE", "de-DE", "fr-FR", "de-CH", "ja-JP"].flatMap((locale) =>
      ["EUR", "JPY", "KWD"].map((currency) => amountForm(locale, currency)),
    ),
  ];
  fc.assert(
    fc.property(
      fc.constantFrom(...forms),
      fc.array(fc.integer({ min: 0, max: 99_999_999 }), { maxLength: 20 }),
      (form, amounts) => {
        // three digits behind a mark that is the locale's own for thousands cannot be told apart, and are not written
        expect(amounts.map((a) => parseAmount(writeAmount(a, form), form))).toEqual(amounts);
        expect(addUp([...amounts, null])).toBe(amounts.reduce((a, b) => a + b, 0));
      },
    ),
    { seed: 12 },
  );
});

test("an amount that may be left out is nothing when it is, and an error when it is no amount", () => {
  expect(parseOptional("")).toBe(0);
  expect(parseOptional("  ")).toBe(0);
  expect(parseOptional("4,5")).toBe(450);
  expect(parseOptional("about 4")).toBeNull();
});
