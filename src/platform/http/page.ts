import "server-only";

import { notFound, redirect } from "next/navigation";
import { cache } from "react";

import type { Role } from "@/contract/roles";
import type { Actor } from "@/platform/deed/base";
import { currentPerson } from "./session";

/** The signed-in person of a page, read once per request; others are sent to sign in. */
export const pagePerson = cache(async (): Promise<Actor> => (await currentPerson()) ?? redirect("/sign-in"));

/** A page for some roles only: for others it does not exist. */
export async function pageFor(...roles: Role[]): Promise<Actor> {
  const actor = await pagePerson();
  return roles.includes(actor.role) ? actor : notFound();
}
