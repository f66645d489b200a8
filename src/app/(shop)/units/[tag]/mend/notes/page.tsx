import { database } from "@/db/connection";
import { pageUnit } from "@/door/unit";
import { newestGuide } from "@/service/models";
import { tipsOf } from "@/service/tips";
import { Notes } from "@/ui/mend/Notes";
import { MendTabs } from "@/ui/mend/MendTabs";

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
