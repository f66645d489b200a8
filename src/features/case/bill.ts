import "server-only";

import type { Knex } from "knex";

import { type Bill, billOf } from "@/core/prove/bill";
import { Refused } from "@/platform/deed/base";
import type { UnitRow } from "@/platform/db/tables";
import { modelById } from "@/features/models/deeds";
import { agreedOf } from "./asked";

/** The bill of a customer's unit, from their answers and from what was cured; null for a unit of the shop's own. */
export async function billFor(
  db: Knex,
  unit: Pick<UnitRow, "id" | "source" | "intake" | "profile_id">,
): Promise<Bill | null> {
  if (unit.source !== "customer") return null;
  const agreed = await agreedOf(db, unit.id);
  const wanted = agreed.some((a) => a.like) ? await placesFitted(db, unit) : new Set<string>();
  return billOf(
    agreed.map(({ number, found, words, priceMinor, fault, like }) => ({
      ...{ number, found, words, priceMinor, fault },
      like: like && {
        words: like.words,
        priceMinor: like.priceMinor,
        fitted: wanted.has(like.place),
      },
    })),
    unit.intake.costLimitMinor,
  );
}

/** The places that a part fitted here serves. */
export async function placesFitted(db: Knex, unit: Pick<UnitRow, "id" | "profile_id">): Promise<Set<string>> {
  const fitted: string[] = await db("fitted").where({ unit_id: unit.id, removed_at: null }).pluck("slot");
  const { body } = await modelById(db, unit.profile_id);
  return new Set((body.slots ?? []).filter((s) => fitted.includes(s.id)).flatMap((s) => s.serves));
}

/** Refuses to charge a customer more than they agreed to. */
export async function mustKeepToBill(
  db: Knex,
  unit: Pick<UnitRow, "id" | "source" | "intake" | "profile_id">,
  priceMinor: number | null,
): Promise<void> {
  const bill = await billFor(db, unit);
  if (!bill || bill.ceilingMinor === null || (priceMinor ?? 0) <= bill.ceilingMinor) return;
  throw new Refused({
    code: "over-agreed",
    agreedMinor: bill.ceilingMinor,
    isAgreed: bill.lines.length > 0,
  });
}
