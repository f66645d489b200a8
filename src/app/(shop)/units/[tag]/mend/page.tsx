import { database } from "@/db/connection";
import { pageUnit } from "@/door/unit";
import { routesFor } from "@/service/decide";
import { partsOfUnit } from "@/service/needs";
import { MendStation } from "@/ui/mend/MendStation";

export default async function MendPage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  const db = database();
  return (
    <MendStation
      view={view}
      routes={await routesFor(db, view.profile)}
      parts={await partsOfUnit(db, view.unit.id)}
      canWork={actor.role !== "viewer"}
    />
  );
}
