import "server-only";

import type { Knex } from "knex";

import type { DeedParsed } from "@/contract/deeds";
import { type Intake, type MarkKey, type Origin, isMark } from "@/contract/intake";
import { one } from "@/core/base/one";
import { type Worths, lotMates, respread, worthsOf, worthsOfLot } from "@/features/buying/lots";
import { mustBeItsMate } from "@/features/case/mates";
import { mustBeWorkable } from "@/features/case/workable";
import { type StoredProfile, modelById, modelByKey } from "@/features/models/deeds";
import type { UnitRow } from "@/platform/db/tables";
import { Refused, nothing, stamp, touched } from "@/platform/deed/base";
import { type Work, deed, namedUnit } from "@/platform/deed/declare";
import { tagText } from "./view";
import { say } from "@/features/intake/words/words";
import type { Id } from "@/core/base/ids";

async function takeTag(db: Knex): Promise<string> {
  const rows = await db("counter").where({ key: "unit-tag" }).increment("last", 1).returning("last");
  return tagText(one(rows[0]).last);
}

/** The lowest free tray, or null when all nine are taken. */
async function freeTray(db: Knex): Promise<number | null> {
  await db.raw("select pg_advisory_xact_lock(hashtext('trays'))");
  const taken = await db("unit").whereNotNull("tray").pluck("tray");
  return [1, 2, 3, 4, 5, 6, 7, 8, 9].find((n) => !taken.includes(n)) ?? null;
}

function checkRevision(profile: StoredProfile, revision: string | null): void {
  if (revision !== null && !profile.body.revisions.some((r) => r.id === revision))
    throw new Refused({
      code: "bad-input",
      issues: [{ path: "revision", message: say("thisModelHasNoSuchRevision") }],
    });
}

/** Tags are written in capitals, and found by them. */
const withTag = (intake: Intake): Intake =>
  intake.mate ? { ...intake, mate: { ...intake.mate, tag: intake.mate.tag.trim().toUpperCase() } } : intake;

async function originColumns(
  db: Knex,
  origin: Origin,
): Promise<
  Pick<UnitRow, "source"> &
    Partial<Pick<UnitRow, "seller" | "price_minor" | "carriage_minor" | "lot_id" | "customer_id">>
> {
  if (origin.source === "single")
    return {
      source: "single",
      seller: origin.seller,
      price_minor: origin.priceMinor,
      carriage_minor: origin.carriageMinor,
    };
  if (origin.source === "lot") {
    const lot = await db("lot").where({ id: origin.lotId }).first("id", "seller");
    if (!lot) throw new Refused({ code: "not-found", what: "lot" });
    return { source: "lot", lot_id: lot.id, seller: lot.seller };
  }
  if (!(await db("customer").where({ id: origin.customerId }).first("id")))
    throw new Refused({ code: "not-found", what: "customer" });
  return { source: "customer", customer_id: origin.customerId };
}

/** What the units of the lot that it came with may bring, itself included. */
async function worthsWith(
  { origin, profileKey, claim }: DeedParsed<"unit.take-in">,
  db: Knex,
): Promise<Worths> {
  if (origin.source !== "lot") return new Map();
  const own = await worthsOf(db, [{ model: profileKey, claim }]);
  return new Map([...(await worthsOfLot(db, origin.lotId, false)), ...own]);
}

export const takeIn = deed(
  "unit.take-in",
  {
    units: ({ origin }, db) => lotMates(db, origin.source === "lot" ? origin.lotId : null),
    prepare: worthsWith,
  },
  async (work, input) => {
    const { db, actor, note, prepared } = work;
    const profile = await modelByKey(db, input.profileKey);
    if (!profile) throw new Refused({ code: "not-found", what: "model" });
    checkRevision(profile, input.revision);
    const intake = withTag(input.intake);
    await mustBeItsMate(db, { tag: null, profile: profile.body }, intake.mate?.tag ?? "");
    const count = input.origin.source === "lot" ? input.origin.count : 1;
    // one half has one mate: several at once cannot all be it
    if (count > 1 && profile.body.half && intake.mate?.tag)
      throw new Refused({ code: "not-its-mate", tag: intake.mate.tag, why: "taken" });
    const arrived: { tag: string; id: Id<"unit">; tray: number | null }[] = [];
    while (arrived.length < count) {
      const tag = await takeTag(db);
      // one is worked on at once; many go to the shelf with their labels
      const tray = input.toTray && !input.swollen && count === 1 ? await freeTray(db) : null;
      const row = one(
        (
          await db("unit")
            .insert({
              tag,
              profile_id: profile.id,
              revision: input.revision,
              ...(await originColumns(db, input.origin)),
              claim: input.claim,
              intake: JSON.stringify(intake),
              swollen: input.swollen,
              liquid: input.liquid,
              tray,
              stage: "intake",
              next_action: "first-test",
              changed_by: actor.id,
              received_at: actor.at ?? db.fn.now(),
            })
            .returning("id")
        )[0],
      );
      arrived.push({ tag, id: row.id, tray });
      note("unit-taken-in", row.id, {
        tag,
        model: profile.key,
        swollen: input.swollen,
        liquid: input.liquid,
      });
    }
    const [first] = arrived;
    const tags = arrived.map((u) => u.tag);
    if (input.origin.source === "lot")
      await respread(work, input.origin.lotId, say("tagArrived", { tag: tags.join(", ") }), prepared);
    if (input.listingId)
      await db("listing")
        .where({ id: input.listingId })
        .update({ status: "arrived", unit_id: first!.id, version: db.raw("version + 1") });
    return { tag: first!.tag, unitId: first!.id, tray: first!.tray, tags };
  },
);

