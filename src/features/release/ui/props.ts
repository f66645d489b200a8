import type { Role } from "@/contract/roles";
import type { ReleaseView } from "@/features/release/view";
import type { UnitView } from "@/features/units/view";

export type ReleaseProps = {
  view: UnitView;
  release: ReleaseView;
  role: Role;
  publicUrl: string | null;
  /** YYYY-MM-DD */
  today: string;
};
