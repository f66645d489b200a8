import type { UnitRow } from "@/platform/db/tables";

/**
 * What a unit cost to get: its own price and carriage, or its share of the lot's. Nothing yet of a lot that
 * is not spread.
 */
export const purchaseOf = (
  unit: Pick<UnitRow, "source" | "price_minor" | "carriage_minor" | "lot_share_minor">,
): number =>
  unit.source === "lot" ? (unit.lot_share_minor ?? 0) : (unit.price_minor ?? 0) + (unit.carriage_minor ?? 0);
