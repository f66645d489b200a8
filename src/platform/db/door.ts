import { DOORS } from "./columns";

/**
 * Lifts stored JSON to today's shape on its way from the driver, whoever asked for it and under whatever name
 * (columns.ts).
 */

export type Field = { name: string; tableID: number; columnID: number; dataTypeID: number };
export type Answer = { fields?: readonly Field[]; rows?: Record<string, unknown>[] };
type Door = { parse(value: unknown): unknown };
const doors: Readonly<Record<string, Door | undefined>> = DOORS;

export const JSONB = 3802; // the database's own number of its type, the same everywhere
const keyOf = (f: Pick<Field, "tableID" | "columnID">): string => `${f.tableID}.${f.columnID}`;

/** Which columns of this database hold JSON: their names by the numbers that answers carry. */
export const ASK_FOR_NAMES = `select attrelid::int8::text || '.' || attnum as key, relname || '.' || attname as name
  from pg_attribute join pg_class on pg_class.oid = attrelid where atttypid = 'jsonb'::regtype and relkind = 'r' and not attisdropped`;

export class JsonNames {
  private known = new Map<string, string>();

  learn(rows: readonly Record<string, unknown>[]): void {
    this.known = new Map(rows.map((r) => [String(r.key), String(r.name)]));
  }

  /** Whether an answer has JSON of a table that was made since the names were asked for. */
  lacks(answer: Answer): boolean {
    return (answer.fields ?? []).some(
      (f) => f.dataTypeID === JSONB && f.tableID !== 0 && !this.known.has(keyOf(f)),
    );
  }

  /**
   * Lifts every JSON value of an answer that has a door; null stays null. Throws when one is of no known
   * shape.
   */
  lift(answer: Answer): void {
    for (const f of answer.fields ?? []) {
      const name = f.dataTypeID === JSONB ? this.known.get(keyOf(f)) : undefined;
      const door = name === undefined ? undefined : doors[name];
      if (!door) continue;
      for (const row of answer.rows ?? []) if (row[f.name] != null) row[f.name] = door.parse(row[f.name]);
    }
  }
}
