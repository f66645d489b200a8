import { database } from "@/db/connection";
import { pageUnit } from "@/door/unit";
import { releaseView } from "@/service/release-view";
import { ReleaseStation } from "@/ui/release/ReleaseStation";
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
