import "server-only";

import type { Knex } from "knex";

import { type Catalogue, partOf } from "@/core/parts/catalogue";
import { allowedFor, type Fit, partsThatFit } from "@/core/parts/fit";
import { listedAs } from "@/core/profile/half";
import type { Slot } from "@/core/profile/slots";
import { openSymptomsOf, unitById } from "@/features/case/facts";
import { modelById, modelByKey } from "@/features/models/deeds";
import { loadCatalogue } from "@/features/stock/catalogue";
import { purposeOf } from "@/features/stock/fit";
import { rowsOf } from "@/platform/db/joined";
import type { BatchRow, UnitRow } from "@/platform/db/tables";
import { codeWords } from "@/words/codes";
import { say } from "@/features/parts/words/words";
import type { Id } from "@/core/base/ids";

/** What open units could take: by slot of each open fault, the catalogue parts that go there. */

export const unitIdOf = async (
  db: Knex,
  tag: string,
): Promise<{ id: string; ending: string | null } | null> =>
  (await db("unit").where({ tag }).first("id", "ending")) ?? null;

export type OpenNeed = {
  unitId: Id<"unit">;
  tag: string;
  slot: string;
  slotName: string;
  modelKey: string;
  parts: string[];
};

export async function openNeeds(db: Knex): Promise<OpenNeed[]> {
  const { value: catalogue } = await loadCatalogue(db);
  const rows = await db("unit")
    .whereNull("ending")
    .whereIn("next_action", ["decide", "mend", "wait", "end"])
    .orderBy("tag");
  const needsOf = async (unit: UnitRow): Promise<OpenNeed[]> => {
    const needs: OpenNeed[] = [];
    const own = await modelById(db, unit.profile_id);
    const profile = (await modelByKey(db, own.key)) ?? own;
    const faults = await openSymptomsOf(db, unit.id);
    for (const slot of profile.body.slots ?? []) {
      if (!slot.serves.some((s) => faults.some((f) => f.place === s))) continue;
      const parts = partsThatFit(catalogue, { model: listedAs(own.body), revision: unit.revision, slot })
        .filter((f) => allowedFor(partOf(catalogue, f.part)!, purposeOf(unit)))
        .map((f) => f.part);
      if (parts.length > 0)
        needs.push({
          unitId: unit.id,
          tag: unit.tag,
          slot: slot.id,
          slotName: slot.name,
          modelKey: own.key,
          parts,
        });
    }
    return needs;
  };
  return (await Promise.all(rows.map(needsOf))).flat();
}

export type UnitParts = {
  fitted: {
    id: string;
    slot: string;
    slotName: string;
    part: string;
    name: string;
    from: string;
    batch: string | null;
    condition: string;
    deviation: string;
    costMinor: number;
    feel: number | null;
    recalled: boolean;
    lacks: string[];
    removed: string | null;
    at: string;
  }[];
  /** batches on the shelf that fit a slot of this unit */
  shelf: {
    batchId: Id<"batch">;
    batch: string;
    bin: string;
    slot: string;
    slotName: string;
    name: string;
    fit: Fit;
    count: number;
    free: number;
    mine: number;
    lacks: string[];
  }[];
  reserved: { id: string; slot: string; part: string; batch: string | null; donor: string | null }[];
  slots: { id: string; name: string; sits: string; newLacks: string[] }[];
};

const fittedIn = (db: Knex, unitId: Id<"unit">) =>
  rowsOf(
    db("fitted as f")
      .leftJoin("batch as b", "b.id", "f.batch_id")
      .leftJoin("unit as u", "u.id", "f.from_unit_id")
      .where("f.unit_id", unitId)
      .orderBy("f.at", "desc"),
    { f: "fitted", u: "unit?", b: "batch?" },
    "f.*",
    "b.code",
    "b.status",
    "u.tag",
  );
const reservedFor = (db: Knex, unitId: Id<"unit">) =>
  rowsOf(
    db("reservation as r")
      .leftJoin("batch as b", "b.id", "r.batch_id")
      .leftJoin("unit as u", "u.id", "r.donor_unit_id")
      .where({ "r.unit_id": unitId, "r.status": "open" }),
    { r: "reservation", u: "unit?", b: "batch?" },
    "r.*",
    "b.code",
    "u.tag",
  );
