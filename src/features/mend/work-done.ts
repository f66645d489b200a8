import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { one } from "@/core/base/one";
import { cleaningPlan } from "@/core/mend/cleaning";
import { isRefTo, refOf, refTo } from "@/core/mend/ref";
import { type WorkEvent, add } from "@/core/mend/work";
import { say } from "@/features/mend/words/words";
import { insertDamage } from "@/features/prove/damage";
import { beginWait, endWaits, openWaits } from "@/features/waits/deeds";
import type { UnitRow } from "@/platform/db/tables";
import { Refused, nothing, stamp } from "@/platform/deed/base";
import { type Work, deed, unitOf } from "@/platform/deed/declare";
import { logMend } from "./deeds";
import { mustHaveLooked } from "./looks";
import { type Loaded, heldOrder, nameOf, problem } from "./order";
import { type Retest, settleByRetest } from "./retest";
import { mustBeTestedFirst } from "./rungs";

/**
 * The last test that was made here after a moment, of the purposes that count; a file or one played back is
 * none.
 */
const testAfter = (db: Knex, unitId: Id<"unit">, moment: Date | null, purposes: readonly string[]) =>
  db("recording")
    .where({ unit_id: unitId })
    .whereIn("purpose", purposes)
    .where((w) =>
      w
        .where({ source: "simulated" })
        .orWhere((live) => live.where({ source: "gamepad" }).whereNotNull("opened_at"))
        .orWhereNotNull("taken_why"),
    )
    .where("started_at", ">", moment ?? new Date(0))
    .orderBy("started_at", "desc")
    .first("id", "grades", "analysis", "started_at");

export const doWork = deed(
  "work.do",
  {
    unit: unitOf("work_order", (i) => i.orderId, say("workOrder2")),
    batches: ({ fromStock }) => (fromStock ? [fromStock.batchId] : []),
    workable: true,
  },
  async (work, { orderId, event: asked, tookMs, note: words, fromStock, part, partMinor }) => {
    const { db, actor, note, unit } = work;
    const loaded = await heldOrder(db, orderId, null);
    const { guide, state, tasks, events } = loaded;
    let event: WorkEvent;
    let test: ({ id: string } & Retest) | undefined;
    if (asked.kind === "gate") {
      const last = events
        .filter((e) =>
          (asked.gate === "open" ? ["apart", "task", "again"] : ["apart", "back", "task"]).includes(
            e.body.kind,
          ),
        )
        .at(-1);
      test = await testAfter(
        db,
        unit.id,
        last?.at ?? null,
        asked.gate === "open" ? ["quick", "spot", "full"] : ["full"],
      );
      if (!test && (asked.gate === "closed" || asked.why === ""))
        throw new Refused({ code: "test-first", which: asked.gate });
      event = { kind: "gate", gate: asked.gate, recordingId: test?.id ?? null, why: asked.why };
    } else event = asked;
    if (
      event.kind === "task" &&
      !tasks.includes(event.task) &&
      !loaded.order.body.calibrate.some((s) => refTo("calibrate", s) === (event as { task: string }).task)
    )
      throw new Refused({ code: "not-found", what: say("taskOfTheWorkOrder") });
    const target =
      event.kind === "task"
        ? loaded.order.body.targets.find((t) => refTo("mend", t.key) === (event as { task: string }).task)
        : undefined;
    if (target) {
      await mustBeTestedFirst(db, loaded, target);
      await mustHaveLooked(db, loaded);
    }
    const done = add(guide, state, event, tasks);
    if (!done.ok) throw problem(loaded, done.problem);
    if (event.kind === "task" && isRefTo("calibrate", event.task))
      await mustBeCalibrated(db, loaded, one(refOf(event.task)).id);
    // evidence that fits nothing means another break: it is settled before the shell shuts
    const closing =
      (event.kind === "back" && done.value.apart.length === 0) ||
      (event.kind === "gate" && event.gate === "closed");
    if (closing) {
      const loose: number[] = await db("fragment")
        .where({ unit_id: unit.id, matched_to: null, explained: "" })
        .orderBy("number")
        .pluck("number");
      if (loose.length) throw new Refused({ code: "loose-fragments", numbers: loose });
    }
    if (closing || event.kind === "gate") await mustBeDry(db, unit.id);
    const mendId =
      event.kind === "task" && isRefTo("mend", event.task)
        ? await logTask(work, unit, loaded, event.task, { tookMs, words, fromStock, part, partMinor })
        : null;
    await db("work_event").insert({
      work_order_id: orderId,
      body: JSON.stringify(event),
      minutes: tookMs === null ? null : Math.round(tookMs / 600) / 100,
      note: words,
      mend_id: mendId,
      ...stamp(db, actor),
    });
    if (event.kind === "explained" && isRefTo("clip", event.item) && event.fate !== "missing-before")
      await insertDamage(work, unit.id, {
        place: nameOf(guide, state, event.item),
        what: `clip ${event.fate}: ${event.why}`,
        clipLost: true,
        stillFirm: null,
      });
    if (event.kind === "task") await startItsWait(work, unit, loaded, event.task);
    if (event.kind === "gate" && event.gate === "closed") await closeOrder(work, unit, loaded, test!);
    note("work-step", unit.id, event);
    return { done: event.kind === "gate" && event.gate === "closed" };
  },
);

/** A calibration is done when the unit has kept one since the order was opened. */
async function mustBeCalibrated(db: Knex, { order }: Loaded, stick: string): Promise<void> {
  const kept = await db("calibration")
    .where({ unit_id: order.unit_id, stick })
    .where("saved_at", ">", order.at)
    .first("id");
  if (!kept) throw new Refused({ code: "calibrate-first", stick });
}

