import type { Metadata } from "next";
import { notFound } from "next/navigation";

import { database } from "@/platform/db/connection";
import { typed } from "@/platform/http/http";
import { pagePerson } from "@/platform/http/page";
import { batchView } from "@/features/stock/batch-view";
import { loadSettings } from "@/features/settings/settings";
import { loadCatalogue } from "@/features/stock/catalogue";
import { Batch } from "@/features/parts/ui/Batch";

type Props = { params: Promise<{ code: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: (await params).code };
}

export default async function BatchPage({ params }: Props) {
  const actor = await pagePerson();
  const view = await batchView(database(), typed((await params).code, 24).toUpperCase());
  if (!view) notFound();
  const { value: catalogue } = await loadCatalogue(database());
  const { settings } = await loadSettings(database());
  const part = catalogue.parts.find((p) => p.code === view.batch.part) ?? null;
  const inside = part?.contents.map((c) => ({
    ...c,
    name: catalogue.parts.find((p) => p.code === c.part)?.name ?? c.part,
    tool: catalogue.parts.find((p) => p.code === c.part)?.class === "tool",
  }));
  return (
    <Batch
      key={`${view.batch.code} ${view.batch.version}`}
      view={view}
      part={part}
      inside={inside ?? []}
      offers={catalogue.offers}
      supplierName={
        catalogue.suppliers.find((s) => s.id === view.batch.supplier)?.name ?? view.batch.supplier
      }
      shop={settings}
      canWork={actor.role !== "viewer"}
      canLead={actor.role === "lead"}
    />
  );
}
