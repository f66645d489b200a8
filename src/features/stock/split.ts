import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { z } from "@/core/base/schema";
import { partOf } from "@/core/parts/catalogue";
import { splitCost } from "@/core/parts/cost";
import { say } from "@/features/parts/words/words";
import { countOf, rowOf } from "@/platform/db/joined";
import { Refused, nothing, stamp } from "@/platform/deed/base";
import { deed } from "@/platform/deed/declare";
import { loadCatalogue } from "./catalogue";
import { mustBeOpen, newBatch, takeOut } from "./deeds";

/** A batch of assemblies taken apart into pieces, and put together again. */

export const split = deed(
  "stock.split",
  { batch: (i) => i.batchId },
  async (work, { count: n, lines, bin, why }) => {
    const { db, note, batch } = work;
    mustBeOpen(batch);
    const { value: catalogue } = await loadCatalogue(db);
    const whole = partOf(catalogue, batch.part);
    if (!whole || whole.contents.length === 0) throw new Refused({ code: "part-unknown", part: batch.part });
    if (lines.length !== new Set(lines.map((l) => l.part)).size)
      throw new Refused({ code: "bad-input", issues: [{ path: "lines", message: say("eachPieceOnce") }] });
    const stranger = lines.find((l) => !whole.contents.some((c) => c.part === l.part));
    if (stranger) throw new Refused({ code: "part-unknown", part: stranger.part });
    const cost = await takeOut(work, batch, { count: n, held: 0, kind: "split", unitId: null, why });
    const spread = splitCost(
      cost,
      lines.map((l) => ({ ...l, weight: whole.contents.find((c) => c.part === l.part)!.weight })),
    );
    const codes: string[] = [];
    for (const [i, l] of lines.entries()) {
      if (l.good === 0) continue;
      const made = await newBatch(
        work,
        {
          part: l.part,
          source: "split",
          supplier: batch.supplier,
          from_batch_id: batch.id,
          bin,
          pieces: l.good,
          cost_minor: spread.cost[i]!,
          status: "open",
        },
        `${n} of ${batch.code} taken apart, ${l.good} good, ${l.bad} bad`,
      );
      codes.push(made.code);
    }
    // what the list says and what was in it
    const short = whole.contents.flatMap((c) => {
      const line = lines.find((l) => l.part === c.part);
      const found = (line?.good ?? 0) + (line?.bad ?? 0);
      return found === c.count * n ? [] : [{ part: c.part, listed: c.count * n, found }];
    });
    note("batch-split", null, { batch: batch.code, count: n, cost, into: codes, yield: spread.yield, short });
    return { codes };
  },
);

const splitSchema = z.object({ count: z.number(), cost: z.number(), into: z.array(z.string()) });

export type Split = { id: string; count: number; cost: number; into: string[] };

/**
 * The last taking apart of a batch that still stands, with what it cost; null when there is none, or it is
 * from before costs were noted.
 */
export async function lastSplit(db: Knex, code: string): Promise<Split | null> {
  const row = await rowOf(
    db("event as e")
      .where({ "e.kind": "batch-split" })
      .whereRaw("e.body->>'batch' = ?", [code])
      .whereRaw("e.body->>'cost' is not null")
      .whereNotExists(
        db("event as j").where({ "j.kind": "batch-joined" }).whereRaw("(j.body->>'split')::bigint = e.id"),
      )
      .orderBy("e.id", "desc"),
    { e: "event" },
    "e.id",
    "e.body",
  );
  return row ? { id: row.id, ...splitSchema.parse(row.body) } : null;
}

async function piecesOfSplit({ batchId }: { batchId: Id<"batch"> }, db: Knex): Promise<string[]> {
  const batch = await db("batch").where({ id: batchId }).first("code");
  const last = batch ? await lastSplit(db, batch.code) : null;
  return last ? db("batch").whereIn("code", last.into).pluck("id") : [];
}

/** Takes the last taking apart back: the kits are there again at their cost, and the pieces never were. */
export const join = deed("stock.join", { batch: (i) => i.batchId, batches: piecesOfSplit }, async (work) => {
  const { db, actor, note, batch, batches } = work;
  mustBeOpen(batch);
  const last = await lastSplit(db, batch.code);
  if (!last) throw new Refused({ code: "not-found", what: say("takingApartThatCanBeTaken") });
  for (const code of [...last.into].sort()) {
    const piece = [...batches.values()].find((b) => b.code === code)!;
    const moved = await countOf(db("movement").where({ batch_id: piece.id }));
    if (moved !== 1 || piece.reserved > 0 || piece.on_hand !== piece.pieces)
      throw new Refused({ code: "batch-touched", batch: code });
    await takeOut(work, piece, {
      count: piece.on_hand,
      held: 0,
      kind: "joined",
      unitId: null,
      why: `into ${batch.code}`,
    });
    await db("batch")
      .where({ id: piece.id })
      .update({ status: "disposed", status_why: `put together again in ${batch.code}` });
  }
  await db("batch")
    .where({ id: batch.id })
    .update({
      on_hand: batch.on_hand + last.count,
      value_minor: batch.value_minor + last.cost,
      version: db.raw("version + 1"),
    });
  await db("movement").insert({
    batch_id: batch.id,
    kind: "joined",
    delta: last.count,
    minor: last.cost,
    why: "the taking apart is taken back",
    ...stamp(db, actor),
  });
  note("batch-joined", null, { batch: batch.code, split: last.id, count: last.count, from: last.into });
  return nothing;
});

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [join, split] as const;
