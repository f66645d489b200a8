import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { one } from "@/core/base/one";
import { dayOf, daysLater } from "@/core/days/days";
import { type Cover, coversOf, isCovered } from "@/core/prove/cover";
import { say } from "@/features/after/words/words";
import { mustKeepToBill } from "@/features/case/bill";
import { openedByOthers, sealState } from "@/core/record/seal";
import { certificatesOf, partsIn } from "@/features/certificate/view";
import { loadSettings } from "@/features/settings/settings";
import { rowOf } from "@/platform/db/joined";
import { Refused, nothing, stamp, touched } from "@/platform/deed/base";
import { deed, namedUnit } from "@/platform/deed/declare";

/** Handing over, cover, and what comes back. Cover runs from the day of handing over. */

const GONE = ["released", "sold-as-found", "returned-unmended"];

/** Sold, or returned to its owner. Said again, it corrects: the last one counts. */
export const handOver = deed(
  "unit.hand-over",
  { unit: namedUnit },
  async ({ db, actor, note, unit }, input) => {
    if (unit.ending === null || !GONE.includes(unit.ending)) throw new Refused({ code: "not-released" });
    if (input.kind === "returned" && unit.source !== "customer")
      throw new Refused({ code: "not-a-customers" });
    if (input.kind === "sold" && unit.source === "customer") throw new Refused({ code: "is-a-customers" });
    await mustKeepToBill(db, unit, input.priceMinor);
    const ending = one(
      await db("ending")
        .where({ unit_id: unit.id })
        .orderBy("at", "desc")
        .first("id", "kind", "warranty_days"),
    );
    // a part's cover is said at the release; whatever leaves otherwise has none
    const parts = ending.kind === "released" ? await partsIn(db, unit.id) : [];
    const partDays = Math.max(0, ...parts.map((p) => p.coverDays ?? 0));
    await db("handover").insert({
      unit_id: unit.id,
      ending_id: ending.id,
      kind: input.kind,
      channel: input.channel,
      price_minor: input.priceMinor,
      fees_minor: input.feesMinor,
      handed_on: input.handedOn,
      unit_until: ending.warranty_days ? daysLater(input.handedOn, ending.warranty_days) : null,
      parts_until: partDays > 0 ? daysLater(input.handedOn, partDays) : null,
      buyer: input.buyer,
      contact: input.contact,
      ...stamp(db, actor),
    });
    await db("unit")
      .where({ id: unit.id })
      .update({ handed_on: input.handedOn, ...touched(db, actor) });
    note("unit-handed-over", unit.id, { kind: input.kind, channel: input.channel, handedOn: input.handedOn });
    return nothing;
  },
);

export type Standing = {
  kind: "sold" | "returned";
  channel: string;
  priceMinor: number | null;
  feesMinor: number;
  handedOn: string;
  buyer: string;
  contact: string;
  by: string;
  covers: Cover[];
};

/**
 * How a unit was handed over after its last ending, and what is covered until when. Null while it is still
 * here.
 */
export async function standingAfter(db: Knex, unitId: Id<"unit">): Promise<Standing | null> {
  const ending = await db("ending").where({ unit_id: unitId }).orderBy("at", "desc").first();
  if (!ending) return null;
  const h = await rowOf(
    db("handover as h")
      .join("person as p", "p.id", "h.by")
      .where({ ending_id: ending.id })
      .orderBy("h.at", "desc"),
    { h: "handover", p: "person" },
    "h.*",
    "h.handed_on as day",
    "p.name as person",
  );
  if (!h) return null;
  const parts = ending.kind === "released" ? await partsIn(db, unitId) : [];
  return {
    kind: h.kind,
    channel: h.channel,
    priceMinor: h.price_minor,
    feesMinor: h.fees_minor,
    handedOn: h.day,
    buyer: h.buyer,
    contact: h.contact,
    by: h.person,
    covers: coversOf({
      handedOn: h.day,
      unitDays: ending.warranty_days ?? 0,
      parts: parts.map((p) => ({ id: p.id, name: `${p.name}, ${p.place}`, days: p.coverDays ?? 0 })),
    }),
  };
}

/**
 * A unit comes back: it is opened again, tied to the mend, its route and person, and to the fitted part and
 * its batch; whether it is covered is worked out. The route's odds follow at once, since they are read from
 * this record.
 */
export const cameBack = deed(
  "unit.came-back",
  { unit: namedUnit, seen: "unit" },
  async ({ db, actor, note, unit }, { unitId, mendId, fittedId, words, sealRead, sealBroken }) => {
    if (unit.ending !== "released") throw new Refused({ code: "not-released" });
    const mend = mendId ? await db("mend").where({ id: mendId, unit_id: unitId }).first() : null;
    if (mendId && !mend) throw new Refused({ code: "not-found", what: "mend" });
    const fitted = fittedId ? await db("fitted").where({ id: fittedId, unit_id: unitId }).first("id") : null;
    if (fittedId && !fitted) throw new Refused({ code: "not-found", what: say("fittedPart") });
    const ending = one(await db("ending").where({ unit_id: unitId }).orderBy("at", "desc").first("id"));
    const standing = await standingAfter(db, unitId);
    const { settings } = await loadSettings(db);
    const today = dayOf(actor.at ?? new Date(), settings.timeZone);
    const putOn = await sealOf(db, unitId);
    const seal = sealState(putOn, sealRead, sealBroken);
    if (putOn !== "" && seal === null) throw new Refused({ code: "read-the-seal" });
    const byOthers = openedByOthers(seal);
    const inCover = standing ? isCovered(standing.covers, today, fittedId) : null;
    // cover ends where others opened it
    const inWarranty = byOthers ? false : inCover;
    await db("comeback").insert({
      unit_id: unitId,
      // what others' hands did is held against no mend and no batch of ours
      mend_id: byOthers ? null : mendId,
      fitted_id: byOthers ? null : fittedId,
      ending_id: ending.id,
      in_warranty: inWarranty,
      seal,
      seal_read: sealRead,
      words,
      released_at: one(unit.closed_at),
      ...stamp(db, actor),
    });
    if (mend?.fault_id && !byOthers)
      await db("fault")
        .where({ id: mend.fault_id })
        .update({ status: "open", status_why: `came back: ${words}`, version: db.raw("version + 1") });
    await db("unit")
      .where({ id: unitId })
      .update({
        ...{ ending: null, closed_at: null, handed_on: null },
        ...(byOthers ? { intake: JSON.stringify({ ...unit.intake, openedBefore: true }) } : {}),
        ...touched(db, actor),
      });
    await db("certificate")
      .where({ unit_id: unitId, revoked_at: null })
      .update({ revoked_at: actor.at ?? db.fn.now(), revoked_why: `The unit came back: ${words}` });
    note("unit-came-back", unitId, {
      mend: byOthers ? null : (mend?.number ?? null),
      words,
      inWarranty,
      ...(seal ? { seal } : {}),
    });
    return nothing;
  },
);

/** The number of our seal on a unit that left; empty where none was put on. */
async function sealOf(db: Knex, unitId: Id<"unit">): Promise<string> {
  return (await certificatesOf(db, unitId)).find((c) => c.revokedAt === null)?.body.seal ?? "";
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [cameBack, handOver] as const;
