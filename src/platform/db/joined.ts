import type { Knex } from "knex";

import { one } from "@/core/base/one";
import type { TableRow } from "./tables";

/**
 * Columns of joined tables with their types, which Knex knows of single tables only. `of` says which table
 * each alias of the query stands for ("person?" when the join may find none); a column that its table lacks
 * does not compile.
 */

type Name = keyof TableRow;
type Of = Readonly<Record<string, Name | `${Name}?`>>;
type Row<T> = T extends `${infer N extends Name}?`
  ? { [K in keyof TableRow[N]]: TableRow[N][K] | null }
  : T extends Name
    ? TableRow[T]
    : never;

type ColumnOf<A extends string, T> = keyof Row<T> extends infer K extends string
  ? `${A}.${K}` | `${A}.${K} as ${string}` | `${A}.*`
  : never;
type Column<O extends Of> = { [A in keyof O & string]: ColumnOf<A, O[A]> }[keyof O & string];

declare const made: unique symbol;
/** Columns that the database computes, with what they are. */
export type Computed<R> = Knex.Raw & { readonly [made]?: R };
export const computed = <R extends object>(raw: Knex.Raw): Computed<R> => raw;

type Cell<O extends Of, A, C> = A extends keyof O
  ? C extends keyof Row<O[A]>
    ? Row<O[A]>[C]
    : never
  : never;
type Part<O extends Of, C> =
  C extends Computed<infer R>
    ? R
    : C extends `${infer A}.*`
      ? A extends keyof O
        ? Row<O[A]>
        : never
      : C extends `${infer A}.${infer K} as ${infer N}`
        ? { [P in N]: Cell<O, A, K> }
        : C extends `${infer A}.${infer K}`
          ? { [P in K]: Cell<O, A, K> }
          : never;
type All<U> = (U extends unknown ? (u: U) => void : never) extends (all: infer I) => void ? I : never;
type Picked<O extends Of, C extends readonly unknown[]> =
  All<Part<O, C[number]>> extends infer R ? { [K in keyof R]: R[K] } : never;

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- whatever query: its columns are said anew
type Builder = Knex.QueryBuilder<any, any>;
/** What makes a query find less, or in an order. */
export type Narrow = (query: Builder) => Builder;
type Columns<O extends Of> = readonly (Column<O> | Computed<object>)[];

export async function rowsOf<const O extends Of, const C extends Columns<O>>(
  query: Builder,
  _of: O,
  ...columns: C
): Promise<Picked<O, C>[]> {
  const rows: unknown = await query.select(...columns);
  return rows as Picked<O, C>[]; // the one place that says what a join gives: by the names above
}

export async function rowOf<const O extends Of, const C extends Columns<O>>(
  query: Builder,
  of: O,
  ...columns: C
): Promise<Picked<O, C> | undefined> {
  return (await rowsOf(query.limit(1), of, ...columns))[0];
}

/** One row of figures that the database computes over what the query finds. */
export async function figuresOf<R extends object>(query: Builder, raw: Knex.Raw): Promise<R> {
  const row: unknown = await query.first(raw);
  return row as R;
}

/** How many rows the query finds. */
export async function countOf(query: Builder): Promise<number> {
  return (await figuresOf<{ n: number }>(query, query.client.raw("count(*)::int as n") as Knex.Raw)).n;
}

/** The rows of a question in the database's own words; `R` is what its columns are. */
export async function asked<R extends object>(
  db: Knex,
  sql: string,
  bindings: readonly Knex.RawBinding[] | Knex.ValueDict = [],
): Promise<R[]> {
  const answer: unknown = await db.raw(sql, bindings as Knex.ValueDict);
  return (answer as { rows: R[] }).rows;
}

/** Whether there is a table, or any other relation, of this name. */
export const hasTable = async (db: Knex, name: string): Promise<boolean> =>
  (await asked<{ name: string | null }>(db, "select to_regclass(?)::text as name", [name]))[0]?.name != null;

/** The next number of a sequence. */
export const nextOf = async (db: Knex, sequence: string): Promise<number> =>
  Number(one((await asked<{ n: string }>(db, "select nextval(?::regclass) as n", [sequence]))[0]).n);
