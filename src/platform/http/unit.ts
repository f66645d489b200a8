import "server-only";

import { notFound } from "next/navigation";
import { cache } from "react";

import { outsideOf } from "@/core/profile/profile";
import { database } from "@/platform/db/connection";
import type { Actor } from "@/platform/deed/base";
import { unitView, type UnitView } from "@/features/units/view";
import { pagePerson } from "./page";

/**
 * The unit of a page with the person who looks, read once per request: `view` knows its model's outside,
 * which most pages draw and a browser loads sooner; `whole` also the inside, its parts and its guide.
 */
export const pageUnit = cache(
  async (tag: string): Promise<{ view: UnitView; whole: UnitView; actor: Actor }> => {
    const actor = await pagePerson();
    const whole = /^[A-Za-z0-9-]{1,20}$/.test(tag) ? await unitView(database(), tag, actor) : null;
    return whole ? { view: { ...whole, profile: outsideOf(whole.profile) }, whole, actor } : notFound();
  },
);
