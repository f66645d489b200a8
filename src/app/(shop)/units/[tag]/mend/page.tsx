import { database } from "@/db/connection";
import { pageUnit } from "@/door/unit";
import { routesFor } from "@/service/decide";
import { unitById } from "@/service/facts";
import { modelById } from "@/service/models";
import { partsOfUnit } from "@/service/needs";
import { openWaits } from "@/service/waits";
import { damageOf } from "@/service/damage";
import { orderView, proposeWork } from "@/service/order-view";
import { MendStation } from "@/ui/mend/MendStation";

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
