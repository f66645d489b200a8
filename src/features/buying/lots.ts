import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { readListing, suspectedOf } from "@/core/decide/buying";
import { type LotUnit, shareLot, type SpreadWay } from "@/core/decide/lot";
import { rowsOf } from "@/platform/db/joined";
import { say } from "@/features/buying/words/words";
import { offThread } from "@/platform/work/pool";
import { nothing, overtaken, Refused, stamp } from "@/platform/deed/base";
import { buyBase, MOST_SECONDS } from "./deeds";
import { deed, Stale, type Work } from "@/platform/deed/declare";

/** What units of a lot carry of its cost. */

/**
 * What may come of a unit before anything is known of it, by model and claim: worked out before anything is
 * locked.
 */
export type Worths = ReadonlyMap<string, number>;
const worthKey = (model: string, claim: string): string => JSON.stringify([model, claim]);
export type Claimed = { model: string; claim: string };

export async function worthsOf(db: Knex, claimed: readonly Claimed[]): Promise<Worths> {
  const out = new Map<string, number>();
  for (const { model, claim } of claimed)
    if (!out.has(worthKey(model, claim)))
      out.set(worthKey(model, claim), await expectedWorth(db, model, claim));
  return out;
}

async function expectedWorth(db: Knex, model: string, claim: string): Promise<number> {
  const loaded = await buyBase(db, model);
  if (!loaded) return 0;
  const { base, families, lexicon } = loaded;
  const suspected = suspectedOf(base.profile, readListing(claim, base.profile, lexicon), families);
  return Math.round((await offThread("prospect", { base, suspected }, MOST_SECONDS)).worth);
}

const ofLot = (db: Knex, lotId: Id<"lot">) =>
  rowsOf(
    db("unit as u")
      .join("model_profile as p", "p.id", "u.profile_id")
      .where("u.lot_id", lotId)
      .orderBy("u.tag"),
    { u: "unit", p: "model_profile" },
    "u.id",
    "u.tag",
    "u.claim",
    "u.ending",
    "u.lot_share_minor",
    "u.hand_share_minor",
    "u.expected_minor",
    "p.key as model",
  );
/** For units of a lot of which nobody worked it out yet, or for all of them. */
export async function worthsOfLot(db: Knex, lotId: Id<"lot"> | null, all: boolean): Promise<Worths> {
  const rows = lotId === null ? [] : await ofLot(db, lotId);
  return worthsOf(
    db,
    rows.filter((r) => all || r.expected_minor === null),
  );
}

/** A donor gives a part of what a whole unit would: its weight in the spread. */
const STRIP_WEIGHT = 0.4;
/** The units of a lot: whoever spreads its cost has them all locked, in one order. */
export const lotMates = async (db: Knex, lotId: Id<"lot"> | null): Promise<string[]> =>
  lotId === null ? [] : db("unit").where({ lot_id: lotId }).pluck("id");
/** The lot that a unit came with, if any. */
export const lotOf = async (db: Knex, unitId: Id<"unit">): Promise<Id<"lot"> | null> =>
  (await db("unit").where({ id: unitId }).first("lot_id"))?.lot_id ?? null;
/** The units that share the cost of a unit's lot with it. */
export const lotMatesOf = async ({ unitId }: { unitId: Id<"unit"> }, db: Knex): Promise<string[]> =>
  lotMates(db, await lotOf(db, unitId));

const ROLE_SHARE: Record<string, "fixed" | "strip" | "none"> = {
  released: "fixed",
  "sold-as-found": "fixed",
  "returned-unmended": "fixed",
  donor: "strip",
  scrap: "none",
};

/**
 * Spreads a lot's cost over its units again and keeps the spread with its reason. Units still to come hold a
 * share too, so that the first to arrive do not carry the whole lot. Always adds up to the cent.
 */
