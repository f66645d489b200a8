import { outsideOf } from "@/core/profile/profile";
import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { listModels } from "@/features/models/deeds";
import { IntakeStation } from "@/features/intake/ui/IntakeStation";

export default async function IntakePage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  const canWork = actor.role !== "viewer" && view.unit.ending === null;
  const models = canWork ? await listModels(database()) : [];
  return (
    <IntakeStation
      view={view}
      models={models.map((m) => outsideOf(m.body))}
      canWork={actor.role !== "viewer"}
    />
  );
}
