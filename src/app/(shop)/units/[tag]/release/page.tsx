import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { releaseView } from "@/features/release/view";
import { ReleaseStation } from "@/features/release/ui/ReleaseStation";
import { dayOf } from "@/core/days/days";

export default async function ReleasePage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  return (
    <ReleaseStation
      view={view}
      release={await releaseView(database(), view.unit.id)}
      role={actor.role}
      publicUrl={process.env.PUBLIC_URL ?? null}
      today={dayOf(new Date(), view.settings.timeZone)}
    />
  );
}
