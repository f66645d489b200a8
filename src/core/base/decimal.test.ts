import { readDecimal } from "./decimal";

test.each([
  ["0", 0],
  ["-0.5", -0.5],
  [" +1. ", 1],
  [".25", 0.25],
  ["1e-3", 0.001],
  ["12E2", 1200],
])("%j is %d", (text, value) => expect(readDecimal(text)).toBe(value));

test.each([
  "",
  " ",
  ".",
  "+",
  "1.2.3",
  "1,5",
  "0x1",
  "NaN",
  "Infinity",
  "1e",
  "1e9999",
  "--1",
  "1 2",
  "1".repeat(41),
])("%j is no number", (text) => expect(readDecimal(text)).toBeUndefined());

test("a text of two hundred thousand digits is refused at once, as it is or with a letter behind it", () => {
  const began = performance.now();
  for (const text of [
    "7".repeat(200_000),
    `${"7".repeat(200_000)}x`,
    " ".repeat(200_000),
    `${" ".repeat(200_000)}x`,
  ])
    expect(readDecimal(text)).toBeUndefined();
  expect(performance.now() - began).toBeLessThan(200);
});
