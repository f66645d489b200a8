import { daysLater } from "@/core/days/days";
import type { ProveRules } from "./proof";

/** Until when the shop stands behind a unit and each part that it fitted. Cover runs from the handover. */

export type Cover = { what: "unit" | "part"; name: string; until: string; fittedId: string | null };

/** The days that the house gives on a part which it fitted new, or used. */
export const usualPartDays = (
  used: boolean,
  rules: Pick<ProveRules, "partWarrantyDays" | "usedPartWarrantyDays">,
): number => (used ? rules.usedPartWarrantyDays : rules.partWarrantyDays);

/** Covers in the order in which they end; nothing that has no days. */
export function coversOf(sale: {
  handedOn: string;
  unitDays: number;
  parts: readonly { id: string; name: string; days: number }[];
}): Cover[] {
  const covers: Cover[] = [];
  if (sale.unitDays > 0)
    covers.push({ what: "unit", name: "", until: daysLater(sale.handedOn, sale.unitDays), fittedId: null });
  for (const p of sale.parts)
    if (p.days > 0)
      covers.push({ what: "part", name: p.name, until: daysLater(sale.handedOn, p.days), fittedId: p.id });
  return covers.sort((a, b) => a.until.localeCompare(b.until));
}

/**
 * Whether something that came back is covered: by the unit's own cover, or by that of the part that it points
 * to.
 */
export const isCovered = (covers: readonly Cover[], day: string, fittedId: string | null): boolean =>
  covers.some((c) => day <= c.until && (c.what === "unit" || (fittedId !== null && c.fittedId === fittedId)));
