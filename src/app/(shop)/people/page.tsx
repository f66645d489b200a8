import type { Metadata } from "next";

import { houseDatabase } from "@/platform/db/connection";
import { pageFor } from "@/platform/http/page";
import { listPeople } from "@/features/people/deeds";
import { workingHours } from "@/features/day/deeds";
import { People } from "@/features/people/ui/People";
import { WorkingHours } from "@/features/settings/ui/WorkingHours";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("people") };

export default async function PeoplePage() {
  await pageFor("lead");
  const people = await listPeople(houseDatabase());
  const hours = (await workingHours(houseDatabase())).flatMap((h) => {
    const person = people.find((p) => p.id === h.id);
    return person && person.role !== "viewer" ? [{ ...h, name: person.name }] : [];
  });
  return (
    <>
      <People people={people} />
      <WorkingHours people={hours} />
    </>
  );
}
