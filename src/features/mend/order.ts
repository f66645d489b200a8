import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { one } from "@/core/base/one";
import type { StepLog } from "@/core/mend/minutes";
import { taskKeys } from "@/core/mend/order";
import { refOf, refTo } from "@/core/mend/ref";
import type { add } from "@/core/mend/work";
import { type WorkEvent, type WorkState, replay } from "@/core/mend/work";
import { type MendGuide, guideOf } from "@/core/profile/guide";
import type { ModelProfile } from "@/core/profile/profile";
import { say } from "@/features/mend/words/words";
import { modelById } from "@/features/models/deeds";
import { saveValue } from "@/features/settings/settings";
import type { WorkEventRow, WorkOrderRow } from "@/platform/db/tables";
import { Refused, nothing, overtaken } from "@/platform/deed/base";
import { deed } from "@/platform/deed/declare";
import { untilNoted } from "@/platform/deed/noted";
import { fastenerName } from "@/text/names";

/** A work order as it stands: what was asked, what was done of it, how long its steps take here. */

type EventRow = Pick<WorkEventRow, "id" | "body" | "minutes" | "note" | "at" | "by">;

export type Loaded = {
  order: WorkOrderRow;
  profile: ModelProfile;
  guide: MendGuide;
  events: EventRow[];
  state: WorkState;
  tasks: string[];
};

async function load(db: Knex, order: WorkOrderRow): Promise<Loaded> {
  const profile = (await modelById(db, order.profile_id)).body;
  if (!profile.guide) throw new Refused({ code: "no-guide" });
  const guide = guideOf(profile.guide, order.revision);
  const events = await db("work_event")
    .where({ work_order_id: order.id, undone: false })
    .orderBy("id")
    .select("id", "body", "minutes", "note", "at", "by");
  return {
    order,
    profile,
    guide,
    events,
    state: replay(
      guide,
      events.map((e) => e.body),
    ),
    tasks: taskKeys(guide, order.body),
  };
}

export async function openOrder(db: Knex, unitId: Id<"unit">): Promise<Loaded | null> {
  const row = await db("work_order").where({ unit_id: unitId, status: "open" }).first();
  return row ? load(db, row) : null;
}

/**
 * Work orders of a model that are looked at for what its steps take: how it is done now counts, not years
 * ago.
 */
const LOG_ORDERS = 120;

/** The times that the steps of a model took in its newest work orders. */
export const stepTimes = (db: Knex, model: string): Promise<StepLog> =>
  untilNoted(db, `step times ${model}`, ["work-step", "work-undone", "work-changed"], async () => {
    const profiles = db("model_profile").where({ key: model }).select("id");
    const orders = await db("work_order")
      .whereIn("profile_id", profiles)
      .orderBy("at", "desc")
      .limit(LOG_ORDERS)
      .select("id", "at");
    const rows: { body: WorkEvent; minutes: number; by: string }[] = await db("work_event")
      .whereIn(
        "work_order_id",
        orders.map((o) => o.id),
      )
      .where({ undone: false })
      .whereNotNull("minutes")
      .whereRaw("body->>'kind' in ('apart', 'back', 'task')")
      .orderBy("id")
      .select("body", "minutes", "by");
    const hands: string[] =
      orders.length < LOG_ORDERS
        ? []
        : await db("work_order")
            .whereIn("profile_id", profiles)
            .where("at", "<", orders.at(-1)!.at)
            .distinct("by")
            .pluck("by");
    return { times: rows.map((r) => ({ step: keyOf(r.body), person: r.by, minutes: r.minutes })), hands };
  });

const keyOf = (e: WorkEvent): string => {
  if (e.kind === "apart" || e.kind === "back") return refTo(e.kind, e.step);
  if (e.kind === "task") return e.task;
  return "";
};

export const saveTools = deed("tools.save", {}, async ({ db, note }, { version, tools }) => {
  await saveValue(db, "tools", version, [...new Set(tools)].sort());
  note("tools-saved", null, { count: tools.length });
  return nothing;
});

/** The open order of a unit that was locked for it, locked as well. */
export async function heldOrder(db: Knex, orderId: string, version: number | null): Promise<Loaded> {
  const row = one(await db("work_order").where({ id: orderId }).forUpdate().first());
  if (row.status !== "open") throw new Refused({ code: "already", what: say("endOfThisWorkOrder") });
  if (version !== null && row.version !== version) throw overtaken();
  return load(db, row);
}

/** A refusal with the names of what it speaks of. */
export function problem({ guide, state }: Loaded, p: Parameters<typeof named>[2]): Refused {
  return new Refused({ code: "work", problem: p, names: named(guide, state, p) });
}

function named(
  guide: MendGuide,
  state: WorkState,
  p: Extract<ReturnType<typeof add>, { ok: false }>["problem"],
): Record<string, string> {
  const ids = [
    ...("steps" in p ? p.steps : []),
    ...("items" in p ? p.items : []),
    ...("item" in p ? [p.item] : []),
    ...("step" in p ? [p.step] : []),
  ];
  return Object.fromEntries(ids.map((id) => [id, nameOf(guide, state, id)]));
}

/** What an item or a step of a guide is called. */
export function nameOf(guide: MendGuide, state: WorkState, id: string): string {
  const { kind, id: own } = refOf(id) ?? { kind: null, id };
  if (kind === "fastener") {
    const f = guide.fasteners.find((x) => x.id === own);
    return f ? say("fastenerOwnLengthMm", { own: fastenerName(own), length: f.lengthMm }) : own;
  }
  if (kind === "extra") return state.extras.find((e) => e.id === id)?.name ?? id;
  const listOf = () => {
    if (kind === "clip") return guide.clips;
    if (kind === "cable") return guide.cables;
    if (kind === "piece") return guide.pieces;
    return null;
  };
  const list = listOf();
  return list?.find((x) => x.id === own)?.name ?? guide.steps.find((s) => s.id === id)?.title ?? id;
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [saveTools] as const;
