import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { nextView } from "@/features/decide/next";
import { findView } from "@/features/find/view";
import { FindStation } from "@/features/find/ui/FindStation";

export default async function FindPage({ params }: { params: Promise<{ tag: string }> }) {
  const { whole: view, actor } = await pageUnit((await params).tag);
  const next = await nextView(database(), view.unit.id);
  const find = await findView(database(), view, next?.checks);
  return <FindStation view={view} find={find} next={next} role={actor.role} />;
}
