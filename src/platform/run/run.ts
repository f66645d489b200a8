import "server-only";

import type { Knex } from "knex";

import { type DeedName, type DeedParsed, DEEDS } from "@/contract/deeds";
import type { Reply } from "@/contract/refusals";
import { thenOf } from "@/contract/events";
import { issuesOf } from "@/contract/words";
import { troubleOf } from "@/platform/db/trouble";
import { type Actor, keepIn, overtaken, Refused } from "@/platform/deed/base";
import { refreshOutcomes } from "@/features/case/outcome";
import type { BatchRow, UnitRow } from "@/platform/db/tables";
import { mustBeWorkable } from "@/features/case/workable";
import { refreshStandings } from "@/features/case/standing";
import { problemOf } from "@/platform/deed/trouble";
import { type Change, type Deed, type Locks, Stale, type Work } from "@/platform/deed/declare";
import { countCost } from "@/platform/deed/cost";
import { type Happening, writeEvents } from "@/platform/deed/events";
import { one } from "@/core/base/one";
import { say } from "@/words/refusals";

/** What every change does around its body. */

/**
 * Does a change inside a transaction: takes the locks in one order (units by id, then batches by id; what
 * else a body locks comes after), does the body, writes its events, and works out again what they bear on.
 */
export async function runChange<I, V>(
  trx: Knex,
  actor: Actor,
  { locks, body }: Change<I, V>,
  input: I,
  prepared?: unknown,
): Promise<V> {
  keepIn(trx);
  const held = await takeLocks(trx, actor, locks, input);
  const happenings: Happening[] = [];
  const note: Work["note"] = (kind, unitId, said) =>
    void happenings.push({ kind, unitId, body: said, by: actor.id, ...(actor.at ? { at: actor.at } : {}) });
  const value = await body({ db: trx, actor, note, ...held, prepared }, input);
  await runEvents(trx, happenings);
  return value;
}

async function takeLocks<I>(trx: Knex, actor: Actor, locks: Locks<I>, input: I) {
  const unitId = (await locks.unit?.(input, trx)) ?? null;
  const unitIds = [...(unitId === null ? [] : [unitId]), ...((await locks.units?.(input, trx)) ?? [])];
  const units = byId(await lockUnits(trx, unitIds));
  const unit = mustHave(units, unitId, "unit");
  if (locks.seen === "unit" && unit) await mustBeSeen(trx, actor, unit, versionIn(input));
  if (locks.workable && unit) mustBeWorkable(unit);
  const batchId = (await locks.batch?.(input, trx)) ?? null;
  const batchIds = [...(batchId === null ? [] : [batchId]), ...((await locks.batches?.(input, trx)) ?? [])];
  const batches = byId(await lockBatches(trx, batchIds));
  const batch = mustHave(batches, batchId, "batch");
  if (locks.seen === "batch" && batch && batch.version !== versionIn(input)) throw overtaken();
  return { units, unit, batches, batch };
}

const versionIn = (input: unknown): unknown => (input as { version: unknown }).version;
const byId = <R extends { id: string }>(rows: readonly R[]): Map<string, R> =>
  new Map(rows.map((r) => [r.id, r]));

function mustHave<R>(rows: ReadonlyMap<string, R>, id: string | null, what: string): R | null {
  if (id === null) return null;
  const row = rows.get(id);
  if (!row) throw new Refused({ code: "not-found", what });
  return row;
}

// always in the order of the ids, so that two who lock several wait for each other and never lock up
const lockUnits = async (trx: Knex, ids: readonly string[]): Promise<UnitRow[]> =>
  ids.length === 0
    ? []
    : trx("unit")
        .whereIn("id", [...new Set(ids)])
        .orderBy("id")
        .forUpdate()
        .select("*");
const lockBatches = async (trx: Knex, ids: readonly string[]): Promise<BatchRow[]> =>
  ids.length === 0
    ? []
    : trx("batch")
        .whereIn("id", [...new Set(ids)])
        .orderBy("id")
        .forUpdate()
        .select("*");

