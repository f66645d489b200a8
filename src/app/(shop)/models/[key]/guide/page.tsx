import { notFound } from "next/navigation";

import { database } from "@/db/connection";
import { typed } from "@/door/http";
import { pagePerson } from "@/door/page";
import { modelByKey } from "@/service/models";
import { tipsOf } from "@/service/tips";
import { GuideEditor } from "@/ui/models/GuideEditor";

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
