import { pageUnit } from "@/door/unit";
import { FindStation } from "@/ui/find/FindStation";

export default async function FindPage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  return <FindStation view={view} role={actor.role} />;
}
