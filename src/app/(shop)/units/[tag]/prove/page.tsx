import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { healthyRecording } from "@/features/test/readings";
import { recordingById } from "@/features/test/recordings";
import { ProveStation } from "@/features/prove/ui/ProveStation";

export default async function ProvePage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  const load = async (id: string | null) => {
    const r = id ? await recordingById(database(), id) : null;
    return (
      r && {
        id: r.id,
        analysis: r.analysis,
        plots: r.plots,
        startedAt: r.startedAt.toISOString(),
        grade: r.grade,
        source: r.source,
        by: r.by,
      }
    );
  };
  const [before, proof, healthy] = await Promise.all([
    load(view.baselineId),
    load(view.proofId),
    healthyRecording(database(), view.unit, view.profile.id),
  ]);
  return (
    <ProveStation
      view={view}
      before={before}
      proof={proof}
      healthy={healthy}
      canWork={actor.role !== "viewer"}
    />
  );
}
