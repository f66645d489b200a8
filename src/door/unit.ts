import "server-only";

import { notFound } from "next/navigation";
import { cache } from "react";

import { database } from "@/db/connection";
import type { Actor } from "@/service/base";
import { unitView, type UnitView } from "@/service/views";
import { pagePerson } from "./page";

/** The unit of a page with the person who looks, read once per request. */
export const pageUnit = cache(async (tag: string): Promise<{ view: UnitView; actor: Actor }> => {
  const actor = await pagePerson();
  const view = await unitView(database(), decodeURIComponent(tag), actor);
  return view ? { view, actor } : notFound();
});
