import type { Role } from "@/contract/deeds";
import type { ReleaseView } from "@/service/release-view";
import type { UnitView } from "@/service/views";

export type ReleaseProps = {
  view: UnitView;
  release: ReleaseView;
  role: Role;
  publicUrl: string | null;
  /** YYYY-MM-DD */
  today: string;
};