/** Refuses a change by somebody who looked before the last one. */
async function mustBeSeen(trx: Knex, actor: Actor, unit: UnitRow, version: unknown): Promise<void> {
  if (unit.version === version) return;
  const by =
    unit.changed_by === actor.id
      ? say("youInAnotherWindow")
      : one(await trx("person").where({ id: unit.changed_by }).first("name")).name;
  throw new Refused({ code: "changed-meanwhile", by, at: unit.changed_at.toISOString() });
}

/** Writes down what happened and works out again what it bears on. */
export async function runEvents(trx: Knex, happenings: readonly Happening[]): Promise<void> {
  await writeEvents(trx, happenings);
  await follow(trx, happenings);
}

/** Works out again what the events bear on, each once, in the order of the ids. */
async function follow(trx: Knex, happenings: readonly Pick<Happening, "kind" | "unitId">[]): Promise<void> {
  const of = (then: "standing" | "outcome") =>
    happenings.flatMap((h) => (h.unitId !== null && thenOf(h.kind).includes(then) ? [h.unitId] : []));
  await refreshOutcomes(trx, [...new Set(of("outcome"))].sort());
  const all = happenings.some((h) => thenOf(h.kind).includes("open-units"));
  const open = all ? await trx("unit").whereNull("ending").pluck("id") : [];
  await refreshStandings(trx, [...new Set([...of("standing"), ...open])]);
}

class SecondSend extends Error {}
/**
 * How often a change is done anew that locked up with another, and one whose ground others moved: as many
 * hands as fit one batch.
 */
const TRIES = { busy: 3, stale: 10 };

/**
 * Does one deed: the role is checked, the input is parsed, and the change, its record and its receipt are one
 * transaction. The same request id again has no further effect and gets the first reply.
 */
export async function perform<D extends DeedName>(
  db: Knex,
  actor: Actor,
  deed: Deed<D>,
  requestId: string,
  raw: unknown,
): Promise<Reply> {
  const { roles, input } = DEEDS[deed.name];
  if (!(roles as readonly string[]).includes(actor.role))
    return { ok: false, problem: { code: "not-allowed", role: actor.role } };
  const parsed = input.safeParse(raw);
  if (!parsed.success) return { ok: false, problem: { code: "bad-input", issues: issuesOf(parsed.error) } };
  for (let tries = 1; ; tries++) {
    const reply = await attempt(db, actor, deed, requestId, parsed.data as DeedParsed<D>, tries);
    if (reply) return reply;
  }
}

/** Null when it has to be done again. */
async function attempt<D extends DeedName>(
  db: Knex,
  actor: Actor,
  deed: Deed<D>,
  requestId: string,
  input: DeedParsed<D>,
  tries: number,
): Promise<Reply | null> {
  try {
    const prepared = await deed.prepare?.(input, db);
    let told = () => {};
    const reply = await db.transaction(async (trx): Promise<Reply> => {
      told = countCost(deed.name, trx);
      const fresh = await trx("deed_receipt")
        .insert({ request_id: requestId, deed: deed.name, person_id: actor.id, reply: "{}" })
        .onConflict("request_id")
        .ignore()
        .returning("request_id");
      if (fresh.length === 0) throw new SecondSend();
      const reply: Reply = { ok: true, value: await runChange(trx, actor, deed, input, prepared) };
      await trx("deed_receipt")
        .where({ request_id: requestId })
        .update({ reply: JSON.stringify(reply) });
      return reply;
    });
    told();
    return reply;
  } catch (error) {
    if (error instanceof SecondSend) return firstReply(db, actor, deed.name, requestId);
    // two that wait for each other: the database ends one, and nothing of it stays. Done again, it goes
    // through.
    if (error instanceof Stale ? tries < TRIES.stale : troubleOf(error) === "busy" && tries < TRIES.busy)
      return null;
    if (error instanceof Stale) return { ok: false, problem: overtaken().problem };
    return { ok: false, problem: problemOf(error, { what: deed.name, by: actor.id, request: requestId }) };
  }
}

async function firstReply(db: Knex, actor: Actor, deed: DeedName, requestId: string): Promise<Reply> {
  const row = await db("deed_receipt")
    .where({ request_id: requestId, person_id: actor.id, deed })
    .first("reply");
  return row ? row.reply : { ok: false, problem: { code: "already", what: "request" } };
}
