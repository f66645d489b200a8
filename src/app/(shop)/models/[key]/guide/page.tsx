import { notFound } from "next/navigation";

import { database } from "@/platform/db/connection";
import { typed } from "@/platform/http/http";
import { pagePerson } from "@/platform/http/page";
import { modelByKey } from "@/features/models/deeds";
import { tipsOf } from "@/features/mend/tips";
import { GuideEditor } from "@/features/models/ui/GuideEditor";

export default async function GuidePage({ params }: { params: Promise<{ key: string }> }) {
  const actor = await pagePerson();
  const db = database();
  const model = await modelByKey(db, typed((await params).key, 60));
  if (!model) notFound();
  const tips = await tipsOf(db, model.key);
  return (
    <GuideEditor
      version={model.version}
      profile={model.body}
      proposals={tips.filter((t) => t.kind === "step" && (t.state === "open" || t.state === "confirmed"))}
      canEdit={actor.role !== "viewer"}
    />
  );
}
