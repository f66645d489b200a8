import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { healthyRecording } from "@/features/test/readings";
import { comparable, recordingById } from "@/features/test/recordings";
import { CompareView } from "@/features/test/ui/result/CompareView";

type Props = {
  params: Promise<{ tag: string }>;
  searchParams: Promise<{ a?: string; b?: string; c?: string }>;
};

export default async function ComparePage({ params, searchParams }: Props) {
  const { view } = await pageUnit((await params).tag);
  const wished = await searchParams;
  const db = database();
  const choices = await comparable(db, view.unit.id, view.profile.id);
  const own = choices.filter((c) => !c.reference);
  const b = choices.find((c) => c.id === wished.b) ?? own[0] ?? null;
  const a =
    choices.find((c) => c.id === wished.a) ??
    own.filter((c) => c.id !== b?.id).at(-1) ??
    choices.find((c) => c.id !== b?.id) ??
    null;
  const [left, right, healthy] = await Promise.all([
    a && recordingById(db, a.id),
    b && recordingById(db, b.id),
    healthyRecording(db, view.unit, view.profile.id),
  ]);
  const side = (r: typeof left) => r && { id: r.id, analysis: r.analysis, plots: r.plots };
  return (
    <CompareView
      view={view}
      choices={choices}
      left={side(left)}
      right={side(right)}
      healthy={healthy}
      control={wished.c ?? null}
    />
  );
}
