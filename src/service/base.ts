import "server-only";

import type { Knex } from "knex";

import type { Refusal, Role } from "@/contract/deeds";
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

/** An expected refusal inside a transaction: thrown so that nothing of the deed stays, answered as a value. */
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

const kept = new WeakMap<Knex, Map<string, Promise<unknown>>>();
/** The runner begins it with each change: what a change reads once, it has for all of itself. */
export const keepIn = (trx: Knex): void => void kept.set(trx, new Map());
export function onceIn<T>(db: Knex, key: string, read: () => Promise<T>): Promise<T> {
  const had = kept.get(db);
  if (!had) return read();
  const value = had.get(key) ?? read();
  had.set(key, value);
  return value as Promise<T>;
}
/** A change wrote it anew. */
export const readAgain = (db: Knex, key: string): void => void kept.get(db)?.delete(key);

/** A row that somebody changed. */
export const touched = (db: Knex, actor: Actor) => ({
  version: db.raw("version + 1"),
  changed_by: actor.id,
  changed_at: actor.at ?? db.fn.now(),
});

export const nothing = {} as Record<string, never>;
