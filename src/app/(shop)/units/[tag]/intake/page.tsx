import { outsideOf } from "@/core/profile/profile";
import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { listModels } from "@/features/models/deeds";
import { papersOf } from "@/features/papers/view";
import { IntakeStation } from "@/features/intake/ui/IntakeStation";

export default async function IntakePage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  const canWork = actor.role !== "viewer" && view.unit.ending === null;
  const [models, papers] = await Promise.all([
    canWork ? listModels(database()) : [],
    papersOf(database(), view.unit),
  ]);
  return (
    <IntakeStation
      view={view}
      models={models.map((m) => outsideOf(m.body))}
      papers={papers}
      canWork={actor.role !== "viewer"}
    />
  );
}