/** No power and no closing while something still soaks, dries or cures. */
async function mustBeDry(db: Knex, unitId: Id<"unit">): Promise<void> {
  const waits = (await openWaits(db, unitId))
    .filter((w) => w.kind !== "charge" && w.kind !== "air")
    .map((w) => ({ what: w.what, minutes: Math.ceil((Date.parse(w.endsAt) - Date.now()) / 60_000) }))
    .filter((w) => w.minutes > 0);
  if (waits.length) throw new Refused({ code: "still-waiting", waits }); // all of them at once
}

/** What soaks and dries after a cleaning, or cures after a mend, begins with the tick. */
async function startItsWait(
  work: Work,
  unit: UnitRow,
  { guide, order }: Loaded,
  task: string,
): Promise<void> {
  const job = cleaningPlan(guide, order.body.cleaningLevel).find((j) => refTo("clean", j.surface) === task);
  const target = order.body.targets.find((t) => refTo("mend", t.key) === task);
  const minutes = job ? job.soakMinutes + job.dryMinutes : (target?.waitMinutes ?? 0);
  if (minutes <= 0) return;
  const what = job
    ? `${job.soakMinutes ? "soak and dry" : "dry"}: ${job.name}`
    : `cure: ${target!.what}`.slice(0, 80);
  const kindOf = () => {
    if (job) {
      if (job.soakMinutes) return "soak";
      return "dry";
    }
    return "cure";
  };
  await beginWait(work, {
    unitId: unit.id,
    kind: kindOf(),
    what,
    minutes,
  });
}

/** Takes the last step back, as long as it logged no mend; the record of events keeps both. */
export const undoWork = deed(
  "work.undo",
  { unit: unitOf("work_order", (i) => i.orderId, say("workOrder2")), workable: true },
  async (work, { orderId }) => {
    const { db, note, unit } = work;
    await heldOrder(db, orderId, null);
    const last = await db("work_event")
      .where({ work_order_id: orderId, undone: false })
      .orderBy("id", "desc")
      .first("id", "body", "mend_id");
    if (!last) throw new Refused({ code: "not-found", what: say("stepToTakeBack") });
    if (last.mend_id) throw new Refused({ code: "logged-mend" });
    await db("work_event").where({ id: last.id }).update({ undone: true });
    note("work-undone", unit.id, last.body);
    return nothing;
  },
);

type MendDetails = {
  tookMs: number | null;
  words: string;
  fromStock: { batchId: Id<"batch">; slot: string } | null;
  part: string;
  partMinor: number;
};

async function logTask(
  work: Work,
  unit: UnitRow,
  { order }: Loaded,
  task: string,
  d: MendDetails,
): Promise<string> {
  const target = order.body.targets.find((t) => refTo("mend", t.key) === task)!;
  const { id } = await logMend(work, unit, {
    unitId: unit.id,
    faultId: target.faultId,
    what: target.what,
    part: d.part,
    minutes: Math.max(1, Math.round((d.tookMs ?? target.minutes * 60_000) / 60_000)),
    remark: d.words,
    opened: true,
    settlesFault: false,
    route: target.route,
    outcome: null,
    partMinor: d.partMinor,
    partGift: "",
    fromStock: d.fromStock,
    marksGone: [],
    cause: "not-known",
    provisional: null,
  });
  // the test after closing says whether it worked
  await work.db("mend").where({ id }).update({ outcome: null, credit: null });
  return id;
}

/**
 * What the order did besides its mends, as its events show it; nothing is said to be clean that nobody
 * cleaned.
 */
function doneWords(events: readonly WorkEvent[]): string {
  const apart = events.some((e) => e.kind === "apart");
  const cleaned = events.some((e) => e.kind === "task" && isRefTo("clean", e.task));
  const calibrated = events.some((e) => e.kind === "task" && isRefTo("calibrate", e.task));
  const parts = [
    apart && "taken apart and put back",
    cleaned && "cleaned",
    calibrated && "calibrated",
  ].filter(Boolean);
  const words = parts.length ? parts.join(", ") : "worked on";
  return `${words.charAt(0).toUpperCase()}${words.slice(1)} by the work order`;
}

/**
 * The order ends: the test after closing settles each fault that it was for, and the minutes of opening and
 * closing are logged.
 */
async function closeOrder(work: Work, unit: UnitRow, { order, events }: Loaded, test: Retest): Promise<void> {
  const { db, actor } = work;
  const lastWork = events.filter((e) => e.body.kind !== "gate").at(-1)?.at ?? new Date();
  const opening = events.reduce(
    (sum, e) => sum + (e.body.kind === "task" && isRefTo("mend", e.body.task) ? 0 : (e.minutes ?? 0)),
    0,
  );
  if (opening >= 0.5)
    await logMend({ ...work, actor: { ...actor, at: lastWork } }, unit, {
      unitId: unit.id,
      faultId: null,
      what: doneWords(events.map((e) => e.body)),
      part: "",
      minutes: Math.round(opening),
      remark: "",
      opened: true,
      settlesFault: false,
      route: null,
      outcome: null,
      partMinor: 0,
      partGift: "",
      fromStock: null,
      marksGone: [],
      cause: "not-known",
      provisional: null,
    });
  const targets = order.body.targets.flatMap((t) => t.faultId ?? []);
  await settleByRetest(work, unit, targets, test, lastWork);
  await endWaits(work, unit.id);
  await db("work_order")
    .where({ id: order.id })
    .update({ status: "closed", closed_at: actor.at ?? db.fn.now(), version: order.version + 1 });
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [doWork, undoWork] as const;
