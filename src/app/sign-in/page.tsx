import type { Metadata } from "next";

import { houseDatabase } from "@/platform/db/connection";
import { innerPath } from "@/contract/inner-path";
import { loadSettings } from "@/features/settings/settings";
import { SignIn } from "@/features/account/ui/SignIn";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("signIn") };

export default async function SignInPage({
  searchParams,
}: {
  searchParams: Promise<{ next?: string | string[] }>;
}) {
  const { settings } = await loadSettings(houseDatabase());
  return <SignIn shop={settings.shopName} next={innerPath((await searchParams).next)} />;
}
