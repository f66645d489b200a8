import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { calibrateView } from "@/features/mend/calibrate";
import { unitById } from "@/features/case/facts";
import { Calibrate } from "@/features/mend/ui/Calibrate";

export default async function CalibratePage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  const db = database();
  return (
    <Calibrate
      unit={{ id: view.unit.id, tag: view.unit.tag }}
      model={view.profile.name}
      view={await calibrateView(db, await unitById(db, view.unit.id))}
      shop={view.settings}
      canWork={actor.role !== "viewer" && view.unit.ending === null && !view.unit.swollen}
    />
  );
}
