import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { routesFor } from "@/features/decide/view";
import { unitById } from "@/features/case/facts";
import { modelById } from "@/features/models/deeds";
import { partsOfUnit } from "@/features/parts/needs";
import { openWaits } from "@/features/waits/deeds";
import { damageOf } from "@/features/prove/damage";
import { proposeWork } from "@/features/mend/proposal";
import { orderView } from "@/features/mend/view";
import { MendStation } from "@/features/mend/ui/MendStation";

export default async function MendPage({ params }: { params: Promise<{ tag: string }> }) {
  const { whole: view, actor } = await pageUnit((await params).tag);
  const db = database();
  const unit = await unitById(db, view.unit.id);
  const [routes, parts, order, proposal, waits, damage] = await Promise.all([
    routesFor(db, view.profile, view.unit.revision),
    partsOfUnit(db, unit.id),
    orderView(db, unit.id, actor),
    proposeWork(db, unit, await modelById(db, unit.profile_id)),
    openWaits(db, unit.id),
    damageOf(db, unit.id),
  ]);
  return (
    <MendStation
      view={view}
      routes={routes}
      parts={parts}
      work={{ order, proposal, waits, damage }}
      canWork={actor.role !== "viewer"}
    />
  );
}
