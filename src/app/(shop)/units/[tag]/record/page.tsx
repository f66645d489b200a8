import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { eventsOf } from "@/features/units/view";
import { UnitRecord } from "@/features/units/ui/unit/UnitRecord";

export default async function RecordPage({ params }: { params: Promise<{ tag: string }> }) {
  const { view } = await pageUnit((await params).tag);
  return <UnitRecord events={await eventsOf(database(), view.unit.id)} shop={view.settings} />;
}
