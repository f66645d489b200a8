import type { Metadata } from "next";

import { database } from "@/platform/db/connection";
import { typed } from "@/platform/http/http";
import { pagePerson } from "@/platform/http/page";
import { modelNames } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { listUnits, UNIT_SORTS, type UnitFilter, type UnitPage } from "@/features/units/list";
import { UNIT_PAGE_SIZES } from "@/contract/unit-pages";
import { UnitList } from "@/features/units/ui/UnitList";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("units") };

export default async function UnitsPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  await pagePerson();
  const raw = await searchParams;
  const one = (name: string) => {
    const value = raw[name];
    return typeof value === "string" && value ? typed(value, 80) : undefined;
  };
  const [by, way] = (one("sort") ?? "tag.desc").split(".");
  const page: UnitPage = {
    page: Math.max(0, Math.min(100_000, (Number(one("page")) || 1) - 1)),
    size: UNIT_PAGE_SIZES.find((s) => s === Number(one("size"))) ?? UNIT_PAGE_SIZES[0]!,
    sort: { by: UNIT_SORTS.find((s) => s === by) ?? "tag", down: way !== "asc" },
  };
  const filter: UnitFilter = { stage: one("stage"), model: one("model"), source: one("source"), q: one("q") };
  const db = database();
  const [{ units, total }, models, { settings }] = await Promise.all([
    listUnits(db, filter, page),
    modelNames(db),
    loadSettings(db),
  ]);
  return <UnitList units={units} total={total} page={page} models={models} filter={filter} shop={settings} />;
}
