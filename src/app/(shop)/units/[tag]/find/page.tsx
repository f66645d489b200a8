import { database } from "@/db/connection";
import { pageUnit } from "@/door/unit";
import { findView } from "@/service/find-view";
import { FindStation } from "@/ui/find/FindStation";

export default async function FindPage({ params }: { params: Promise<{ tag: string }> }) {
  const { whole: view, actor } = await pageUnit((await params).tag);
  return <FindStation view={view} find={await findView(database(), view)} role={actor.role} />;
}
