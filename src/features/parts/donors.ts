import "server-only";

import type { Knex } from "knex";

import type { DeedParsed } from "@/contract/deeds";

import type { PartState } from "@/contract/parts";
import { partOf } from "@/core/parts/catalogue";
import { donorShares, ownPart, partCondition, type PartReading, partsInSlot } from "@/core/parts/donor";
import { listedAs } from "@/core/profile/half";
import type { Slot } from "@/core/profile/slots";
import { nothing, Refused, stamp, together } from "@/platform/deed/base";
import { purchaseOf } from "@/features/case/purchase";
import { answersBy, openSymptomsOf } from "@/features/case/facts";
import { modelByKey, modelById } from "@/features/models/deeds";
import { saveValue } from "@/features/settings/settings";
import { loadCatalogue } from "@/features/stock/catalogue";
import { mustFit } from "@/features/stock/fit";
import { newBatch } from "@/features/stock/deeds";
import { reserveFrom } from "@/features/stock/reserve";
import { deed, namedUnit, Stale, type Work } from "@/platform/deed/declare";
import type { UnitRow } from "@/platform/db/tables";
import { mustBeWorkable } from "@/features/case/workable";
import { computed, rowsOf } from "@/platform/db/joined";
import { rowsBy } from "@/platform/db/batched";
import { one } from "@/core/base/one";
import { say } from "@/features/parts/words/words";
import type { Id } from "@/core/base/ids";

/**
 * Donors: units that are parts now. Each part with what the unit's own tests say of it, and what was taken by
 * whom.
 */

export type DonorPart = {
  slot: string;
  name: string;
  kind: string;
  side: "left" | "right" | "centre";
  serves: string[];
  state: PartState;
  /** what the unit's own tests say, whatever somebody judged since */
  tested: PartReading;
  judged: { words: string; by: string; at: string } | null;
  worthMinor: number;
  shareMinor: number;
  /** catalogue parts that this can be put on the shelf as, and what the first of them is called */
  parts: string[];
  goesAs: string;
  taken: { batch: string; at: string } | null;
  promised: string | null;
  /** promised by an applied plan, which the next plan takes back */
  byPlan: boolean;
  figures: { name: string; value: number; unit: string }[];
};
export type DonorView = {
  unit: {
    id: string;
    tag: string;
    model: string;
    modelKey: string;
    revision: string | null;
    claim: string;
    closedAt: string | null;
  };
  costMinor: number;
  parts: DonorPart[];
};

const slotsOf = async (db: Knex, unit: UnitRow): Promise<{ name: string; key: string; slots: Slot[] }> => {
  const own = await modelById(db, unit.profile_id);
  const newest = (await modelByKey(db, own.key)) ?? own;
  // upgrades and parts of parts are not what came with the unit
  const slots = (newest.body.slots ?? []).filter(
    (s) => s.kind !== "contact-sensor" && !s.id.startsWith("upgrade"),
  );
  return { name: own.body.name, key: listedAs(own.body), slots };
};

const unitBy = rowsBy((db, ids) =>
  rowsOf(db("unit as u").whereIn("u.id", ids), { u: "unit" }, "u.*", "u.id as of"),
);
const lastTestBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("recording as r")
      .distinctOn("r.unit_id")
      .whereIn("r.unit_id", unitIds)
      .where("r.purpose", "full")
      .orderBy([{ column: "r.unit_id" }, { column: "r.started_at", order: "desc" }]),
    { r: "recording" },
    "r.grades",
    "r.analysis",
    "r.unit_id as of",
  ),
);
const notesBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("donor_note as n")
      .distinctOn("n.unit_id", "n.slot")
      .join("person as p", "p.id", "n.by")
      .whereIn("n.unit_id", unitIds)
      .orderBy([{ column: "n.unit_id" }, { column: "n.slot" }, { column: "n.id", order: "desc" }]),
    { n: "donor_note", p: "person" },
    "n.slot",
    "n.state",
    "n.words",
    "n.at",
    "n.unit_id as of",
    "p.name as person",
  ),
);
const takenBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("batch as b").whereIn("b.donor_unit_id", unitIds).where("b.source", "donor"),
    { b: "batch" },
    "b.donor_slot",
    "b.code",
    "b.cost_minor",
    "b.at",
    computed<{ of: string }>(db.raw("b.donor_unit_id as of")),
  ),
);
const promisedBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("reservation as r")
      .join("unit as u", "u.id", "r.unit_id")
      .whereIn("r.donor_unit_id", unitIds)
      .where("r.status", "open"),
    { r: "reservation", u: "unit" },
    "r.donor_slot",
    "r.allocation_id",
    "u.tag",
    computed<{ of: string }>(db.raw("r.donor_unit_id as of")),
  ),
);
const fittedBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("fitted as f").whereIn("f.unit_id", unitIds).whereNull("f.removed_at"),
    { f: "fitted" },
    "f.slot",
    "f.part",
    "f.unit_id as of",
  ),
);

