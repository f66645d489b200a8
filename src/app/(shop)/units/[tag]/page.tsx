import { redirect } from "next/navigation";

import { stationFor } from "@/core/record/standing";
import { pageUnit } from "@/platform/http/unit";

/** Opens on the station where work goes on. */
export default async function UnitPage({ params }: { params: Promise<{ tag: string }> }) {
  const { view } = await pageUnit((await params).tag);
  redirect(`/units/${view.unit.tag}/${stationFor(view.nextAction)}`);
}
