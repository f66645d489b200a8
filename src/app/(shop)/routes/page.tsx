import type { Metadata } from "next";

import { database } from "@/platform/db/connection";
import { pagePerson } from "@/platform/http/page";
import { loadModelMoney, loadRoutes, routeRecord } from "@/features/routes/deeds";
import { listModels } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { ModelMoneyForm } from "@/features/routes/ui/ModelMoneyForm";
import { RouteCatalogue } from "@/features/routes/ui/RouteCatalogue";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("routes") };

export default async function RoutesPage() {
  const actor = await pagePerson();
  const db = database();
  const [{ value: routes, version }, record, models, { settings }] = await Promise.all([
    loadRoutes(db),
    routeRecord(db),
    listModels(db),
    loadSettings(db),
  ]);
  const money = await Promise.all(
    models.map(async (m) => ({ key: m.key, name: m.body.name, ...(await loadModelMoney(db, m.body)) })),
  );
  return (
    <>
      <RouteCatalogue
        key={version}
        routes={routes}
        version={version}
        record={record}
        canEdit={actor.role === "lead"}
      />
      <ModelMoneyForm models={money} routes={routes} shop={settings} canEdit={actor.role === "lead"} />
    </>
  );
}
