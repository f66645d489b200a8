import {
  count,
  figure,
  figuresAsIn,
  mark,
  amountCell,
  money,
  readAmount,
  typedAmount,
  typedFigure,
} from "./format";
import { percent } from "./measures";

describe("figures by the shop's locale", () => {
  afterEach(() => figuresAsIn("en-IE"));

  test.each([
    ["en-IE", "3.71", "12,500", "0.25", "8.4 %"],
    ["de-DE", "3,71", "12.500", "0,25", "8,4 %"],
    ["fr-FR", "3,71", "12\u202f500", "0,25", "8,4 %"],
    ["de-CH", "3.71", "12'500", "0.25", "8.4 %"],
  ])("%s", (locale, volts, samples, tick, share) => {
    figuresAsIn(locale);
    expect(figure(3.7132, 2)).toBe(volts);
    expect(count(12_500)).toBe(samples);
    expect(mark(0.25)).toBe(tick);
    expect(percent(0.0836)).toBe(share);
  });

  test("an instrument's figure is not broken into thousands, and nothing is a negative zero", () => {
    figuresAsIn("en-IE");
    expect(figure(1240, 1)).toBe("1240.0");
    expect(figure(-0.04, 1)).toBe("0.0");
    expect(figure(-3.06, 1)).toBe("-3.1");
  });

  test("what stands in a field to be typed over is the same in every locale, and a missing amount is empty", () => {
    figuresAsIn("de-DE");
    expect(typedFigure(3.7, 3)).toBe("3.700");
    expect(typedAmount(null)).toBe("");
  });

  test.each([
    ["de-DE", "EUR", "12,50", "12.50", "12,50\u00a0\u20ac"],
    ["en-IE", "EUR", "12.50", "12.50", "\u20ac12.50"],
    ["ja-JP", "JPY", "1250", "1250", "\uffe51,250"],
    ["en-KW", "KWD", "1.250", "1.250", "KWD\u00a01.250"],
  ])(
    "an amount in %s, %s: as typed, as a file has it, as it is shown",
    (locale, currency, typed, cell, shown) => {
      figuresAsIn(locale, currency);
      expect([
        typedAmount(1250),
        amountCell(1250),
        money(1250, { locale, currency, timeZone: "UTC" }),
      ]).toEqual([typed, cell, shown]);
      expect(readAmount(typed)).toBe(1250);
    },
  );
});
