import type { Metadata } from "next";

import { database } from "@/db/connection";
import { typed } from "@/door/http";
import { pagePerson } from "@/door/page";
import { listModels } from "@/service/models";
import { loadSettings } from "@/service/settings";
import { listUnits } from "@/service/views";
import { UnitList } from "@/ui/units/UnitList";

export const metadata: Metadata = { title: "Units" };

type Query = { stage?: string; model?: string; source?: string; q?: string };

export default async function UnitsPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  await pagePerson();
  const raw = await searchParams;
  const one = (name: keyof Query) => {
    const value = raw[name];
    return typeof value === "string" && value ? typed(value, 80) : undefined;
  };
  const filter: Query = { stage: one("stage"), model: one("model"), source: one("source"), q: one("q") };
  const db = database();
  const [units, models, { settings }] = await Promise.all([listUnits(db, filter), listModels(db), loadSettings(db)]);
  return (
    <UnitList units={units} models={models.map((m) => ({ key: m.key, name: m.body.name }))} filter={filter} shop={settings} />
  );
}
