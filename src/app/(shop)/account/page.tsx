import type { Metadata } from "next";

import { houseDatabase } from "@/platform/db/connection";
import { publicAddress } from "@/platform/http/address";
import { pagePerson } from "@/platform/http/page";
import { feedsOf } from "@/features/account/feed";
import { sessionsOf } from "@/features/account/sessions";
import { loadSettings } from "@/features/settings/settings";
import { Account } from "@/features/account/ui/Account";
import { Calendars } from "@/features/account/ui/Calendars";
import { Sessions } from "@/features/account/ui/Sessions";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("passwordSessionsAndCalendar") };

export default async function AccountPage() {
  const actor = await pagePerson();
  const { settings } = await loadSettings(houseDatabase());
  return (
    <>
      <Account name={actor.name} role={actor.role} />
      <Sessions sessions={await sessionsOf(houseDatabase(), actor)} shop={settings} />
      {actor.role !== "viewer" && (
        <Calendars
          feeds={await feedsOf(houseDatabase(), actor.id)}
          address={await publicAddress()}
          shop={settings}
        />
      )}
    </>
  );
}
