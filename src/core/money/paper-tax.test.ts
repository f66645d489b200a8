import fc from "fast-check";

import { taxOnPaper, taxOwed } from "./paper-tax";
import { HOUSE_RATES } from "./rates";

const shop = (tax: "none" | "full" | "margin", taxRate = 0.25) => ({ ...HOUSE_RATES, tax, taxRate });

test("a full rate of a quarter is a fifth of what is paid", () => {
  expect(taxOnPaper(10_000, "work", shop("full"))).toEqual({
    scheme: "full",
    rate: 0.25,
    netMinor: 8_000,
    taxMinor: 2_000,
  });
  expect(taxOnPaper(10_000, "goods", shop("full")).taxMinor).toBe(2_000);
});

test("goods under the margin name no tax, work for a customer names the whole", () => {
  expect(taxOnPaper(10_000, "goods", shop("margin"))).toEqual({
    scheme: "margin",
    rate: 0,
    netMinor: 10_000,
    taxMinor: 0,
  });
  expect(taxOnPaper(10_000, "work", shop("margin"))).toMatchObject({ scheme: "full", taxMinor: 2_000 });
});

test("a shop that is not registered names none and owes none", () => {
  for (const paid of ["work", "goods"] as const) {
    const said = taxOnPaper(4_990, paid, shop("none"));
    expect(said).toMatchObject({ scheme: "none", taxMinor: 0, netMinor: 4_990 });
    expect(taxOwed(4_990, 1_000, said, 0.25)).toBe(0);
  }
});

test("what is owed under the margin is the tax in what it brought above its purchase, never less than none", () => {
  const said = taxOnPaper(5_000, "goods", shop("margin"));
  expect(taxOwed(5_000, 2_500, said, 0.25)).toBe(500);
  expect(taxOwed(5_000, 6_000, said, 0.25)).toBe(0);
});

test("net and tax add up to what is paid, to the last unit", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 99_999_999 }),
      fc.constantFrom("none", "full", "margin"),
      fc.constantFrom("work", "goods"),
      fc.integer({ min: 0, max: 100 }),
      (gross, tax, of, percent) => {
        const said = taxOnPaper(
          gross,
          of as "work" | "goods",
          shop(tax as "none" | "full" | "margin", percent / 100),
        );
        expect(said.netMinor + said.taxMinor).toBe(gross);
        expect(said.taxMinor).toBeGreaterThanOrEqual(0);
      },
    ),
    { seed: 22 },
  );
});
