import { database } from "@/db/connection";
import { pageUnit } from "@/door/unit";
import { recordingById } from "@/service/recordings";
import { TestStation } from "@/ui/test/TestStation";

type Props = { params: Promise<{ tag: string }>; searchParams: Promise<{ r?: string }> };

export default async function TestPage({ params, searchParams }: Props) {
  const { view, actor } = await pageUnit((await params).tag);
  const wished = (await searchParams).r;
  const shown =
    view.recordings.find((r) => r.id === wished) ?? view.recordings.find((r) => r.purpose === "full") ?? view.recordings[0];
  const recording = shown ? await recordingById(database(), shown.id) : null;
  return (
    <TestStation
      view={view}
      recording={recording && { ...recording, startedAt: recording.startedAt.toISOString() }}
      canWork={actor.role !== "viewer"}
    />
  );
}
