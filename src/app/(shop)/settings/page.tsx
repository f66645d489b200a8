import type { Metadata } from "next";

import { database } from "@/db/connection";
import { pageFor } from "@/door/page";
import { loadLexicon } from "@/service/lexicon";
import { loadSettings } from "@/service/settings";
import { listModels } from "@/service/models";
import { loadTools } from "@/service/work-order";
import { bitId } from "@/core/mend/tools";
import { ToolsEditor } from "@/ui/people/ToolsEditor";
import { LexiconEditor } from "@/ui/people/LexiconEditor";
import { ShopSettings } from "@/ui/people/ShopSettings";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("shopAndLimits") };

export default async function SettingsPage() {
  await pageFor("lead");
  const { settings, version } = await loadSettings(database());
  const words = await loadLexicon(database());
  const tools = await loadTools(database());
  const bits = (await listModels(database())).flatMap((m) => (m.body.guide?.fasteners ?? []).map((f) => bitId(f.drive, f.size)));
  return (
    <>
      <ShopSettings key={version} settings={settings} version={version} />
      <ToolsEditor key={`tools ${tools.version}`} {...tools} known={[...new Set(bits)]} />
      <LexiconEditor key={`words ${words.version}`} {...words} />
    </>
  );
}
