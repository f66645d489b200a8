import "server-only";

import type { Knex } from "knex";

import type { DeedParsed, Settings } from "@/contract/deeds";
import { planOptions } from "@/core/allocate/options";
import type { Freed, PlanProblem, PlanUnit, StockLine } from "@/core/allocate/problem";
import type { Id } from "@/core/base/ids";
import { one } from "@/core/base/one";
import { type Catalogue, partOf, piecePrice } from "@/core/parts/catalogue";
import { allowedFor, partsThatFit } from "@/core/parts/fit";
import { listedAs } from "@/core/profile/half";
import type { Slot } from "@/core/profile/slots";
import { standingsOf } from "@/features/case/asked";
import { mustBeWorkable } from "@/features/case/workable";
import { decideInput } from "@/features/decide/input";
import { type StoredProfile, listModels, modelById } from "@/features/models/deeds";
import { say } from "@/features/parts/words/words";
import { loadSettings } from "@/features/settings/settings";
import { loadCatalogue } from "@/features/stock/catalogue";
import { freeStock } from "@/features/stock/deeds";
import { mustFit, purposeOf } from "@/features/stock/fit";
import { releaseReservations, reserveFrom } from "@/features/stock/reserve";
import { computed, rowsOf } from "@/platform/db/joined";
import type { UnitRow } from "@/platform/db/tables";
import { Refused, stamp, together } from "@/platform/deed/base";
import { type Work, deed } from "@/platform/deed/declare";
import { donorView } from "./donors";
import { demandOf, offersOf, onTheWay } from "./supply";

/** The allocation plan's input from the whole backlog, and its application as reservations. */

/**
 * A left-over piece is worth this share of its price when the shop used one in the last quarter, else the
 * lower. House guess.
 */
const KEEP_WANTED = 0.8;

const KEEP_OTHER = 0.3;

export type PlanSubject = {
  id: string;
  tag: string;
  model: string;
  faults: number;
  source: string;
  ways: Record<string, string>;
};

export type PlanView = {
  problem: PlanProblem;
  subjects: PlanSubject[];
  donors: { id: string; tag: string }[];
  parts: Record<string, string>;
  slots: Record<string, string>;
  suppliers: Record<string, string>;
  /** units left out, and why */
  left: { tag: string; why: "not-tested" | "no-fault" | "answer-awaited" | "quarantine" | "wet" }[];
};

export const fittingFor =
  (c: Catalogue, unit: UnitRow, model: string) =>
  (slot: Slot, make: string): string[] =>
    partsThatFit(c, { model, revision: unit.revision, slot })
      .map((f) => partOf(c, f.part)!)
      .filter((p) => p.make === make && allowedFor(p, purposeOf(unit)))
      .map((p) => p.code);

/** The parts of a unit that stripping it would free, at what really comes of their going price. */
export async function freesOf(
  db: Knex,
  unitId: Id<"unit">,
  yieldShare: number,
  planning: boolean,
): Promise<Freed[]> {
  const view = await donorView(db, unitId);
  return view.parts
    .filter(
      (p) =>
        p.parts.length > 0 &&
        (p.promised === null || (planning && p.byPlan)) &&
        (p.state === "good" || p.state === "worn"),
    )
    .map((p) => ({
      slot: p.slot,
      part: p.parts[0]!,
      count: 1,
      worth: Math.round(p.worthMinor * yieldShare),
    }));
}

type Around = {
  settings: Settings;
  catalogue: Catalogue;
  newest: ReadonlyMap<string, StoredProfile>;
  byHand: readonly { unit_id: string; slot: string }[];
};

type Left = { why: PlanView["left"][number]["why"]; tag: string };

type Placed = {
  why: null;
  unit: PlanUnit;
  subject: PlanSubject;
  slots: readonly { id: string; name: string }[];
};

