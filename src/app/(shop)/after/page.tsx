import type { Metadata } from "next";

import { database } from "@/platform/db/connection";
import { pagePerson } from "@/platform/http/page";
import { afterCounts, coversEnding, readyToGo, recentSales, returnsOf } from "@/features/after/view";
import { loadSettings } from "@/features/settings/settings";
import { paperBook } from "@/features/papers/view";
import { After } from "@/features/after/ui/After";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("after") };

const SOON_DAYS = 14;
const SHOWN = 30;

export default async function AfterPage() {
  await pagePerson();
  const db = database();
  const [{ settings }, counts, ready, ending, returns, sales, papers] = await Promise.all([
    loadSettings(db),
    afterCounts(db, SOON_DAYS),
    readyToGo(db, SHOWN),
    coversEnding(db, SOON_DAYS, SHOWN),
    returnsOf(db, null, SHOWN),
    recentSales(db, SHOWN),
    paperBook(db, SHOWN),
  ]);
  return (
    <After
      counts={counts}
      ready={ready}
      ending={ending}
      returns={returns}
      sales={sales}
      papers={papers}
      soonDays={SOON_DAYS}
      shop={settings}
    />
  );
}
