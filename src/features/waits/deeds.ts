import "server-only";

import type { Knex } from "knex";

import type { DeedParsed } from "@/contract/deeds";
import type { WaitKind } from "@/contract/waits";
import { nothing, Refused, stamp } from "@/platform/deed/base";
import { deed, type Work } from "@/platform/deed/declare";
import { one } from "@/core/base/one";
import { rowsOf } from "@/platform/db/joined";
import { say } from "@/features/mend/words/words";
import type { Id } from "@/core/base/ids";

/**
 * Soaks, drying, curing, charging: each has its end on the server, so that it outlives every page and every
 * restart.
 */

export type WaitView = {
  id: string;
  unitId: Id<"unit"> | null;
  tag: string | null;
  tray: number | null;
  kind: WaitKind;
  what: string;
  startedAt: string;
  endsAt: string;
};

/** Waits that run, or are over and nobody has seen it yet. */
export async function openWaits(db: Knex, unitId?: Id<"unit">): Promise<WaitView[]> {
  const open = db("wait")
    .leftJoin("unit as u", "u.id", "wait.unit_id")
    .whereNull("seen_at")
    .orderBy("ends_at");
  if (unitId !== undefined) void open.where("wait.unit_id", unitId);
  const rows = await rowsOf(
    open,
    { wait: "wait", u: "unit?" },
    "wait.id",
    "wait.unit_id",
    "u.tag",
    "u.tray",
    "wait.kind",
    "wait.what",
    "wait.at",
    "wait.ends_at",
  );
  return rows.map((r) => ({
    id: r.id,
    unitId: r.unit_id,
    tag: r.tag,
    tray: r.tray,
    kind: r.kind,
    what: r.what,
    startedAt: r.at.toISOString(),
    endsAt: r.ends_at.toISOString(),
  }));
}

/** Begins a wait; its end is the server's. */
export async function beginWait(
  { db, actor, note }: Work,
  { unitId, kind, what, minutes }: DeedParsed<"wait.start">,
) {
  const from = actor.at ?? new Date();
  const ends = new Date(from.getTime() + minutes * 60_000);
  const row = one(
    (
      await db("wait")
        .insert({ unit_id: unitId, kind, what, ends_at: ends, ...stamp(db, actor) })
        .returning("id")
    )[0],
  );
  note("wait-started", unitId, { kind, what, minutes });
  return { id: row.id, endsAt: ends.toISOString() };
}

export const startWait = deed("wait.start", { unit: (i) => i.unitId, workable: true }, beginWait);

/** What ran out for a unit needs nobody to see it any more once its work is closed; what still runs stays. */
export async function endWaits({ db, actor }: Work, unitId: Id<"unit">): Promise<void> {
  await db("wait")
    .where({ unit_id: unitId, seen_at: null })
    .where("ends_at", "<=", actor.at ?? db.fn.now())
    .update({ seen_at: actor.at ?? db.fn.now(), seen_by: actor.id, outcome: "closed with its work order" });
}

async function lockWait(
  db: Knex,
  id: string,
): Promise<{ id: string; unit_id: string | null; what: string; kind: string; seen_at: Date | null }> {
  const row = await db("wait").where({ id }).forUpdate().first();
  if (!row) throw new Refused({ code: "not-found", what: "wait" });
  if (row.seen_at) throw new Refused({ code: "already", what: say("endOfTheWait") });
  return row;
}

export const moveWait = deed("wait.move", {}, async ({ db, note }, { waitId, minutes }) => {
  const wait = await lockWait(db, waitId);
  // a wait that is over goes on from now
  await db("wait")
    .where({ id: wait.id })
    .update({ ends_at: db.raw("greatest(ends_at, now()) + make_interval(secs => ?)", [minutes * 60]) });
  note("wait-moved", wait.unit_id, { what: wait.what, minutes });
  return nothing;
});

export const seeWait = deed("wait.seen", {}, async ({ db, actor, note }, { waitId, outcome }) => {
  const wait = await lockWait(db, waitId);
  await db("wait")
    .where({ id: wait.id })
    .update({ seen_at: actor.at ?? db.fn.now(), seen_by: actor.id, outcome });
  note("wait-ended", wait.unit_id, { kind: wait.kind, what: wait.what, outcome });
  return nothing;
});

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [moveWait, seeWait, startWait] as const;
