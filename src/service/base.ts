import "server-only";

import type { Knex } from "knex";

import type { DeedParsed, DeedName, Refusal, Role, ValueOf } from "@/contract/deeds";

/** Who acts. `at` dates the act when it did not happen just now (the demo's two weeks of history). */
export type Actor = { id: string; name: string; role: Role; epoch: number; at?: Date };

/** Who and when, for a row that somebody adds. */
export const stamp = (db: Knex, actor: Actor) => ({ by: actor.id, at: actor.at ?? db.fn.now() });

/** An expected refusal inside a transaction: thrown so that nothing of the deed stays, answered as a value. */
export class Refused extends Error {
  constructor(readonly problem: Refusal) {
    super(problem.code);
  }
}

export type Deed<D extends DeedName> = (db: Knex, actor: Actor, input: DeedParsed<D>) => Promise<ValueOf<D>>;

/** Writes down who did what; this record is only ever added to. */
export async function note(db: Knex, actor: Actor, kind: string, unitId: string | null, body: object): Promise<void> {
  await db("event").insert({ kind, unit_id: unitId, body: JSON.stringify(body), ...stamp(db, actor) });
}

export const nothing = {} as Record<string, never>;
