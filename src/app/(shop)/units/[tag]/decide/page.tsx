import { database } from "@/db/connection";
import { publicAddress } from "@/door/address";
import { pageUnit } from "@/door/unit";
import { decideView } from "@/service/decide";
import { questionsOf } from "@/service/asked";
import { DecideStation } from "@/ui/decide/DecideStation";

export default async function DecidePage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  const [decide, questions] = await Promise.all([decideView(database(), view.unit.id), questionsOf(database(), view.unit.id)]);
  return <DecideStation view={view} decide={decide} questions={questions} role={actor.role} publicUrl={await publicAddress()} />;
}
