import "server-only";

import type { Knex } from "knex";

import type { DeedParsed } from "@/contract/deeds";
import { one } from "@/core/base/one";
import type { OrderBody, Target } from "@/core/mend/order";
import { checkLibrary } from "@/core/diagnosis/checks";
import { graphOf } from "@/core/diagnosis/graph";
import { refTo } from "@/core/mend/ref";
import { replay } from "@/core/mend/work";
import { guideOf } from "@/core/profile/guide";
import { type ModelProfile, controlsOf } from "@/core/profile/profile";
import { mustBeFreeToOpen } from "@/features/intake/cover";
import { say } from "@/features/mend/words/words";
import { modelById, modelByKey } from "@/features/models/deeds";
import { mustHaveYes } from "@/features/questions/deeds";
import { loadRoutes } from "@/features/routes/deeds";
import { endWaits } from "@/features/waits/deeds";
import type { UnitRow } from "@/platform/db/tables";
import { Refused, nothing, stamp, touched } from "@/platform/deed/base";
import { deed, namedUnit, unitOf } from "@/platform/deed/declare";
import { heldOrder, problem } from "./order";
import { failedBefore } from "./retest";
import { mustBeTestedBetween } from "./rungs";

/** Work orders: opened from the faults and their routes, done step by step, closed by the full test. */

type TargetInput = DeedParsed<"work.open">["targets"][number];

/** A target that was in the order before keeps its number; a new one gets the next. */
function keysFor(targets: readonly TargetInput[], before: readonly Target[]): number[] {
  const free = [...before];
  let last = before.reduce((most, t) => Math.max(most, t.key), 0);
  return targets.map((t) => {
    const at = free.findIndex(
      (b) => b.faultId === t.faultId && b.what === t.what && b.slot === t.slot && b.route === t.route,
    );
    return at >= 0 ? free.splice(at, 1)[0]!.key : (last += 1);
  });
}

/** The checks that the unit's own wiring has; what else is asked for is refused. */
async function knownChecks(db: Knex, unit: UnitRow, checks: readonly string[]): Promise<string[]> {
  if (checks.length === 0) return [];
  const { wiring } = (await modelById(db, unit.profile_id)).body;
  const library = wiring ? checkLibrary(graphOf(wiring, unit.revision), wiring) : [];
  if (checks.some((id) => !library.some((c) => c.id === id)))
    throw new Refused({ code: "not-found", what: say("check") });
  return [...new Set(checks)];
}

async function bodyOf(
  db: Knex,
  profile: ModelProfile,
  unit: UnitRow,
  input: Pick<DeedParsed<"work.open">, "targets" | "cleaningLevel" | "calibrate" | "checks">,
  before: readonly Target[] = [],
): Promise<OrderBody> {
  const keys = keysFor(input.targets, before);
  const routes = (await loadRoutes(db)).value;
  const targets: Target[] = [];
  // one after another: a transaction has one connection
  for (const [i, t] of input.targets.entries()) {
    const fault = t.faultId
      ? await db("fault").where({ id: t.faultId, unit_id: unit.id }).first("id", "number", "place")
      : null;
    if (t.faultId && !fault) throw new Refused({ code: "not-found", what: "fault" });
    if (fault) await mustHaveYes(db, unit.id, fault, t.route);
    const route = t.route === null ? null : routes.find((r) => r.id === t.route);
    if (t.route !== null && !route) throw new Refused({ code: "route-unknown", route: t.route });
    const slot = profile.slots?.find((s) => s.id === t.slot) ?? null;
    if (t.slot !== null && !slot) throw new Refused({ code: "not-found", what: say("partSlot") });
    targets.push({
      key: keys[i]!,
      faultId: t.faultId,
      number: fault?.number ?? null,
      what: t.what,
      slot: t.slot,
      route: t.route,
      minutes: route?.minutes ?? 10,
      waitMinutes: route?.waitMinutes ?? 0,
      tools: route?.tools ?? [],
      then: t.then.filter((id) => routes.some((r) => r.id === id)),
      movesOver: route?.part ? (slot?.fit?.newLacks ?? []) : [],
    });
  }
  const sticks = new Set(
    controlsOf(profile, unit.revision)
      .filter((c) => c.kind === "stick")
      .map((c) => c.id),
  );
  return {
    targets,
    cleaningLevel: input.cleaningLevel,
    calibrate: input.calibrate.filter((s) => sticks.has(s)),
    checks: await knownChecks(db, unit, input.checks),
  };
}

