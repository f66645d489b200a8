import type { Metadata } from "next";

import { database } from "@/db/connection";
import { pageFor } from "@/door/page";
import { listPeople } from "@/service/people";
import { People } from "@/ui/people/People";

export const metadata: Metadata = { title: "People" };

export default async function PeoplePage() {
  await pageFor("lead");
  return <People people={await listPeople(database())} />;
}
