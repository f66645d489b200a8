import Alert from "@mui/material/Alert";

import { guideOf } from "@/core/profile/guide";
import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { newestGuide } from "@/features/models/deeds";
import { orderView } from "@/features/mend/view";
import { FastenerMap } from "@/features/mend/ui/FastenerMap";
import { say } from "@/words/frame";

export default async function MapPage({ params }: { params: Promise<{ tag: string }> }) {
  const { whole: view, actor } = await pageUnit((await params).tag);
  const db = database();
  const order = await orderView(db, view.unit.id, actor);
  const guide = order?.guide ?? (await newestGuide(db, view.profile));
  if (!guide)
    return (
      <Alert severity="info" role="note">
        {say("noGuideForThisModelYet")}
      </Alert>
    );
  return (
    <FastenerMap
      tag={view.unit.tag}
      profile={view.profile}
      guide={order ? guide : guideOf(guide, view.unit.revision)}
      items={order?.items ?? null}
    />
  );
}
