import { pageUnit } from "@/door/unit";
import { IntakeStation } from "@/ui/intake/IntakeStation";

export default async function IntakePage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  return <IntakeStation view={view} canWork={actor.role !== "viewer"} />;
}
