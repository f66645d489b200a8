import { database } from "@/platform/db/connection";
import { publicAddress } from "@/platform/http/address";
import { pageUnit } from "@/platform/http/unit";
import { decideView } from "@/features/decide/view";
import { questionsOf } from "@/features/case/asked";
import { papersOf } from "@/features/papers/view";
import { DecideStation } from "@/features/decide/ui/DecideStation";

export default async function DecidePage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  const [decide, questions, papers] = await Promise.all([
    decideView(database(), view.unit.id),
    questionsOf(database(), view.unit.id),
    papersOf(database(), view.unit),
  ]);
  return (
    <DecideStation
      view={view}
      decide={decide}
      questions={questions}
      papers={papers}
      role={actor.role}
      publicUrl={await publicAddress()}
    />
  );
}
