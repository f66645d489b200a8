import { pageUnit } from "@/door/unit";
import { MendStation } from "@/ui/mend/MendStation";

export default async function MendPage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  return <MendStation view={view} canWork={actor.role !== "viewer"} />;
}
