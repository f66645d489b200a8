import "server-only";

import type { Knex } from "knex";

import type { Refusal } from "@/contract/refusals";
import type { Role } from "@/contract/roles";
import type { TableRow } from "@/platform/db/tables";
import { say } from "@/words/refusals";

/** Who acts. `at` dates the act when it did not happen just now (the demo's two weeks of history). */
export type Actor = {
  id: string;
  name: string;
  role: Role;
  at?: Date;
  /** the browser's session behind it, and whether its person typed their password again just now */
  session?: { id: string; confirmed: boolean };
};

/** Who and when, for a row that somebody adds. */
export const stamp = (db: Knex, actor: Actor) => ({ by: actor.id, at: actor.at ?? db.fn.now() });

/**
 * An expected refusal inside a transaction: thrown so that nothing of the deed stays, answered as a value.
 */
export class Refused extends Error {
  constructor(readonly problem: Refusal) {
    super(problem.code);
  }
}

/** The row is not as the person saw it: somebody changed it meanwhile. */
export const overtaken = (): Refused =>
  new Refused({ code: "changed-meanwhile", by: say("someoneElse"), at: new Date().toISOString() });

type Reads = readonly (() => unknown)[];
type Read<R extends Reads> = { -readonly [K in keyof R]: Awaited<ReturnType<R[K]>> };

/** Reads side by side for a page; one after the other inside a transaction, which has one connection. */
export async function together<const R extends Reads>(db: Knex, ...reads: R): Promise<Read<R>> {
  if (!db.isTransaction) return (await Promise.all(reads.map((read) => read()))) as Read<R>;
  const out: unknown[] = [];
  for (const read of reads) out.push(await read());
  return out as Read<R>;
}

type Kept = Map<string, { tables: readonly (keyof TableRow)[]; value: Promise<unknown> }>;
const kept = new WeakMap<Knex, Kept>();
const WRITES = /^(?:insert into|update|delete from) "(\w+)"/;
const WRITES_NOTHING = /^\s*(select|savepoint|release|rollback|commit|begin)\b/i;

/**
 * The runner begins it with each change: what a change reads it has until it writes to a table that this
 * rests on.
 */
export function keepIn(trx: Knex): void {
  const reads: Kept = new Map();
  kept.set(trx, reads);
  trx.on("query", ({ sql }: { sql: string }) => {
    if (WRITES_NOTHING.test(sql)) return;
    const written = WRITES.exec(sql)?.[1];
    for (const [key, { tables }] of reads)
      if (written === undefined || (tables as readonly string[]).includes(written)) reads.delete(key);
  });
}
/** Outside a change it reads each time. `tables`: all that the reading rests on. */
export function onceIn<T>(
  db: Knex,
  key: string,
  tables: readonly (keyof TableRow)[],
  read: () => Promise<T>,
): Promise<T> {
  const had = kept.get(db);
  if (!had) return read();
  const value = had.get(key)?.value ?? read();
  had.set(key, { tables, value });
  return value as Promise<T>;
}

/** A row that somebody changed. */
export const touched = (db: Knex, actor: Actor) => ({
  version: db.raw("version + 1"),
  changed_by: actor.id,
  changed_at: actor.at ?? db.fn.now(),
});

export const nothing = {} as Record<string, never>;