/** What a unit could become and needs for it; or why it has no place in the plan. */
async function placeOf(
  db: Knex,
  unit: UnitRow,
  { settings, catalogue, newest, byHand }: Around,
): Promise<Left | Placed> {
  const without = (why: Left["why"]): Left => ({ why, tag: unit.tag });
  if (unit.swollen) return without("quarantine");
  if (unit.liquid && !unit.liquid_cleared) return without("wet");
  if (unit.next_action === "first-test" || unit.next_action === "name-faults") return without("not-tested");
  if (!["decide", "mend", "wait", "end"].includes(unit.next_action)) return without("no-fault");
  if ((await standingsOf(db, unit.id)).some((s) => s.state === "waiting")) return without("answer-awaited");
  const profile = await modelById(db, unit.profile_id);
  const input = await decideInput(db, { unit, profile, settings }, "families");
  const model = newest.get(profile.key) ?? profile;
  const frees = unit.source === "customer" ? [] : await freesOf(db, unit.id, settings.rates.partsYield, true);
  const options = planOptions({ input, fitting: fittingFor(catalogue, unit, listedAs(profile.body)), frees });
  // what a hand put aside for it is its own, and asks for nothing more
  const own = byHand.filter((r) => r.unit_id === unit.id).map((r) => r.slot);
  return {
    why: null,
    unit: {
      id: unit.id,
      options: options.map((o) => ({ ...o, needs: o.needs.filter((n) => !own.includes(n.slot)) })),
      frees,
    },
    subject: {
      id: unit.id,
      tag: unit.tag,
      model: model.body.name,
      faults: input.faults.length,
      source: unit.source,
      ways: Object.fromEntries(input.routes.map((r) => [r.id, r.name])),
    },
    slots: model.body.slots ?? [],
  };
}

/** Applying a plan lets go of the reservations of an earlier one: their pieces count as free. */
const heldByPlans = (db: Knex): Promise<StockLine[]> =>
  rowsOf(
    db("reservation as r")
      .join("batch as b", "b.id", "r.batch_id")
      .where("r.status", "open")
      .whereNotNull("r.allocation_id")
      .where("b.status", "open")
      .groupBy("r.part"),
    { r: "reservation", b: "batch" },
    "r.part",
    computed<{ count: number; worth: number }>(
      db.raw("sum(r.count)::int as count, round(avg(b.value_minor::numeric / b.on_hand))::int as worth"),
    ),
  );

function shelfOf(lines: readonly StockLine[]): StockLine[] {
  const shelf = new Map<string, StockLine>();
  for (const { part, count, worth } of lines) {
    const had = shelf.get(part);
    shelf.set(part, { part, count: (had?.count ?? 0) + count, worth: had?.worth ?? worth });
  }
  return [...shelf.values()];
}

/** What a left-over piece of each part is worth on the shelf; a part without a price has no entry. */
function keptWorth(
  catalogue: Catalogue,
  demand: Awaited<ReturnType<typeof demandOf>>,
): Record<string, number> {
  return Object.fromEntries(
    catalogue.parts.flatMap((p) => {
      const price = piecePrice(catalogue, p.code);
      const wanted = (demand.get(p.code)?.perWeek ?? 0) * 13 >= 1;
      return price ? [[p.code, Math.round(price.minor * (wanted ? KEEP_WANTED : KEEP_OTHER))]] : [];
    }),
  );
}

export async function planView(db: Knex, hours: number): Promise<PlanView> {
  const [{ value: catalogue }, { settings }, models, stock, demand] = await together(
    db,
    () => loadCatalogue(db),
    () => loadSettings(db),
    () => listModels(db),
    () => freeStock(db),
    () => demandOf(db),
  );
  const newest = new Map(models.map((m) => [m.key, m]));
  const rows = await db("unit").whereNull("ending").whereNull("reference_since").orderBy("received_at");
  const byHand = await db("reservation")
    .where({ status: "open", allocation_id: null })
    .select("unit_id", "slot");
  const looked = await Promise.all(
    rows.map((unit) => placeOf(db, unit, { settings, catalogue, newest, byHand })),
  );
  const planned = looked.flatMap((l) => (l.why === null ? [l] : []));
  const units = planned.map((l) => l.unit);
  const subjects = planned.map((l) => l.subject);
  const slots = Object.fromEntries(
    planned.flatMap((l) => l.slots.map((s) => [`${l.unit.id} ${s.id}`, s.name])),
  );
  const left = looked.flatMap((l) => (l.why === null ? [] : [{ tag: l.tag, why: l.why }]));
  const donorRows: { id: string; tag: string }[] = await db("unit")
    .where({ ending: "donor" })
    .orderBy("tag")
    .select("id", "tag");
  const donors = await Promise.all(
    donorRows.map(async (d) => ({
      id: d.id,
      frees: await freesOf(db, d.id, settings.rates.partsYield, true),
    })),
  );
  const shelf = shelfOf([...stock, ...(await heldByPlans(db))]);
  const keeps = keptWorth(catalogue, demand);
  const coming = await onTheWay(db);
  return {
    problem: {
      units,
      donors: donors.filter((d) => d.frees.length > 0),
      stock: shelf.map((s) => ({ ...s, worth: Math.min(s.worth, keeps[s.part] ?? s.worth) })),
      ordered: [...coming].map(([part, count]) => ({ part, count, worth: keeps[part] ?? 0 })),
      offers: offersOf(catalogue),
      suppliers: catalogue.suppliers.map((s) => ({
        id: s.id,
        carriageMinor: s.carriageMinor,
        freeFromMinor: s.freeFromMinor,
      })),
      keeps,
      minutes: Math.round(hours * 60),
      locks: [],
    },
    subjects,
    donors: donorRows,
    parts: Object.fromEntries(catalogue.parts.map((p) => [p.code, p.name])),
    slots,
    suppliers: Object.fromEntries(catalogue.suppliers.map((s) => [s.id, s.name])),
    left,
  };
}

