import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { refTo } from "@/core/mend/ref";
import { Refused } from "@/platform/deed/base";
import { rowsOf } from "@/platform/db/joined";
import type { Loaded } from "./order";

/** The rungs of a ladder inside one work order: one is begun after the test of the one before it, and not without. */

type Mended = { faultId: Id<"fault">; place: string; at: Date };

/** The last mend of each fault that was done in an order. */
async function mendedIn(db: Knex, { order, events }: Loaded): Promise<Mended[]> {
  const done = order.body.targets.flatMap((t) => {
    const last = events.filter((e) => e.body.kind === "task" && e.body.task === refTo("mend", t.key)).at(-1);
    return t.faultId && last ? [{ faultId: t.faultId, at: last.at }] : [];
  });
  if (done.length === 0) return [];
  const faults = await rowsOf(
    db("fault as f").whereIn(
      "f.id",
      done.map((d) => d.faultId),
    ),
    { f: "fault" },
    "f.id",
    "f.place",
    "f.status",
  );
  return faults.flatMap((f) => {
    const mends = done.filter((d) => d.faultId === f.id).sort((a, b) => a.at.getTime() - b.at.getTime());
    return f.status === "open" ? [{ faultId: f.id, place: f.place, at: mends.at(-1)!.at }] : [];
  });
}

/**
 * What the last test since then says of a place: null where there was none, or it could not tell. A quick look may
 * show that it still fails, and never that it is good.
 */
async function goodSince(db: Knex, unitId: Id<"unit">, { place, at }: Mended): Promise<boolean | null> {
  const test = await db("recording")
    .where({ unit_id: unitId })
    .where("started_at", ">", at)
    .orderBy("started_at", "desc")
    .first("grades", "purpose");
  const grade = test?.grades[place];
  if (grade === "fail") return false;
  if (test && grade !== undefined && grade !== "untested") return test.purpose === "quick" ? null : true;
  const answer = await db("function_check")
    .where({ unit_id: unitId, function_id: place })
    .where("at", ">", at)
    .orderBy("id", "desc")
    .first("result");
  if (answer?.result === "pass") return true;
  return answer?.result === "fail" ? false : null;
}

/** Faults that were mended in an order and still fail by the test after it. */
export async function failedSince(db: Knex, loaded: Loaded): Promise<Id<"fault">[]> {
  const failed: Id<"fault">[] = [];
  for (const m of await mendedIn(db, loaded))
    if ((await goodSince(db, loaded.order.unit_id, m)) === false) failed.push(m.faultId);
  return failed;
}

/**
 * Refuses a second way of mending a fault in one order before the first was tested: two mends before one test would
 * share whatever it says, and nobody would know what helped. Asked as it is done, however it came into the order.
 */
export async function mustBeTestedFirst(
  db: Knex,
  loaded: Loaded,
  target: { key: number; faultId: string | null },
): Promise<void> {
  const others = loaded.order.body.targets.filter((t) => t.key !== target.key);
  const order = { ...loaded.order, body: { ...loaded.order.body, targets: others } };
  for (const m of await mendedIn(db, { ...loaded, order }))
    if (m.faultId === target.faultId && (await goodSince(db, order.unit_id, m)) === null)
      throw new Refused({ code: "rung-untested", place: m.place });
}

/** The same when a second way is put into the order; gives the faults whose mend was in vain. */
export async function mustBeTestedBetween(
  db: Knex,
  loaded: Loaded,
  targets: readonly { key: number; faultId: string | null }[],
): Promise<Id<"fault">[]> {
  const again: Id<"fault">[] = [];
  const before = new Set(loaded.order.body.targets.map((t) => t.key));
  const added = targets.filter((t) => !before.has(t.key) && t.faultId !== null);
  for (const m of await mendedIn(db, loaded)) {
    if (!added.some((t) => t.faultId === m.faultId)) continue;
    const good = await goodSince(db, loaded.order.unit_id, m);
    if (good === null) throw new Refused({ code: "rung-untested", place: m.place });
    if (!good) again.push(m.faultId);
  }
  return again;
}
