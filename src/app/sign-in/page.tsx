import type { Metadata } from "next";

import { database } from "@/db/connection";
import { loadSettings } from "@/service/settings";
import { SignIn } from "@/ui/people/SignIn";

export const metadata: Metadata = { title: "Sign in" };

/** Only an address of this application may follow a sign-in. */
const inner = (next: string | undefined): string => (next && /^\/(?![/\\])/.test(next) ? next : "/");

export default async function SignInPage({ searchParams }: { searchParams: Promise<{ next?: string }> }) {
  const { settings } = await loadSettings(database());
  return <SignIn shop={settings.shopName} next={inner((await searchParams).next)} />;
}
