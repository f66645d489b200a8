import Papa from "papaparse";

import { type Result, ok, refuse } from "../base/result";

/** Logs of a charge meter or of a voltage over time, typed or as a file: minutes and figures, one row a line. */

export type LogProblem =
  | { code: "log-empty" }
  | { code: "log-columns"; wanted: string }
  | { code: "log-number"; row: number; column: string; text: string }
  | { code: "log-backwards"; row: number };

const NAMES: Record<string, readonly string[]> = {
  minutes: ["minutes", "min", "t_min", "time"],
  milliamps: ["milliamps", "ma", "current"],
  volts: ["volts", "v", "voltage"],
};
const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)$/;

type Row = { minutes: number; milliamps: number | null; volts: number | null };

/**
 * Reads rows of the named columns, in any order with a header ("minutes,milliamps,volts") or in that order without.
 * Separators are commas, semicolons or tabs; a decimal comma is read where the separator is another.
 */
export function readLog(text: string, columns: readonly ("minutes" | "milliamps" | "volts")[]): Result<Row[], LogProblem> {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, "").trim(), { skipEmptyLines: true });
  if (data.length === 0) return refuse({ code: "log-empty" });
  const comma = !text.includes(";") && !text.includes("\t");
  const cellsOf = (row: readonly string[]) => row.map((c) => (comma ? c.trim() : c.trim().replace(",", ".")));
  const head = cellsOf(data[0]!).map((c) => c.toLowerCase());
  const hasHead = head.some((c) => c !== "" && !NUMBER.test(c));
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
      if (!NUMBER.test(cell)) return refuse({ code: "log-number", row: i + 1, column, text: cell.slice(0, 30) });
      row[column] = Number(cell);
    }
    if (rows.length && row.minutes < rows.at(-1)!.minutes) return refuse({ code: "log-backwards", row: i + 1 });
    rows.push(row);
  }
  return rows.length ? ok(rows) : refuse({ code: "log-empty" });
}
