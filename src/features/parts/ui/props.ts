import type { Settings } from "@/contract/deeds";
import type { PartTab, PartsView } from "@/features/parts/view";

export type PartsProps = {
  tab: PartTab;
  view: PartsView;
  shop: Settings;
  hours: number;
  part: string;
  canWork: boolean;
  canLead: boolean;
};
