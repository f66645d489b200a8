import { database } from "@/db/connection";
import { pageUnit } from "@/door/unit";
import { routesFor } from "@/service/decide";
import { MendStation } from "@/ui/mend/MendStation";

export default async function MendPage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  return <MendStation view={view} routes={await routesFor(database(), view.profile)} canWork={actor.role !== "viewer"} />;
}