export const openWork = deed(
  "work.open",
  { unit: namedUnit, workable: true },
  async ({ db, actor, note, unit }, input) => {
    await mustBeFreeToOpen(db, unit);
    const own = await modelById(db, unit.profile_id);
    // the newest guide of the model: what was learned since the unit came in counts for it too
    const newest = (await modelByKey(db, own.key)) ?? own;
    if (!newest.body.guide) throw new Refused({ code: "no-guide" });
    const body = await bodyOf(db, newest.body, unit, input);
    const rows = await db("work_order")
      .insert({
        unit_id: unit.id,
        profile_id: newest.id,
        revision: unit.revision,
        body: JSON.stringify(body),
        ...stamp(db, actor),
      })
      .onConflict(db.raw("(unit_id) where status = 'open'"))
      .ignore()
      .returning("id");
    if (rows.length !== 1) throw new Refused({ code: "already", what: say("workOrder2") });
    note("work-opened", unit.id, { targets: body.targets.length, cleaning: body.cleaningLevel });
    return { id: one(rows[0]).id };
  },
);

export const changeWork = deed(
  "work.change",
  { unit: unitOf("work_order", (i) => i.orderId, say("workOrder2")), workable: true },
  async (work, input) => {
    const { db, note, unit } = work;
    const loaded = await heldOrder(db, input.orderId, input.version);
    const body = await bodyOf(db, loaded.profile, unit, input, loaded.order.body.targets);
    await failedBefore(db, unit, await mustBeTestedBetween(db, loaded, body.targets));
    // what was done already stays in the order
    const done = loaded.order.body.targets.filter((t) => loaded.state.tasks.has(refTo("mend", t.key)));
    if (done.some((t) => !body.targets.some((b) => b.key === t.key)))
      throw new Refused({ code: "already", what: "mend" });
    await db("work_order")
      .where({ id: input.orderId })
      .update({ body: JSON.stringify(body), version: loaded.order.version + 1 });
    note("work-changed", unit.id, { targets: body.targets.length, cleaning: body.cleaningLevel });
    return nothing;
  },
);

/** The revision as it shows inside; the rest of the order follows its branch. */
export const setRevision = deed(
  "work.revision",
  { unit: unitOf("work_order", (i) => i.orderId, say("workOrder2")), workable: true },
  async (work, { orderId, revision }) => {
    const { db, actor, note, unit } = work;
    const loaded = await heldOrder(db, orderId, null);
    if (!loaded.profile.revisions.some((r) => r.id === revision))
      throw new Refused({ code: "not-found", what: "revision" });
    const kept = replay(
      guideOf(loaded.profile.guide!, revision),
      loaded.events.map((e) => e.body),
    );
    // what was taken apart by the other branch must not vanish from the list
    const lost = loaded.state.apart.filter((s) => !kept.apart.includes(s));
    if (lost.length) throw problem(loaded, { code: "still-apart", steps: lost });
    await db("work_order")
      .where({ id: orderId })
      .update({ revision, version: loaded.order.version + 1 });
    await db("unit")
      .where({ id: unit.id })
      .update({ revision, ...touched(db, actor) });
    note("revision-seen", unit.id, { revision });
    return nothing;
  },
);

export const dropWork = deed(
  "work.drop",
  { unit: unitOf("work_order", (i) => i.orderId, say("workOrder2")), workable: true },
  async (work, { orderId, version, why }) => {
    const { db, actor, note, unit } = work;
    const loaded = await heldOrder(db, orderId, version);
    if (loaded.state.apart.length)
      throw problem(loaded, { code: "still-apart", steps: [...loaded.state.apart] });
    await db("work_order")
      .where({ id: orderId })
      .update({ status: "dropped", closed_at: actor.at ?? db.fn.now() });
    await endWaits(work, unit.id);
    note("work-dropped", unit.id, { why });
    return nothing;
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [changeWork, dropWork, openWork, setRevision] as const;
