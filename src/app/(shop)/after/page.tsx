import type { Metadata } from "next";

import { database } from "@/db/connection";
import { pagePerson } from "@/door/page";
import { coversEnding, readyToGo, recentSales, returnsOf } from "@/service/after-sale";
import { loadSettings } from "@/service/settings";
import { After } from "@/ui/after/After";

export const metadata: Metadata = { title: "After" };

const SOON_DAYS = 14;

export default async function AfterPage() {
  await pagePerson();
  const db = database();
  const [{ settings }, ready, ending, returns, sales] = await Promise.all([
    loadSettings(db),
    readyToGo(db),
    coversEnding(db, SOON_DAYS),
    returnsOf(db, null, 60),
    recentSales(db, 60),
  ]);
  return <After ready={ready} ending={ending} returns={returns} sales={sales} soonDays={SOON_DAYS} shop={settings} />;
}
