import { outsideOf } from "@/core/profile/profile";
import { database } from "@/db/connection";
import { pageUnit } from "@/door/unit";
import { listModels } from "@/service/models";
import { IntakeStation } from "@/ui/intake/IntakeStation";

export default async function IntakePage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  const canWork = actor.role !== "viewer" && view.unit.ending === null;
  const models = canWork ? await listModels(database()) : [];
  return <IntakeStation view={view} models={models.map((m) => outsideOf(m.body))} canWork={actor.role !== "viewer"} />;
}
