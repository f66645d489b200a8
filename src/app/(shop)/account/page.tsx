import type { Metadata } from "next";

import { houseDatabase } from "@/db/connection";
import { publicAddress } from "@/door/address";
import { pagePerson } from "@/door/page";
import { feedsOf } from "@/service/feed";
import { sessionsOf } from "@/service/sessions";
import { loadSettings } from "@/service/settings";
import { Account } from "@/ui/people/Account";
import { Calendars } from "@/ui/people/Calendars";
import { Sessions } from "@/ui/people/Sessions";
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
        <Calendars feeds={await feedsOf(houseDatabase(), actor.id)} address={await publicAddress()} shop={settings} />
      )}
    </>
  );
}
