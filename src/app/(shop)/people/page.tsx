import type { Metadata } from "next";

import { houseDatabase } from "@/db/connection";
import { pageFor } from "@/door/page";
import { listPeople } from "@/service/people";
import { workingHours } from "@/service/dayplan";
import { People } from "@/ui/people/People";
import { WorkingHours } from "@/ui/people/WorkingHours";
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