type FittedRow = Awaited<ReturnType<typeof fittedIn>>[number];
type ReservedRow = Awaited<ReturnType<typeof reservedFor>>[number];

function asFitted(
  f: FittedRow,
  catalogue: Catalogue,
  slotName: (id: string) => string,
): UnitParts["fitted"][number] {
  const fromOf = () => {
    if (f.tag) return say("outOfTag", { tag: f.tag });
    return f.code ? "" : codeWords("swapped");
  };
  return {
    id: f.id,
    slot: f.slot,
    slotName: slotName(f.slot),
    part: f.part,
    name: partOf(catalogue, f.part)?.name ?? f.part,
    from: fromOf(),
    batch: f.code,
    condition: f.condition,
    deviation: f.deviation,
    costMinor: f.cost_minor,
    feel: f.feel,
    recalled: f.removed_at === null && (f.status === "rejected" || f.status === "disposed"),
    lacks: partOf(catalogue, f.part)?.lacks ?? [],
    removed: f.removed_at ? f.removed_why : null,
    at: f.at.toISOString(),
  };
}

type Wanted = {
  unit: UnitRow;
  model: string;
  slot: Slot;
  catalogue: Catalogue;
  reserved: readonly ReservedRow[];
};
/** The batches that would go into one slot, with what is free of each or put aside for this very slot. */
function shelfFor(
  { unit, model, slot, catalogue, reserved }: Wanted,
  batches: readonly BatchRow[],
): UnitParts["shelf"] {
  const fits = partsThatFit(catalogue, { model, revision: unit.revision, slot });
  const count = slot.fit?.count ?? 1;
  return batches.flatMap((b) => {
    const fit = fits.find((f) => f.part === b.part);
    const part = partOf(catalogue, b.part);
    if (!fit || !part || !allowedFor(part, purposeOf(unit))) return [];
    const own = reserved.filter((r) => r.batch_id === b.id && r.slot === slot.id);
    const mine = own.reduce((s, r) => s + r.count, 0);
    const free = b.on_hand - b.reserved + mine;
    if (free < count) return [];
    const lacks =
      part.make === "original" ? [] : [...new Set([...part.lacks, ...(slot.fit?.newLacks ?? [])])];
    return [
      {
        batchId: b.id,
        batch: b.code,
        bin: b.bin,
        slot: slot.id,
        slotName: slot.name,
        name: part.name,
        ...{ fit, count, free, mine, lacks },
      },
    ];
  });
}

/** What is in a unit, what is put aside for it, and what on the shelf would go in. */
export async function partsOfUnit(db: Knex, unitId: Id<"unit">): Promise<UnitParts> {
  const unit = await unitById(db, unitId);
  const own = await modelById(db, unit.profile_id);
  const profile = (await modelByKey(db, own.key)) ?? own;
  const { value: catalogue } = await loadCatalogue(db);
  const slots = profile.body.slots ?? [];
  const slotName = (id: string) => slots.find((s) => s.id === id)?.name ?? id;
  const [fitted, reserved, batches] = await Promise.all([
    fittedIn(db, unitId),
    reservedFor(db, unitId),
    db("batch").where({ status: "open" }).where("on_hand", ">", 0).orderBy("code"),
  ]);
  const open = unit.ending === null ? slots : [];
  return {
    fitted: fitted.map((f) => asFitted(f, catalogue, slotName)),
    shelf: open.flatMap((slot) =>
      shelfFor({ unit, model: listedAs(own.body), slot, catalogue, reserved }, batches),
    ),
    reserved: reserved.map((r) => ({
      id: r.id,
      slot: slotName(r.slot),
      part: r.part,
      batch: r.code,
      donor: r.tag,
    })),
    slots: slots.map((s) => ({
      id: s.id,
      name: s.name,
      sits: s.fit?.sits ?? "",
      newLacks: s.fit?.newLacks ?? [],
    })),
  };
}
