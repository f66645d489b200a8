import type { Metadata } from "next";

import { database } from "@/platform/db/connection";
import { pageFor } from "@/platform/http/page";
import { loadLexicon } from "@/features/settings/lexicon";
import { loadSettings } from "@/features/settings/settings";
import { listModels } from "@/features/models/deeds";
import { loadTools } from "@/features/settings/settings";
import { bitId } from "@/core/mend/tools";
import { ToolsEditor } from "@/features/settings/ui/ToolsEditor";
import { LexiconEditor } from "@/features/settings/ui/LexiconEditor";
import { ShopSettings } from "@/features/settings/ui/ShopSettings";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("shopAndLimits") };

export default async function SettingsPage() {
  await pageFor("lead");
  const { settings, version } = await loadSettings(database());
  const words = await loadLexicon(database());
  const tools = await loadTools(database());
  const bits = (await listModels(database())).flatMap((m) =>
    (m.body.guide?.fasteners ?? []).map((f) => bitId(f.drive, f.size)),
  );
  return (
    <>
      <ShopSettings key={version} settings={settings} version={version} />
      <ToolsEditor key={`tools ${tools.version}`} {...tools} known={[...new Set(bits)]} />
      <LexiconEditor key={`words ${words.version}`} {...words} />
    </>
  );
}
