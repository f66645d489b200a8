import "server-only";

import type { Knex } from "knex";

/**
 * Values that follow from the record and take long to add up: kept until something of the kinds that they depend on was noted. After
 * some seconds they are made anew behind the page's back all the same, since a change that began earlier may be written later; and
 * what nobody asked for in a while is made anew before it is shown.
 */
type Kept = { key: string; at: number; value: unknown; renewing: boolean };
const kept = new WeakMap<object, Map<string, Kept>>();
const FRESH_MS = 20_000;
const LONGEST_MS = 300_000;

/** One store a database: a transaction shares its database's. */
function storeOf(db: Knex): Map<string, Kept> {
  const config = (db.client as { config: object }).config;
  if (!kept.has(config)) kept.set(config, new Map());
  return kept.get(config)!;
}

/**
 * The value of a name; made anew when one of the kinds was noted since, or any at all when no kind is named, and when what else it is
 * about has changed.
 */
export async function untilNoted<T>(
  db: Knex,
  name: string,
  kinds: readonly string[],
  make: () => Promise<T>,
  about = "",
): Promise<T> {
  const { rows } = kinds.length
    ? await db.raw(
        // compared as a pair, so that the index by kind is gone down and not the whole record
        `select string_agg(coalesce(case when e.kind = k then e.id::text || e.at end, ''), ' ') as key from unnest(?::text[]) k
         left join lateral (select kind, id, at from event where (kind, id) <= (k, 9223372036854775807)
           order by kind desc, id desc limit 1) e on true`,
        [[...kinds]],
      )
    : await db.raw("select id::text || at as key from event order by id desc limit 1");
  const key = `${about} ${String(rows[0]?.key ?? "")}`;
  const store = storeOf(db);
  const had = store.get(name);
  const now = Date.now();
  const renew = async (): Promise<T> => {
    const value = await make();
    store.set(name, { key, at: now, value, renewing: false });
    return value;
  };
  if (had?.key !== key || now - had.at > LONGEST_MS) return renew();
  // a transaction is over before anything behind its back is done
  if (now - had.at > FRESH_MS && !had.renewing && !db.isTransaction) {
    had.renewing = true;
    renew().catch(() => (had.renewing = false));
  }
  return had.value as T;
}