/**
 * Applies a plan as reservations, all or none: what an earlier plan reserved is let go, then each piece is
 * taken from the open batches that hold it, oldest first. Anything that somebody else took meanwhile refuses
 * the whole.
 */
export const applyPlan = deed(
  "plan.apply",
  {
    units: ({ lines }) =>
      lines.flatMap((l) => [l.unitId, ...(l.source.kind === "donor" ? [l.source.donorUnitId] : [])]),
    batches: (_, db) => db("batch").where({ status: "open" }).pluck("id"),
  },
  async (work, { lines, choices, valueMinor }) => {
    const { db, actor, note, units } = work;
    const earlier = await db("reservation")
      .where({ status: "open" })
      .whereNotNull("allocation_id")
      .distinct("allocation_id")
      .pluck("allocation_id");
    for (const id of earlier) if (id !== null) await releaseReservations(db, { allocation_id: id });
    const { value: catalogue } = await loadCatalogue(db);
    const plan = one(
      (
        await db("allocation")
          .insert({ body: JSON.stringify({ lines, choices }), value_minor: valueMinor, ...stamp(db, actor) })
          .returning("id")
      )[0],
    );
    for (const l of lines) {
      const unit = units.get(l.unitId);
      if (!unit) throw new Refused({ code: "not-found", what: "unit" });
      mustBeWorkable(unit);
      const part = partOf(catalogue, l.part);
      if (!part) throw new Refused({ code: "part-unknown", part: l.part });
      await mustFit(db, unit, l.slot, part);
      if (l.source.kind === "donor" && units.get(l.source.donorUnitId)?.ending !== "donor")
        throw new Refused({ code: "part-gone", state: say("stillInUse") });
      await reserveLine(work, plan.id, l);
    }
    note("plan-applied", null, {
      allocation: plan.id,
      reserved: lines.length,
      units: choices.length,
      valueMinor,
    });
    for (const c of choices) note("planned", c.unitId, { choice: c.choice, why: c.why });
    return { reserved: lines.length };
  },
);

async function reserveLine(
  work: Work,
  allocationId: string,
  l: DeedParsed<"plan.apply">["lines"][number],
): Promise<void> {
  const { db, actor } = work;
  if (l.source.kind === "donor") {
    const view = await donorView(db, l.source.donorUnitId);
    const slot = l.source.donorSlot;
    const part = view.parts.find((p) => p.slot === slot);
    if (!part || part.promised || part.state === "gone" || part.state === "bad")
      throw new Refused({
        code: "part-gone",
        state: part?.promised ? say("promised") : (part?.state ?? say("gone")),
      });
    await db("reservation").insert({
      unit_id: l.unitId,
      slot: l.slot,
      part: l.part,
      count: 1,
      donor_unit_id: l.source.donorUnitId,
      donor_slot: slot,
      allocation_id: allocationId,
      ...stamp(db, actor),
    });
    return;
  }
  let wanted = l.count;
  const batches = await db("batch")
    .where({ part: l.part, status: "open" })
    .whereRaw("on_hand > reserved")
    .orderBy("at")
    .select("id", "on_hand", "reserved");
  for (const b of batches) {
    const n = Math.min(wanted, b.on_hand - b.reserved);
    if (n <= 0) break;
    await reserveFrom(work, { unitId: l.unitId, slot: l.slot, batchId: b.id, count: n, allocationId });
    wanted -= n;
  }
  if (wanted > 0)
    throw new Refused({ code: "stock-short", wanted: l.count, free: l.count - wanted, reserved: 0 });
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [applyPlan] as const;
