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
  const view = /^[A-Za-z0-9-]{1,20}$/.test(tag) ? await unitView(database(), tag, actor) : null;
  return view ? { view, actor } : notFound();
});
