import { harmless, spreadsheetCsv } from "./spreadsheet";

test.each([
  ["=1+2", "'=1+2"],
  ["+49 1", "'+49 1"],
  ["-cmd", "'-cmd"],
  ["@here", "'@here"],
  ["\t=1", "'\t=1"],
  ["-12.50", "-12.50"],
  ["quayside = market", "quayside = market"],
  ["", ""],
])("%j is written as %j", (cell, out) => expect(harmless(cell)).toBe(out));

test("numbers stay numbers, and commas, quotes and line ends are kept in their cell", () =>
  expect(spreadsheetCsv(["a", "b"], [[-5, 'two, "three"\nfour']])).toBe(
    'a,b\r\n-5,"two, ""three""\nfour"\r\n',
  ));
