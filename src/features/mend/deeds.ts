import "server-only";

import type { DeedParsed } from "@/contract/deeds";
import { functionsOf } from "@/core/profile/profile";
import { nothing, overtaken, Refused, stamp } from "@/platform/deed/base";
import { loadRoutes } from "@/features/routes/deeds";
import { modelById } from "@/features/models/deeds";
import { mustHaveYes } from "@/features/questions/deeds";
import { fitPiece } from "@/features/stock/fitted";
import { slotOf } from "@/features/stock/fit";
import { mustBeFreeToOpen } from "@/features/intake/cover";
import { setMarks } from "@/features/intake/deeds";
import { deed, namedUnit, unitOf, type Work } from "@/platform/deed/declare";
import type { UnitRow } from "@/platform/db/tables";
import { nextNumber } from "@/features/case/workable";
import { one } from "@/core/base/one";
import { creditCure } from "./retest";
import { say } from "@/features/mend/words/words";

/** Function checks and mends of a unit. */

export const checkFunction = deed(
  "function.check",
  { unit: namedUnit, workable: true },
  async ({ db, actor, note, unit }, { unitId, functionId, result, note: words, bondCleared, tookMs }) => {
    if (unit.liquid && !unit.liquid_cleared && result !== "not-fitted") throw new Refused({ code: "wet" });
    const profile = await modelById(db, unit.profile_id);
    const about = functionsOf(profile.body, unit.revision).find((f) => f.id === functionId);
    if (!about) throw new Refused({ code: "not-found", what: "function" });
    if (about.kind === "radio" && result === "fail" && !bondCleared)
      throw new Refused({ code: "clear-the-bond", steps: profile.body.prepare?.bond ?? null });
    await db("function_check").insert({
      unit_id: unitId,
      function_id: functionId,
      result,
      note: words,
      took_ms: tookMs ?? null,
      ...stamp(db, actor),
    });
    note("function-checked", unitId, { functionId, result, ...(bondCleared ? { bondCleared } : {}) });
    return nothing;
  },
);

/** Writes a mend into the log, with its part from the shelf and the marks that went with it. */
export async function logMend(
  work: Work,
  unit: UnitRow,
  input: DeedParsed<"mend.add">,
): Promise<{ id: string; number: number }> {
  const { db, actor, note } = work;
  const fault = input.faultId
    ? await db("fault").where({ id: input.faultId, unit_id: unit.id }).first()
    : null;
  if (input.faultId && !fault) throw new Refused({ code: "not-found", what: "fault" });
  if (fault) await mustHaveYes(db, unit.id, fault, input.route);
  if (input.route !== null && !(await loadRoutes(db)).value.some((r) => r.id === input.route))
    throw new Refused({ code: "route-unknown", route: input.route });
  const number = await nextNumber(db, "mend", unit.id);
  const after = await db("recording").where({ unit_id: unit.id }).orderBy("started_at", "desc").first("id");
  const outcomeOf = () => {
    if (input.route !== null && fault) {
      if (input.settlesFault) return "worked";
      return "failed";
    }
    return null;
  };
  const row = one(
    (
      await db("mend")
        .insert({
          unit_id: unit.id,
          fault_id: input.faultId,
          number,
          what: input.what,
          part: input.part,
          minutes: input.minutes,
          remark: input.remark,
          opened: input.opened,
          route: input.route,
          outcome: input.outcome ?? outcomeOf(),
          part_minor: input.partMinor,
          part_gift: input.partGift,
          fallback: input.provisional?.fallback ?? "",
          review_on: input.provisional?.reviewOn ?? null,
          after_recording_id: after?.id ?? null,
          ...stamp(db, actor),
        })
        .returning(["id", "outcome"])
    )[0],
  );
  if (input.fromStock) {
    const taken = await fitPiece(work, unit, {
      ...input.fromStock,
      count: (await slotOf(db, unit, input.fromStock.slot)).slot.fit?.count ?? 1,
      mendId: row.id,
      why: input.what,
    });
    await db("mend").where({ id: row.id }).update({ part: taken.part.name, part_minor: taken.cost });
  }
  if (input.marksGone.length)
    await setMarks(
      work,
      unit,
      input.marksGone,
      say("mendNumberWhat", { number, what: input.what }).slice(0, 120),
    );
  if (fault && input.cause !== "not-known")
    await db("fault").where({ id: fault.id }).update({ cause: input.cause });
  if (fault && input.settlesFault && fault.status === "open")
    await db("fault")
      .where({ id: fault.id })
      .update({ status: "mended", version: fault.version + 1 });
  if (fault && row.outcome === "worked") await creditCure(work, unit, fault);
  note("mend-logged", unit.id, {
    number,
    what: input.what,
    fault: fault?.number ?? null,
    minutes: input.minutes,
  });
  return { id: row.id, number };
}

export const addMend = deed(
  "mend.add",
  { unit: namedUnit, batches: ({ fromStock }) => (fromStock ? [fromStock.batchId] : []), workable: true },
  async (work, input) => {
    if (input.opened) await mustBeFreeToOpen(work.db, work.unit);
    return logMend(work, work.unit, input);
  },
);

export const editMend = deed(
  "mend.edit",
  { unit: unitOf("mend", (i) => i.mendId, "mend"), workable: true },
  async ({ db, note }, { mendId, version, what, part, minutes, remark }) => {
    const mend = await db("mend").where({ id: mendId }).first();
    if (!mend) throw new Refused({ code: "not-found", what: "mend" });
    const changed = await db("mend")
      .where({ id: mendId, version })
      .update({ what, part, minutes, remark, version: version + 1 });
    if (changed !== 1) throw overtaken();
    const was = { what: mend.what, part: mend.part, minutes: mend.minutes, remark: mend.remark };
    note("mend-changed", mend.unit_id, { number: mend.number, was });
    return nothing;
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [addMend, checkFunction, editMend] as const;
