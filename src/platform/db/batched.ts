import DataLoader from "dataloader";
import type { Knex } from "knex";

/**
 * Reads that a view makes for each of many units: those asked for at the same moment are one question to the
 * database. Nothing is kept from one moment to the next, so that a read after a change sees it.
 */

/** Rows by what they are `of`: a unit's id, a key. */
export function rowsBy<R extends { of: string }>(
  read: (db: Knex, keys: string[]) => PromiseLike<readonly R[]>,
): (db: Knex, key: string) => Promise<R[]> {
  return batched(async (db, keys) => {
    const rows = await read(db, [...new Set(keys)]);
    const by = new Map<string, R[]>();
    for (const row of rows) by.set(row.of, [...(by.get(row.of) ?? []), row]);
    return keys.map((key) => by.get(key) ?? []);
  });
}

/** What is the same for all who ask at the same moment. */
export function sharedRead<T>(read: (db: Knex) => Promise<T>): (db: Knex) => Promise<T> {
  const ask = batched(async (db, keys) => {
    const value = await read(db);
    return keys.map(() => value);
  });
  return (db) => ask(db, "");
}

function batched<V>(
  read: (db: Knex, keys: readonly string[]) => Promise<V[]>,
): (db: Knex, key: string) => Promise<V> {
  const loaders = new WeakMap<Knex, DataLoader<string, V>>();
  return (db, key) => {
    const loader = loaders.get(db) ?? new DataLoader<string, V>((keys) => read(db, keys), { cache: false });
    loaders.set(db, loader);
    return loader.load(key);
  };
}