export async function donorView(db: Knex, unitId: Id<"unit">): Promise<DonorView> {
  const [unit] = await unitBy(db, unitId);
  if (!unit) throw new Refused({ code: "not-found", what: "unit" });
  const { name, key, slots } = await slotsOf(db, unit);
  const { value: catalogue } = await loadCatalogue(db);
  const [[test], checks, faulty, notes, taken, promised, fitted] = await together(
    db,
    () => lastTestBy(db, unitId),
    () => answersBy(db, unitId),
    () => openSymptomsOf(db, unitId),
    () => notesBy(db, unitId),
    () => takenBy(db, unitId),
    () => promisedBy(db, unitId),
    () => fittedBy(db, unitId),
  );
  const evidence = {
    controls: test?.grades ?? {},
    checks: Object.fromEntries(checks.map((c) => [c.function_id, c.result])),
    faulty: faulty.map((f) => f.place),
  };
  const rows = slots.map((slot) => {
    const tested = partCondition(slot, evidence);
    const judged = notes.find((n) => n.slot === slot.id);
    const out = taken.find((t) => t.donor_slot === slot.id);
    const other = fitted.find((f) => f.slot === slot.id);
    const state: PartState = out ? "gone" : (judged?.state ?? tested.state);
    return {
      slot,
      tested,
      judged,
      out,
      state,
      parts: partsInSlot(catalogue, key, unit.revision, slot, other?.part ?? null),
    };
  });
  const cost = purchaseOf(unit);
  const shares = donorShares(
    cost,
    rows.map((r) => ({
      slot: r.slot.id,
      worth: r.slot.resaleMinor,
      state: r.state,
      takenAt: r.out ? r.out.cost_minor : null,
    })),
  );
  return {
    unit: {
      id: unit.id,
      tag: unit.tag,
      model: name,
      modelKey: key,
      revision: unit.revision,
      claim: unit.claim,
      closedAt: unit.closed_at?.toISOString() ?? null,
    },
    costMinor: cost,
    parts: rows.map(({ slot, tested, judged, out, state, parts }) => ({
      slot: slot.id,
      name: slot.name,
      kind: slot.kind,
      side: slot.side,
      serves: slot.serves,
      state,
      tested,
      judged: judged ? { words: judged.words, by: judged.person, at: judged.at.toISOString() } : null,
      worthMinor: slot.resaleMinor,
      shareMinor: shares.get(slot.id) ?? 0,
      parts,
      goesAs: partOf(catalogue, parts[0]!)?.name ?? ownName(slot, name),
      taken: out ? { batch: out.code, at: out.at.toISOString() } : null,
      promised: promised.find((p) => p.donor_slot === slot.id)?.tag ?? null,
      byPlan: promised.some((p) => p.donor_slot === slot.id && p.allocation_id !== null),
      figures: slot.serves.flatMap((place) => figuresOf(test?.analysis.controls[place], place)),
    })),
  };
}

/** The figures of a control that go with its part onto the shelf. */
function figuresOf(control: unknown, place: string): { name: string; value: number; unit: string }[] {
  if (typeof control !== "object" || control === null) return [];
  const c = control as Record<string, unknown>;
  const pick = [
    ["restOffset", "travel"],
    ["reachMin", "travel"],
    ["circularityError", "travel"],
    ["fullPull", "travel"],
  ] as const;
  return pick.flatMap(([k, unit]) =>
    typeof c[k] === "number" ? [{ name: `${place} ${k}`, value: c[k], unit }] : [],
  );
}

const mustBeDonor = (unit: UnitRow): void => {
  if (unit.ending !== "donor") throw new Refused({ code: "not-found", what: "donor" });
};

export const judgeDonorPart = deed(
  "donor.judge",
  { unit: namedUnit },
  async ({ db, actor, note, unit }, { unitId, slot, state, words }) => {
    mustBeDonor(unit);
    const part = (await donorView(db, unitId)).parts.find((p) => p.slot === slot);
    if (!part) throw new Refused({ code: "not-found", what: say("partSlot") });
    if (part.taken) throw new Refused({ code: "part-gone", state: "gone" });
    await db("donor_note").insert({ unit_id: unitId, slot, state, words, ...stamp(db, actor) });
    note("donor-judged", unitId, { slot, state, words });
    return nothing;
  },
);

