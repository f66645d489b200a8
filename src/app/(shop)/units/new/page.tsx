import type { Metadata } from "next";

import { outsideOf } from "@/core/profile/profile";
import { database } from "@/db/connection";
import { pageFor } from "@/door/page";
import { boughtListing } from "@/service/buying";
import { listModels } from "@/service/models";
import { loadSettings } from "@/service/settings";
import { nextTag } from "@/service/units";
import { IntakeForm } from "@/ui/intake/IntakeForm";

export const metadata: Metadata = { title: "Take in" };

export default async function NewUnitPage({ searchParams }: { searchParams: Promise<{ listing?: string | string[] }> }) {
  await pageFor("technician", "lead");
  const db = database();
  const [models, lots, customers, tag, { settings }] = await Promise.all([
    listModels(db),
    db("lot").orderBy("code", "desc").select("id", "code", "seller"),
    db("customer").orderBy("name").select("id", "name"),
    nextTag(db),
    loadSettings(db),
  ]);
  const asked = (await searchParams).listing;
  return (
    <IntakeForm
      models={models.map((m) => outsideOf(m.body))}
      lots={lots}
      customers={customers}
      nextTag={tag}
      shop={settings}
      listing={typeof asked === "string" ? await boughtListing(db, asked) : null}
    />
  );
}
