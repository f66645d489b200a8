import fc from "fast-check";

import { seeded } from "../math/random";
import { HOUSE_RATES } from "../money/rates";
import { priceFloor, suggestPrice } from "./price";

const market = { aMinor: 4400, bMinor: 3700, cMinor: 2400, asFoundMinor: 900 };

test("with few own sales the going price of the grade stands in, and says so", () => {
  expect(suggestPrice([4000], market as never, "B")).toEqual({ priceMinor: 3700, interval: null, cases: 1, from: "going-price" });
  expect(suggestPrice([], { ...market, cMinor: 0 } as never, "C")).toMatchObject({ priceMinor: null, from: "none" });
});

test("with own sales it is their median, whatever the going price", () =>
  expect(suggestPrice([3900, 4300, 4100, 4500, 4200], market as never, "A")).toEqual({
    priceMinor: 4200,
    interval: [3900, 4500],
    cases: 5,
    from: "own-sales",
  }));

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

test("at the floor a sale just gives back the costs", () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 50_000 }), (costs) => {
      const p = priceFloor(costs, HOUSE_RATES);
      const left = (price: number) => price * (1 - HOUSE_RATES.feeShare) - HOUSE_RATES.feeFixed - HOUSE_RATES.carriageOut - costs;
      return left(p) >= -1e-6 && left(p - 1) < 0;
    }),
  );
});
