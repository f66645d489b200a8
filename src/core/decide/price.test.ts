import fc from "fast-check";

import { seeded } from "../math/random";
import { HOUSE_RATES, type Rates } from "../money/rates";
import { priceFloor, suggestPrice } from "./price";

const market = { aMinor: 4400, bMinor: 3700, cMinor: 2400, asFoundMinor: 900 };

test("with few own sales the going price of the grade stands in, and says so", () => {
  expect(suggestPrice([4000], market as never, "B")).toEqual({
    priceMinor: 3700,
    interval: null,
    cases: 1,
    from: "going-price",
    missingMinor: 0,
  });
  expect(suggestPrice([], { ...market, cMinor: 0 } as never, "C")).toMatchObject({
    priceMinor: null,
    from: "none",
  });
});

test("with own sales it is their median, whatever the going price", () =>
  expect(suggestPrice([3900, 4300, 4100, 4500, 4200], market as never, "A")).toEqual({
    priceMinor: 4200,
    interval: [3900, 4500],
    cases: 5,
    from: "own-sales",
    missingMinor: 0,
  }));

test("what it came without is off either price, never below nothing", () => {
  expect(suggestPrice([4000], market as never, "B", 500)).toMatchObject({
    priceMinor: 3200,
    missingMinor: 500,
  });
  expect(suggestPrice([], market as never, "C", 5000).priceMinor).toBe(0);
  expect(suggestPrice([3900, 4300, 4100, 4500, 4200], market as never, "A", 300)).toMatchObject({
    priceMinor: 3900,
    interval: [3600, 4200],
  });
});

test("the interval covers the true median in at least nine of ten samples, at any size", () => {
  const chance = seeded(5);
  for (const n of [5, 8, 15, 40]) {
    let covered = 0;
    for (let i = 0; i < 2000; i++) {
      const s = suggestPrice(
        Array.from({ length: n }, () => Math.round(chance.between(0, 100_000))),
        market as never,
        "A",
      );
      if (s.interval![0] <= 50_000 && 50_000 <= s.interval![1]) covered++;
    }
    expect(covered / 2000).toBeGreaterThan(0.89);
  }
});

describe("the floor under the price", () => {
  // written out here, apart from the terms that the floor is made of
  const leaves = (price: number, purchase: number, back: number, r: Rates) => {
    const inPrice = r.taxRate / (1 + r.taxRate);
    const taxedOf = () => {
      if (r.tax === "none") return 0;
      if (r.tax === "full") return price;
      return Math.max(0, price - purchase);
    };
    const taxed = taxedOf();
    const comeback = r.returnCarriage + (r.returnMinutes * r.labourPerHour) / 60;
    return price - price * r.feeShare - r.feeFixed - r.carriageOut - taxed * inPrice - back * comeback;
  };
  const sale = fc.record({
    costs: fc.integer({ min: 0, max: 50_000 }),
    bought: fc.double({ min: 0, max: 1, noNaN: true }),
    returnChance: fc.double({ min: 0, max: 0.5, noNaN: true }),
    tax: fc.constantFrom("none" as const, "full" as const, "margin" as const),
  });
  test("a sale at it loses nothing, with fees, postage, tax and returns taken off", () => {
    fc.assert(
      fc.property(sale, ({ costs, bought, returnChance, tax }) => {
        const rates = { ...HOUSE_RATES, tax };
        const purchase = Math.round(costs * bought);
        const p = priceFloor(costs, { purchase, returnChance }, rates);
        // three terms are rounded to a cent each, half a cent at most
        expect(leaves(p, purchase, returnChance, rates) - costs).toBeGreaterThanOrEqual(-1.5);
      }),
    );
  });
  test("and it is not set too high: a few cents less lose something", () => {
    fc.assert(
      fc.property(sale, ({ costs, bought, returnChance, tax }) => {
        const rates = { ...HOUSE_RATES, tax };
        const purchase = Math.round(costs * bought);
        const p = priceFloor(costs, { purchase, returnChance }, rates);
        expect(leaves(p - 5, purchase, returnChance, rates) - costs).toBeLessThan(0);
      }),
    );
  });
});