/** The unit that the part is for: the one to which it was promised, else the one that the input names. */
async function targetsOf(input: DeedParsed<"donor.take">, db: Knex): Promise<string[]> {
  const promise = await openPromise(db, input.unitId, input.slot).first("unit_id");
  const target: string | null = promise?.unit_id ?? input.forUnitId;
  return target === null ? [] : [target];
}
const openPromise = (db: Knex, donorId: string, slot: string) =>
  db("reservation").where({ donor_unit_id: donorId, donor_slot: slot, status: "open" });

export const takeDonorPart = deed(
  "donor.take",
  { unit: namedUnit, units: targetsOf },
  async (work, input) => {
    const { db, note, unit, units } = work;
    mustBeDonor(unit);
    const part = (await donorView(db, unit.id)).parts.find((p) => p.slot === input.slot);
    if (!part) throw new Refused({ code: "not-found", what: say("partSlot") });
    if (part.state === "gone" || part.state === "bad")
      throw new Refused({ code: "part-gone", state: part.state });
    if (part.state === "unknown" && input.untestedWhy === "")
      throw new Refused({ code: "test-in-donor-first" });
    if (!part.parts.includes(input.part)) throw new Refused({ code: "part-unknown", part: input.part });
    await listOwnPart(work, unit, input);
    const conditionOf = () => {
      if (part.state === "good") return "tested good";
      if (part.state === "worn") return "worn";
      return "untested";
    };
    const made = await newBatch(
      work,
      {
        part: input.part,
        source: "donor",
        supplier: "",
        donor_unit_id: unit.id,
        donor_slot: input.slot,
        bin: input.bin,
        pieces: 1,
        cost_minor: part.shareMinor,
        status: "open",
        condition: conditionOf(),
        figures: part.figures,
      },
      part.state === "unknown" ? `taken untested: ${input.untestedWhy}` : `out of ${unit.tag}`,
    );
    // a promise of this very part becomes a reservation of the piece
    const promise = await openPromise(db, unit.id, input.slot).forUpdate().first("id", "unit_id", "slot");
    const forUnit = promise
      ? { unitId: promise.unit_id, slot: promise.slot }
      : { unitId: input.forUnitId, slot: input.forSlot };
    if (promise) await db("reservation").where({ id: promise.id }).update({ status: "used" });
    if (forUnit.unitId && forUnit.slot) {
      const target = units.get(forUnit.unitId);
      if (!target) throw promise ? new Stale() : new Refused({ code: "not-found", what: "unit" });
      mustBeWorkable(target);
      const { value: catalogue } = await loadCatalogue(db);
      await mustFit(db, target, forUnit.slot, partOf(catalogue, input.part)!);
      await reserveFrom(work, {
        unitId: target.id,
        slot: forUnit.slot,
        batchId: made.id,
        count: 1,
        allocationId: null,
      });
    }
    note("donor-part-taken", unit.id, { slot: input.slot, batch: made.code, state: part.state });
    return made;
  },
);

const ownName = (slot: { name: string }, model: string): string =>
  say("slotOfModelsOwn", { slot: slot.name, model });

/** Writes the donor's own part into the catalogue when it is not there yet. */
async function listOwnPart(
  { db, note }: Work,
  unit: UnitRow,
  taken: { part: string; slot: string },
): Promise<void> {
  const { value: catalogue, version } = await loadCatalogue(db);
  if (partOf(catalogue, taken.part)) return;
  const { key, name, slots } = await slotsOf(db, unit);
  const slot = one(slots.find((s) => s.id === taken.slot));
  const words = { name: ownName(slot, name), why: say("cameOutOfA", { model: name }) };
  const { part, rule } = ownPart(key, unit.revision, slot, words);
  await saveValue(db, "catalogue", version, {
    ...catalogue,
    parts: [...catalogue.parts, part],
    rules: [...catalogue.rules, rule],
  });
  note("catalogue-saved", null, { parts: catalogue.parts.length + 1, offers: catalogue.offers.length });
}

/** Every donor with what can still be had from it. */
export async function listDonors(db: Knex): Promise<DonorView[]> {
  const ids: string[] = await db("unit").where({ ending: "donor" }).orderBy("tag").pluck("id");
  return Promise.all(ids.map((id) => donorView(db, id)));
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [judgeDonorPart, takeDonorPart] as const;
