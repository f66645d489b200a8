import "server-only";

import { channel } from "node:diagnostics_channel";

import type { Knex } from "knex";

/**
 * What a deed costs the database, told to whoever listens (bench/deeds.ts); nobody counts while nobody does.
 */

export type DeedCost = {
  deed: string;
  /** questions inside the transaction, its own begin and end included */
  queries: number;
  /** of them, the time until each answer */
  databaseMs: number;
  /** from the first row that was locked to the end of the transaction */
  lockedMs: number;
  /** each question, in order */
  asked: string[];
};
export const COSTS = "birdcage.deed-cost";
const costs = channel(COSTS);

/**
 * Counts from now on what a transaction asks; the function that it gives back ends the count and tells it.
 */
export function countCost(deed: string, trx: Knex): () => void {
  if (!costs.hasSubscribers) return () => {};
  const began = new Map<string, number>();
  const cost: DeedCost = { deed, queries: 1, databaseMs: 0, lockedMs: 0, asked: [] };
  let lockedAt: number | null = null;
  trx.on("query", (q: { __knexQueryUid: string; sql: string }) => {
    began.set(q.__knexQueryUid, performance.now());
    cost.queries++;
    cost.asked.push(q.sql);
    if (lockedAt === null && /for update|^(update|delete)/.test(q.sql)) lockedAt = performance.now();
  });
  trx.on("query-response", (_rows: unknown, q: { __knexQueryUid: string }) => {
    cost.databaseMs += performance.now() - (began.get(q.__knexQueryUid) ?? performance.now());
  });
  return () => {
    cost.lockedMs = lockedAt === null ? 0 : performance.now() - lockedAt;
    costs.publish(cost);
  };
}
