/** What an error of the database means for whoever asked, and what of it may be written down. */

export type Trouble = "busy" | "away" | "bad-value" | "unexpected";

const BUSY = new Set(["40P01", "40001", "55P03"]); // two transactions that wait for each other, or for one lock too long
const GONE = new Set([
  "ECONNREFUSED",
  "ECONNRESET",
  "EPIPE",
  "ETIMEDOUT",
  "ENOTFOUND",
  "57P01",
  "57P02",
  "57P03",
  "53300",
]);

/** `bad-value`: class 22, a number or date out of range, a character that cannot be kept. */
export function troubleOf(error: unknown): Trouble {
  const { code, name, message } = error as { code?: string; name?: string; message?: string };
  if (typeof code === "string") {
    if (BUSY.has(code)) return "busy";
    if (GONE.has(code) || code.startsWith("08")) return "away";
    if (/^22[0-9A-Z]{3}$/.test(code)) return "bad-value";
  }
  // no connection could be had in time, or the one at work was cut
  if (name === "KnexTimeoutError" || message?.startsWith("Connection terminated")) return "away";
  return "unexpected";
}

type ServerError = Error & Record<string, unknown>;
const VALUES = [
  "detail",
  "hint",
  "where",
  "internalQuery",
  "position",
  "internalPosition",
  "line",
  "file",
  "length",
] as const;

/**
 * The database's errors quote what was typed ("Key (name)=(...) already exists"): the same error without any
 * value, so that neither the log nor a page can show one. What is kept names the rule: its code, table,
 * column and constraint.
 */
export function withoutValues(error: unknown): unknown {
  const e = error as ServerError;
  if (!(e instanceof Error) || typeof e.severity !== "string") return error;
  for (const key of VALUES) delete e[key];
  const rule = [e.table, e.column, e.constraint].filter((x) => typeof x === "string").join(" ");
  // P0001 is raised by our own triggers, whose words hold no value
  if (e.code !== "P0001") e.message = `database error ${String(e.code)}${rule && ` at ${rule}`}`;
  e.stack = `${e.name}: ${e.message}\n${(e.stack ?? "")
    .split("\n")
    .filter((l) => /^\s+at /.test(l))
    .join("\n")}`;
  return e;
}
