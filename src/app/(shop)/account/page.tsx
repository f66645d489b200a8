import type { Metadata } from "next";

import { pagePerson } from "@/door/page";
import { Account } from "@/ui/people/Account";

export const metadata: Metadata = { title: "Your password" };

export default async function AccountPage() {
  const actor = await pagePerson();
  return <Account name={actor.name} role={actor.role} />;
}
