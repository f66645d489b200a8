import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { newestGuide } from "@/features/models/deeds";
import { tipsOf } from "@/features/mend/tips";
import { Notes } from "@/features/mend/ui/Notes";
import { MendTabs } from "@/features/mend/ui/MendTabs";

export default async function NotesPage({ params }: { params: Promise<{ tag: string }> }) {
  const { whole: view, actor } = await pageUnit((await params).tag);
  const db = database();
  const guide = await newestGuide(db, view.profile);
  return (
    <>
      <MendTabs tag={view.unit.tag} />
      <Notes
        model={{ key: view.profile.id, name: view.profile.name }}
        unitId={view.unit.id}
        steps={(guide?.steps ?? []).map((s) => ({ id: s.id, title: s.title }))}
        tips={await tipsOf(db, view.profile.id)}
        shop={view.settings}
        canWork={actor.role !== "viewer"}
      />
    </>
  );
}
