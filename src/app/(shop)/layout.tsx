import { randomUUID } from "node:crypto";
import type { ReactNode } from "react";

import { database, inPractice } from "@/platform/db/connection";
import { pagePerson } from "@/platform/http/page";
import { trays } from "@/features/bench/view";
import { loadSettings } from "@/features/settings/settings";
import { openWaits } from "@/features/waits/deeds";
import { Frame } from "@/ui/frame/Frame";
import { FirstStart } from "@/features/account/ui/FirstStart";

export default async function ShopLayout({ children }: { children: ReactNode }) {
  const person = await pagePerson();
  const [onTrays, waits, { settings, version }] = await Promise.all([
    trays(database()),
    openWaits(database()),
    loadSettings(database()),
  ]);
  const unnamed = settings.shopName === "" && !inPractice();
  return (
    <Frame
      person={{ id: person.id, name: person.name, role: person.role }}
      trays={onTrays}
      waits={waits}
      practice={inPractice()}
      drawn={randomUUID()}
    >
      {unnamed && person.role === "lead" ? <FirstStart settings={settings} version={version} /> : children}
    </Frame>
  );
}
