import type { Metadata } from "next";

import { houseDatabase } from "@/db/connection";
import { innerPath } from "@/contract/inner-path";
import { loadSettings } from "@/service/settings";
import { SignIn } from "@/ui/people/SignIn";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("signIn") };

export default async function SignInPage({ searchParams }: { searchParams: Promise<{ next?: string | string[] }> }) {
  const { settings } = await loadSettings(houseDatabase());
  return <SignIn shop={settings.shopName} next={innerPath((await searchParams).next)} />;
}
