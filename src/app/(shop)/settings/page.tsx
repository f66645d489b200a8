import type { Metadata } from "next";

import { database } from "@/db/connection";
import { pageFor } from "@/door/page";
import { loadLexicon } from "@/service/find-view";
import { loadSettings } from "@/service/settings";
import { LexiconEditor } from "@/ui/people/LexiconEditor";
import { ShopSettings } from "@/ui/people/ShopSettings";

export const metadata: Metadata = { title: "Shop and limits" };

export default async function SettingsPage() {
  await pageFor("lead");
  const { settings, version } = await loadSettings(database());
  const words = await loadLexicon(database());
  return (
    <>
      <ShopSettings key={version} settings={settings} version={version} />
      <LexiconEditor key={`words ${words.version}`} {...words} />
    </>
  );
}
