import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { heatOf } from "@/features/mend/heat";
import { newestGuide } from "@/features/models/deeds";
import { loadTools } from "@/features/settings/settings";
import { Solder } from "@/features/mend/ui/Solder";

export default async function SolderPage({ params }: { params: Promise<{ tag: string }> }) {
  const { whole: view, actor } = await pageUnit((await params).tag);
  const db = database();
  const [heat, guide, tools] = await Promise.all([
    heatOf(db, view.unit.id),
    newestGuide(db, view.profile),
    loadTools(db),
  ]);
  const chips = (view.profile.wiring?.nodes ?? []).filter((n) => n.kind === "chip").map((n) => n.name);
  return (
    <Solder
      unit={{ id: view.unit.id, tag: view.unit.tag }}
      jobs={guide?.solder ?? []}
      chips={chips}
      owned={tools.value}
      heat={heat}
      leads={(guide?.cables ?? []).flatMap((k) => (k.leads ? [{ name: k.name, leads: k.leads }] : []))}
      shop={view.settings}
      canWork={actor.role !== "viewer" && view.unit.ending === null && !view.unit.swollen}
    />
  );
}
