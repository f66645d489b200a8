import Papa from "papaparse";

/**
 * CSV (RFC 4180) for people who open it in a spreadsheet. A text that a spreadsheet would run as a formula
 * gets a leading apostrophe; numbers are written as numbers. The workshop's archive is written elsewhere and
 * changes nothing.
 */
const FORMULA = /^[=+\-@\t\r]/;
export const harmless = (cell: string | number): string | number =>
  typeof cell === "string" && FORMULA.test(cell) && !/^-?\d+(\.\d+)?$/.test(cell) ? `'${cell}` : cell;

export const spreadsheetCsv = (
  head: readonly string[],
  rows: readonly (readonly (string | number)[])[],
): string =>
  Papa.unparse({ fields: [...head], data: rows.map((r) => r.map(harmless)) }, { newline: "\r\n" }) + "\r\n";
