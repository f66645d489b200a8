import "server-only";

import type { Knex } from "knex";

import { type Bill, billOf } from "@/core/prove/bill";
import { Refused } from "@/platform/deed/base";
import type { UnitRow } from "@/platform/db/tables";
import { agreedOf } from "./asked";

/** The bill of a customer's unit, from their answers and from what was cured; null for a unit of the shop's own. */
export async function billFor(
  db: Knex,
  unit: Pick<UnitRow, "id" | "source" | "intake">,
): Promise<Bill | null> {
  if (unit.source !== "customer") return null;
  const agreed = await agreedOf(db, unit.id);
  return billOf(
    agreed.map(({ number, found, words, priceMinor, fault }) => ({
      number,
      found,
      words,
      priceMinor,
      fault,
    })),
    unit.intake.costLimitMinor,
  );
}

/** Refuses to charge a customer more than they agreed to. */
export async function mustKeepToBill(
  db: Knex,
  unit: Pick<UnitRow, "id" | "source" | "intake">,
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
