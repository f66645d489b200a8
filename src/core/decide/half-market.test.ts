import fc from "fast-check";

import { halfMoney, shareOfPair } from "./half-market";

const pair = { newMinor: 9900, aMinor: 6200, bMinor: 5400, cMinor: 4200, asFoundMinor: 1700 };
const half = { newMinor: 0, aMinor: 2700, bMinor: 2200, cMinor: 1500, asFoundMinor: 600 };

test("sold alone it is worth what a half goes for, and a new one is a new pair where no half is to be had", () => {
  expect(halfMoney(half, pair, true, false)).toEqual({
    sold: "alone",
    newIs: "pair",
    market: { ...half, newMinor: 9900 },
  });
  expect(halfMoney({ ...half, newMinor: 5500 }, pair, true, true)).toMatchObject({
    newIs: "half",
    market: { newMinor: 5500 },
  });
});

test("not sold alone it is worth what its mate gains by it, and without a mate no more than as found", () => {
  expect(halfMoney(half, pair, false, true)).toEqual({
    sold: "with-mate",
    newIs: "pair",
    market: { newMinor: 9900, aMinor: 5600, bMinor: 4800, cMinor: 3600, asFoundMinor: 600 },
  });
  expect(halfMoney(half, pair, false, false)).toEqual({
    sold: "no-mate",
    newIs: "pair",
    market: { newMinor: 9900, aMinor: 600, bMinor: 600, cMinor: 600, asFoundMinor: 600 },
  });
});

test("two halves that are sold together ask what the pair brings", () => {
  const { aMinor, bMinor, cMinor } = shareOfPair(pair, half);
  expect([aMinor * 2, bMinor * 2, cMinor * 2]).toEqual([6200, 5400, 4200]);
});

const prices = fc.record({
  newMinor: fc.nat(20_000),
  aMinor: fc.nat(20_000),
  bMinor: fc.nat(20_000),
  cMinor: fc.nat(20_000),
  asFoundMinor: fc.nat(20_000),
});

test("a mate never makes a half worth less, and a mended one is never worth less than as found", () => {
  fc.assert(
    fc.property(prices, prices, (h, p) => {
      const without = halfMoney(h, p, false, false).market;
      const together = halfMoney(h, p, false, true).market;
      for (const k of ["aMinor", "bMinor", "cMinor"] as const) {
        expect(together[k]).toBeGreaterThanOrEqual(without[k]);
        expect(together[k]).toBeGreaterThanOrEqual(h.asFoundMinor);
      }
    }),
  );
});