export async function respread(
  { db, actor, note }: Work,
  lotId: Id<"lot">,
  why: string,
  worths: Worths,
  asked?: SpreadWay,
): Promise<void> {
  const lot = await db("lot").where({ id: lotId }).forUpdate().first();
  if (!lot) throw new Refused({ code: "not-found", what: "lot" });
  const way: SpreadWay = asked ?? lot.spread_way;
  const rows = await ofLot(db, lotId);
  const units: LotUnit[] = [];
  for (const r of rows) {
    const role = r.ending ? ROLE_SHARE[r.ending] : null;
    // worked out when it arrives, and again when somebody asks for a spread
    const worth =
      r.expected_minor === null || asked ? worths.get(worthKey(r.model, r.claim)) : r.expected_minor;
    if (worth === undefined) throw new Stale(); // it came, or its words changed, since that was worked out
    if (worth !== r.expected_minor) await db("unit").where({ id: r.id }).update({ expected_minor: worth });
    units.push({
      id: r.id,
      value: role === "none" ? 0 : Math.max(0, role === "strip" ? worth * STRIP_WEIGHT : worth),
      fixed: role === "fixed" ? r.lot_share_minor : null,
      byHand: r.hand_share_minor,
    });
  }
  const missing = Math.max(0, (lot.units_promised ?? 0) - rows.length);
  const mean = units.length ? units.reduce((s, u) => s + u.value, 0) / units.length : 1;
  for (let i = 0; i < missing; i++)
    units.push({ id: say("toComeI", { i: i + 1 }), value: mean, fixed: null, byHand: null });
  const cost = lot.price_minor + lot.carriage_minor;
  const shares = shareLot(cost, units, way);
  // of what nothing has come for yet nothing is shared: the first unit carries it
  const left = units.length === 0 ? 0 : cost - [...shares.values()].reduce((a, b) => a + b, 0);
  if (left !== 0 || [...shares.values()].some((s) => s < 0))
    throw new Refused({ code: "shares-do-not-add", leftMinor: left });
  for (const r of rows)
    await db("unit")
      .where({ id: r.id })
      .update({ lot_share_minor: shares.get(r.id) });
  for (const r of rows)
    if (r.ending && shares.get(r.id) !== r.lot_share_minor)
      note("share-changed", r.id, { lot: lot.code, share: shares.get(r.id) });
  await db("lot")
    .where({ id: lotId })
    .update({ spread_way: way, version: db.raw("version + 1") });
  await db("lot_spread").insert({
    lot_id: lotId,
    way,
    why,
    shares: JSON.stringify(
      units.map((u) => ({
        unit: rows.find((r) => r.id === u.id)?.tag ?? say("toCome"),
        minor: shares.get(u.id),
      })),
    ),
    ...stamp(db, actor),
  });
  note("lot-spread", null, { lot: lot.code, way, why });
}

export const spreadLot = deed(
  "lot.spread",
  { units: ({ lotId }, db) => lotMates(db, lotId), prepare: ({ lotId }, db) => worthsOfLot(db, lotId, true) },
  async (work, { lotId, version, way, hand }) => {
    const { db, prepared } = work;
    const lot = await db("lot").where({ id: lotId }).forUpdate().first();
    if (!lot) throw new Refused({ code: "not-found", what: "lot" });
    if (lot.version !== version) throw overtaken();
    if (way === "hand") {
      await db("unit").where({ lot_id: lotId }).update({ hand_share_minor: null });
      for (const h of hand)
        if (
          (await db("unit").where({ id: h.unitId, lot_id: lotId }).update({ hand_share_minor: h.minor })) !==
          1
        )
          throw new Refused({ code: "not-found", what: say("unitOfThisLot") });
    }
    await respread(work, lotId, say("askedFor"), prepared, way);
    return nothing;
  },
);

export const bookCarriage = deed(
  "lot.carriage",
  {
    units: ({ lotId }, db) => lotMates(db, lotId),
    prepare: ({ lotId }, db) => worthsOfLot(db, lotId, false),
  },
  async (work, { lotId, version, carriageMinor }) => {
    const { db, prepared } = work;
    const lot = await db("lot").where({ id: lotId }).forUpdate().first();
    if (!lot) throw new Refused({ code: "not-found", what: "lot" });
    if (lot.version !== version) throw overtaken();
    await db("lot").where({ id: lotId }).update({ carriage_minor: carriageMinor });
    await respread(work, lotId, say("carriageBilled"), prepared);
    return nothing;
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [spreadLot, bookCarriage] as const;
