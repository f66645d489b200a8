import fc from "fast-check";

import { addUp, parseAmount, parseOptional } from "./money";

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

test("amounts survive being written and read, and add up to the cent", () => {
  const written = (minor: number) => `${Math.floor(minor / 100)}.${String(minor % 100).padStart(2, "0")}`;
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 99_999_999 }), { maxLength: 20 }), (amounts) => {
      expect(amounts.map((a) => parseAmount(written(a)))).toEqual(amounts);
      expect(addUp([...amounts, null])).toBe(amounts.reduce((a, b) => a + b, 0));
    }),
    { seed: 12 },
  );
});

test("an amount that may be left out is nothing when it is, and an error when it is no amount", () => {
  expect(parseOptional("")).toBe(0);
  expect(parseOptional("  ")).toBe(0);
  expect(parseOptional("4,5")).toBe(450);
  expect(parseOptional("about 4")).toBeNull();
});
