import "server-only";

import type { Knex } from "knex";

import type { EventKind } from "@/contract/events";
import { asked } from "@/platform/db/joined";

/**
 * Values that follow from the record and take long to add up: kept until something of the kinds that they
 * depend on was noted. A change that began earlier may be written later, so what was made soon after the
 * newest note is made once more, behind the page's back; so is what has become old, and what is older still
 * is made anew before it is shown.
 */
type Kept = { key: string; at: number; settled: boolean; value: unknown; renewing: boolean };
const kept = new WeakMap<object, Map<string, Kept>>();
const SETTLED_MS = 20_000;
export type Ages = { renewMs: number; longestMs: number };
const USUAL_AGES: Ages = { renewMs: 15 * 60_000, longestMs: 60 * 60_000 };

/** One store a database: a transaction shares its database's. */
function storeOf(db: Knex): Map<string, Kept> {
  const config = (db.client as { config: object }).config;
  if (!kept.has(config)) kept.set(config, new Map());
  return kept.get(config)!;
}

/**
 * The value of a name; made anew when one of the kinds was noted since, or any at all when no kind is named.
 */
export async function untilNoted<T>(
  db: Knex,
  name: string,
  kinds: readonly EventKind[],
  make: () => Promise<T>,
  ages: Ages = USUAL_AGES,
): Promise<T> {
  type Latest = { key: string; newest: Date | null };
  const rows = kinds.length
    ? await asked<Latest>(
        db,
        // compared as a pair, so that the index by kind is gone down and not the whole record
        `select string_agg(coalesce(case when e.kind = k then e.id::text || e.at end, ''), ' ') as key,
           max(e.at) filter (where e.kind = k) as newest from unnest(?::text[]) k
         left join lateral (select kind, id, at from event where (kind, id) <= (k, 9223372036854775807)
           order by kind desc, id desc limit 1) e on true`,
        [[...kinds]],
      )
    : await asked<Latest>(
        db,
        "select id::text || at as key, at as newest from event order by id desc limit 1",
      );
  const key = rows[0]?.key ?? "";
  const store = storeOf(db);
  const had = store.get(name);
  const now = Date.now();
  const renew = async (): Promise<T> => {
    const value = await make();
    const newest = rows[0]?.newest ?? null;
    store.set(name, {
      key,
      at: now,
      settled: newest === null || now - newest.getTime() > SETTLED_MS,
      value,
      renewing: false,
    });
    return value;
  };
  if (had?.key !== key || now - had.at > ages.longestMs) return renew();
  const due = now - had.at > (had.settled ? ages.renewMs : SETTLED_MS);
  // a transaction is over before anything behind its back is done
  if (due && !had.renewing && !db.isTransaction) {
    had.renewing = true;
    renew().catch(() => (had.renewing = false));
  }
  return had.value as T;
}
