import Papa from "papaparse";

import { readDecimal } from "../base/decimal";
import { type Result, ok, refuse } from "../base/result";

/**
 * Logs of a charge meter or of a voltage over time, typed or as a file: minutes and figures, one row a line.
 */

export type LogProblem =
  | { code: "log-empty" }
  | { code: "log-columns"; wanted: string }
  | { code: "log-number"; row: number; column: string; text: string }
  | { code: "log-backwards"; row: number }
  | { code: "log-too-long"; limit: number };

const NAMES: Record<string, readonly string[]> = {
  minutes: ["minutes", "min", "t_min", "time"],
  milliamps: ["milliamps", "ma", "current"],
  volts: ["volts", "v", "voltage"],
};

const MOST_FIGURE = 1e6; // minutes, milliamps and volts alike stay far below
const MOST_TEXT = 2_000_000;
const MOST_ROWS = 50_000;

type Row = { minutes: number; milliamps: number | null; volts: number | null };

/**
 * Reads rows of the named columns, in any order with a header ("minutes,milliamps,volts") or in that order
 * without. Separators are commas, semicolons or tabs; a decimal comma is read where the separator is another.
 */
export function readLog(
  text: string,
  columns: readonly ("minutes" | "milliamps" | "volts")[],
): Result<Row[], LogProblem> {
  if (text.length > MOST_TEXT) return refuse({ code: "log-too-long", limit: MOST_ROWS });
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, "").trim(), { skipEmptyLines: true });
  if (data.length === 0) return refuse({ code: "log-empty" });
  if (data.length > MOST_ROWS) return refuse({ code: "log-too-long", limit: MOST_ROWS });
  const comma = !text.includes(";") && !text.includes("\t");
  const cellsOf = (row: readonly string[]) => row.map((c) => (comma ? c.trim() : c.trim().replace(",", ".")));
  const head = cellsOf(data[0]!).map((c) => c.toLowerCase());
  const hasHead = head.some((c) => c !== "" && readDecimal(c) === undefined);
  const at = new Map(columns.map((c, i) => [c, hasHead ? head.findIndex((h) => NAMES[c]!.includes(h)) : i]));
  if ((at.get("minutes") ?? -1) < 0 || columns.slice(1, 2).some((c) => (at.get(c) ?? -1) < 0))
    return refuse({ code: "log-columns", wanted: columns.join(", ") });
  const rows: Row[] = [];
  for (const [i, raw] of data.slice(hasHead ? 1 : 0).entries()) {
    const cells = cellsOf(raw);
    const row: Row = { minutes: 0, milliamps: null, volts: null };
    for (const column of columns) {
      const cell = cells[at.get(column)!] ?? "";
      if (cell === "" && column === columns[2]) continue;
      const value = readDecimal(cell);
      if (value === undefined || Math.abs(value) > MOST_FIGURE)
        return refuse({ code: "log-number", row: i + 1, column, text: cell.slice(0, 30) });
      row[column] = value;
    }
    if (rows.length && row.minutes < rows.at(-1)!.minutes)
      return refuse({ code: "log-backwards", row: i + 1 });
    rows.push(row);
  }
  return rows.length ? ok(rows) : refuse({ code: "log-empty" });
}
