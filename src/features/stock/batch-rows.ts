import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { asked, figuresOf } from "@/platform/db/joined";

/** What batches.ts and its view both ask of the rows. */

/**
 * Incoming inspection: readings piece by piece, what they say of the batch, and who holds a piece of a bad
 * one.
 */

/**
 * Minutes of work again when a bad piece is only found once it is fitted: out, another in, and the retest.
 * House guess.
 */
export const WORK_AGAIN = 25;

export const counted = (
  db: Knex,
  batchId: Id<"batch">,
): Promise<{ measured: number; bad: number; minutes: number }> =>
  figuresOf(
    db("piece_reading").where({ batch_id: batchId }),
    db.raw(
      "count(*)::int as measured, count(*) filter (where verdict = 'bad')::int as bad, coalesce(sum(took_ms), 0)::float / 60000 as minutes",
    ),
  );

export async function familyOf(db: Knex, batchId: Id<"batch">): Promise<string[]> {
  const rows = await asked<{ id: string }>(
    db,
    `with recursive kin as (
       select id from batch where id = ? union select b.id from batch b join kin on b.from_batch_id = kin.id
     ) select id from kin order by id`,
    [batchId],
  );
  return rows.map((r) => r.id);
}
