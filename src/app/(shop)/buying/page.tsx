import type { Metadata } from "next";

import { database } from "@/platform/db/connection";
import { typed } from "@/platform/http/http";
import { pagePerson } from "@/platform/http/page";
import { ACCEPTED_LOSS, buyBase, WISHED_MARGIN } from "@/features/buying/deeds";
import { buyingView } from "@/features/buying/view";
import { loadSettings } from "@/features/settings/settings";
import { Buying } from "@/features/buying/ui/Buying";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("buying") };

export default async function BuyingPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const actor = await pagePerson();
  const { model: asked, lot } = await searchParams;
  const view = await buyingView(database(), typeof lot === "string" && lot.trim() ? typed(lot, 40) : null);
  const key = typeof asked === "string" ? typed(asked, 60) : (view.models[0]?.key ?? "");
  const { settings } = await loadSettings(database());
  const base = await buyBase(database(), key);
  return (
    <Buying
      view={view}
      modelKey={base ? key : ""}
      base={base}
      shop={settings}
      canWork={actor.role !== "viewer"}
      wish={{ margin: WISHED_MARGIN, loss: ACCEPTED_LOSS }}
    />
  );
}
