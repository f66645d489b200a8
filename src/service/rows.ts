import "server-only";

import type { Intake } from "@/contract/intake";
import { intakeSchema } from "@/contract/intake";
import type { Ending } from "@/core/record/standing";
import { Refused } from "./base";

/** Rows that deeds lock, as the rest of the service reads them. */

export type UnitRow = {
  id: string;
  tag: string;
  profile_id: string;
  revision: string | null;
  source: "single" | "lot" | "customer";
  lot_id: string | null;
  customer_id: string | null;
  seller: string;
  price_minor: number | null;
  carriage_minor: number | null;
  claim: string;
  intake: Intake;
  swollen: boolean;
  liquid: boolean;
  liquid_cleared: { by: string; at: string } | null;
  tray: number | null;
  stage: string;
  next_action: string;
  ending: Ending | null;
  version: number;
  changed_by: string;
  changed_at: Date;
  received_at: Date;
  closed_at: Date | null;
  reference_since: Date | null;
  lot_share_minor: number | null;
  hand_share_minor: number | null;
  /** the day by which it is promised, YYYY-MM-DD */
  due_on: string | null;
};

export const readUnit = (row: UnitRow): UnitRow => ({ ...row, intake: intakeSchema.parse(row.intake) });

/** Refuses work on a unit that is closed or in quarantine. */
export function mustBeWorkable(unit: Pick<UnitRow, "ending" | "swollen">): void {
  if (unit.ending !== null) throw new Refused({ code: "closed" });
  if (unit.swollen) throw new Refused({ code: "quarantined" });
}

export type BatchRow = {
  id: string;
  code: string;
  part: string;
  source: "bought" | "donor" | "split" | "found" | "returned";
  supplier: string;
  donor_unit_id: string | null;
  donor_slot: string | null;
  from_batch_id: string | null;
  bin: string;
  pieces: number;
  cost_minor: number;
  on_hand: number;
  reserved: number;
  value_minor: number;
  status: "waiting" | "open" | "rejected" | "disposed";
  status_why: string;
  condition: string;
  figures: { name: string; value: number; unit: string }[];
  version: number;
  at: Date;
};
