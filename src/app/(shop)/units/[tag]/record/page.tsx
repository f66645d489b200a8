import { database } from "@/db/connection";
import { pageUnit } from "@/door/unit";
import { eventsOf } from "@/service/views";
import { UnitRecord } from "@/ui/unit/UnitRecord";

export default async function RecordPage({ params }: { params: Promise<{ tag: string }> }) {
  const { view } = await pageUnit((await params).tag);
  return <UnitRecord events={await eventsOf(database(), view.unit.id)} shop={view.settings} />;
}
