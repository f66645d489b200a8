import { pageUnit } from "@/door/unit";
import { ReleaseStation } from "@/ui/release/ReleaseStation";

export default async function ReleasePage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  return <ReleaseStation view={view} role={actor.role} publicUrl={process.env.PUBLIC_URL ?? null} />;
}
