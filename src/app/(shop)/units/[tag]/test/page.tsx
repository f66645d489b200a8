import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { benchDrift } from "@/core/bench/drift";
import { healthyRecording, referenceSheet } from "@/features/test/readings";
import { analysedAgain, fullAnalyses, recordingById } from "@/features/test/recordings";
import { TestStation } from "@/features/test/ui/TestStation";

type Props = { params: Promise<{ tag: string }>; searchParams: Promise<{ r?: string }> };

export default async function TestPage({ params, searchParams }: Props) {
  const { view, actor } = await pageUnit((await params).tag);
  const wished = (await searchParams).r;
  const shown =
    view.recordings.find((r) => r.id === wished) ??
    view.recordings.find((r) => r.purpose === "full") ??
    view.recordings[0];
  const db = database();
  const recording = shown ? await recordingById(db, shown.id) : null;
  const sheet = recording && (await referenceSheet(db, view.unit, view.profile.id, recording.analysis, []));
  const healthy = await healthyRecording(db, view.unit, view.profile.id);
  const drift = view.unit.referenceSince ? benchDrift(await fullAnalyses(db, view.unit.id)) : null;
  return (
    <TestStation
      view={view}
      recording={recording && { ...recording, startedAt: recording.startedAt.toISOString() }}
      sheet={sheet}
      healthy={healthy}
      drift={drift}
      again={shown && shown.purpose !== "quick" ? await analysedAgain(db, shown.id) : null}
      canWork={actor.role !== "viewer"}
      canLead={actor.role === "lead"}
    />
  );
}
