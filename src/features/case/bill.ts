import "server-only";

import type { Knex } from "knex";

import type { LikePart } from "@/contract/question";
import { type Bill, billOf } from "@/core/prove/bill";
import { Refused } from "@/platform/deed/base";
import type { UnitRow } from "@/platform/db/tables";
import { modelById } from "@/features/models/deeds";
import { agreedOf } from "./asked";

type BilledUnit = Pick<UnitRow, "id" | "source" | "intake" | "profile_id" | "ending">;

/** Faults that a bill of an earlier time in the house names, and that nothing took back: under warranty or paid. */
async function billedBefore(db: Knex, unit: BilledUnit): Promise<Set<number>> {
  const papers = await db("paper")
    .where({ unit_id: unit.id, kind: "bill" })
    .select("id", "of_id", "corrects", "body");
  const corrected = new Set(papers.map((p) => p.corrects));
  const standing = papers.filter((p) => !corrected.has(p.id));
  if (standing.length === 0) return new Set();
  const ending =
    unit.ending === null
      ? undefined
      : await db("ending").where({ unit_id: unit.id }).orderBy("at", "desc").first("id");
  return new Set(
    standing
      .filter((p) => p.of_id !== ending?.id)
      .flatMap((p) => p.body.lines.flatMap((l) => (l.fault !== null && l.amountMinor ? [l.fault] : []))),
  );
}

/** The bill of a customer's unit, from their answers and from what was cured; null for a unit of the shop's own. */
export async function billFor(db: Knex, unit: BilledUnit): Promise<Bill | null> {
  if (unit.source !== "customer") return null;
  const before = await billedBefore(db, unit);
  const agreed = (await agreedOf(db, unit.id)).filter((a) => !before.has(a.number));
  const wanted = agreed.some((a) => a.extras.length > 0) ? await partsIn(db, unit) : NOTHING_IN;
  return billOf(
    agreed.map(({ number, found, words, priceMinor, fault, extras }) => ({
      ...{ number, found, words, priceMinor, fault },
      extras: extras.map((e) => ({
        words: e.words,
        priceMinor: e.priceMinor,
        fitted: isIn(wanted, e),
      })),
    })),
    unit.intake.costLimitMinor,
  );
}

type In = { slots: ReadonlySet<string>; places: ReadonlySet<string> };
export const NOTHING_IN: In = { slots: new Set(), places: new Set() };

/** The slots that a part was fitted in here, and the places that they serve. */
export async function partsIn(db: Knex, unit: Pick<UnitRow, "id" | "profile_id">): Promise<In> {
  const fitted: string[] = await db("fitted").where({ unit_id: unit.id, removed_at: null }).pluck("slot");
  const { body } = await modelById(db, unit.profile_id);
  const own = (body.slots ?? []).filter((s) => fitted.includes(s.id));
  return { slots: new Set(fitted), places: new Set(own.flatMap((s) => s.serves)) };
}

/** Whether what was wanted is in: its very part where that is named, else any at its place. */
export const isIn = (there: In, { place, slot }: Pick<LikePart, "place" | "slot">): boolean =>
  slot === undefined ? there.places.has(place) : there.slots.has(slot);

/** Refuses to charge a customer more than they agreed to. */
export async function mustKeepToBill(db: Knex, unit: BilledUnit, priceMinor: number | null): Promise<void> {
  const bill = await billFor(db, unit);
  if (!bill || bill.ceilingMinor === null || (priceMinor ?? 0) <= bill.ceilingMinor) return;
  throw new Refused({
    code: "over-agreed",
    agreedMinor: bill.ceilingMinor,
    isAgreed: bill.lines.length > 0,
  });
}
