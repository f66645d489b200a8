import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { findView } from "@/features/find/view";
import { FindStation } from "@/features/find/ui/FindStation";

export default async function FindPage({ params }: { params: Promise<{ tag: string }> }) {
  const { whole: view, actor } = await pageUnit((await params).tag);
  return <FindStation view={view} find={await findView(database(), view)} role={actor.role} />;
}