export const editIntake = deed(
  "unit.edit-intake",
  { unit: namedUnit, seen: "unit" },
  async ({ db, actor, note, unit }, input) => {
    if (unit.ending !== null) throw new Refused({ code: "closed" });
    if (((unit.swollen && !input.swollen) || (unit.liquid && !input.liquid)) && actor.role !== "lead")
      throw new Refused({ code: "lead-only-safe" });
    const own = await modelById(db, unit.profile_id);
    const profile =
      input.profileKey === undefined || input.profileKey === own.key
        ? own
        : await otherModel(db, unit, input.profileKey);
    checkRevision(profile, input.revision);
    const intake = withTag(input.intake);
    await mustBeItsMate(db, { tag: unit.tag, profile: profile.body }, intake.mate?.tag ?? "");
    await db("unit")
      .where({ id: unit.id })
      .update({
        profile_id: profile.id,
        revision: input.revision,
        claim: input.claim,
        swollen: input.swollen,
        liquid: input.liquid,
        ...(input.liquid && !unit.liquid ? { liquid_cleared: null } : {}),
        ...(input.swollen ? { tray: null } : {}),
        intake: JSON.stringify(intake),
        ...touched(db, actor),
      });
    const was = {
      ...(profile === own ? {} : { model: own.key }),
      revision: unit.revision,
      claim: unit.claim,
      swollen: unit.swollen,
      liquid: unit.liquid,
      intake: unit.intake,
    };
    note("intake-changed", unit.id, { was });
    return nothing;
  },
);

export const settleMark = deed(
  "mark.settle",
  { unit: namedUnit, workable: true },
  async (work, { mark, gone }) => {
    const { unit } = work;
    await setMarks(work, unit, [mark], gone);
    return nothing;
  },
);

/**
 * Marks of the outside that went with something, each with why; the record keeps them as how the unit came.
 */
export async function setMarks(
  { db, actor, note }: Work,
  unit: UnitRow,
  marks: readonly MarkKey[],
  gone: string | null,
): Promise<void> {
  if (marks.some((m) => !unit.intake.marks.some((x) => isMark(x, m))))
    throw new Refused({ code: "not-found", what: "mark" });
  const intake = {
    ...unit.intake,
    marks: unit.intake.marks.map((x) => (marks.some((m) => isMark(x, m)) ? { ...x, gone } : x)),
  };
  await db("unit")
    .where({ id: unit.id })
    .update({ intake: JSON.stringify(intake), ...touched(db, actor) });
  note("marks-settled", unit.id, { marks: marks.map((m) => m.kind), gone });
}

/** The model that a unit turns out to be; what was tested or worked on stays what it was. */
async function otherModel(db: Knex, unit: UnitRow, key: string): Promise<StoredProfile> {
  const profile = await modelByKey(db, key);
  if (!profile) throw new Refused({ code: "not-found", what: "model" });
  for (const table of [
    "recording",
    "function_check",
    "bench_reading",
    "fault",
    "mend",
    "work_order",
    "fitted",
    "reservation",
  ])
    if (await db(table).where({ unit_id: unit.id }).first("id")) throw new Refused({ code: "model-fixed" });
  return profile;
}

/** Puts a unit on a tray, or takes it off. The bench's order is nobody's secret: no version is asked for. */
export const toTray = deed(
  "unit.to-tray",
  { unit: namedUnit },
  async ({ db, note, unit }, { unitId, tray }) => {
    if (tray !== null) {
      mustBeWorkable(unit);
      const holder = await db("unit").where({ tray }).whereNot({ id: unitId }).first("tag");
      if (holder) throw new Refused({ code: "tray-taken", tray, tag: holder.tag });
    }
    await db("unit").where({ id: unitId }).update({ tray });
    note("tray", unitId, { tray });
    return nothing;
  },
);

export const clearLiquid = deed(
  "unit.clear-liquid",
  { unit: namedUnit, seen: "unit", workable: true },
  async ({ db, actor, note, unit }, { unitId }) => {
    if (!unit.liquid || unit.liquid_cleared) throw new Refused({ code: "already", what: "cleared" });
    const cleared = { by: actor.name, at: new Date().toISOString() };
    await db("unit")
      .where({ id: unitId })
      .update({ liquid_cleared: JSON.stringify(cleared), ...touched(db, actor) });
    note("liquid-cleared", unitId, { opened: true, unplugged: true, inspected: true, dry: true });
    return nothing;
  },
);

export const addCustomer = deed("customer.add", {}, async ({ db, actor, note }, { name, contact }) => {
  const row = one(
    (
      await db("customer")
        .insert({ name, contact, ...stamp(db, actor) })
        .returning("id")
    )[0],
  );
  note("customer-added", null, { customer: row.id });
  return { id: row.id };
});

export const addLot = deed(
  "lot.add",
  {},
  async ({ db, actor, note }, { code, seller, priceMinor, carriageMinor, unitsPromised }) => {
    const rows = await db("lot")
      .insert({
        code,
        seller,
        price_minor: priceMinor,
        carriage_minor: carriageMinor,
        units_promised: unitsPromised,
        ...stamp(db, actor),
      })
      .onConflict("code")
      .ignore()
      .returning("id");
    if (rows.length !== 1) throw new Refused({ code: "name-taken", name: code });
    note("lot-added", null, { lot: one(rows[0]).id, code });
    return { id: one(rows[0]).id };
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [addCustomer, addLot, clearLiquid, editIntake, settleMark, takeIn, toTray] as const;
